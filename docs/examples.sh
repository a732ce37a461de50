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
    for command in plan scores opening bench-plan; do
        case $name-$command in observatory-box-bench-plan) continue ;; esac # five hundred lines of the same few acts
        printf '\n```\n$ lantern %s %s.lantern --units %s\n' "$command" "$name" "$units"
        .venv/bin/python -m yawning_lantern.cli.main "$command" "$file" --units "$units"
        printf '```\n'
    done
done
printf '\n## Books from one sheet\n'
for wish in "4x4" "4x4 --pages 10 --hide-back" "4x4 --from-rim --open-top 2" "4x4 --upright 16" "6x2 --pockets 2" "4x3 --flaps" \
    "5x4 --upright 8 --most 3" "3x3"; do
    printf '\n```\n$ lantern fold-search --grid %s\n' "$wish"
    # shellcheck disable=SC2086  # words of a wish
    .venv/bin/python -m yawning_lantern.cli.main fold-search --grid $wish
    printf '```\n'
done
