#!/bin/sh
# What the commands say of the examples, as a page: sh docs/examples.sh > docs/examples.md
cd "$(dirname "$0")/.." || exit 1
cat <<'HEAD'
# The examples, told in full

What the commands say of the designs that come with the program (in the menu: Design, Open an example). Printed with
`sh docs/examples.sh > docs/examples.md`; a test holds every answer, so read what has changed before it is kept.
HEAD
for file in src/yawning_lantern/examples/*.lantern; do
    name=$(basename "$file" .lantern)
    printf '\n## %s\n' "$name"
    units=in
    case $name in observatory-box | tide-table-book) units=mm ;; esac
    for command in plan opening bench-plan; do
        case $name-$command in observatory-box-bench-plan) continue ;; esac # five hundred lines of the same few acts
        printf '\n```\n$ lantern %s %s.lantern --units %s\n' "$command" "$name" "$units"
        .venv/bin/python -m yawning_lantern.cli.main "$command" "$file" --units "$units"
        printf '```\n'
    done
done
