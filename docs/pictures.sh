#!/usr/bin/env bash
# Paints every picture of docs/screenshots anew. Look at each before you keep it.
set -euo pipefail
cd "$(dirname "$0")/.."
shots=docs/screenshots
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT

for page in idea stock opening sheets; do ./lantern demo --shot $shots/$page.png --page $page; done
./lantern demo --shot $shots/bench.png --page bench --step 29
./lantern demo --shot $shots/find-book.png --page idea --do find_book
./lantern demo --shot $shots/form-light.png --page form
./lantern demo --shot $shots/form-dark.png --page form --dark
./lantern demo --shot $shots/form-open.png --page form --position 0.55

bag=$made/bag.lantern
root=$(./lantern new "$bag" --family gate-bag --stock card-176 --set page-width=4in --set page-height=5in --name "Saltmarsh gift bag" | cut -d" " -f1)
./lantern edit "$bag" rename "$root" "Saltmarsh gift bag"
./lantern edit "$bag" put mat --on "$root":bag-front --stock pattern-190 --name "Wave mat"
./lantern open "$bag" --shot $shots/form-bag.png --page form --position 0.62 --sides

book=$made/book.lantern
root=$(./lantern new "$book" --family accordion-spine --stock card-270 --set pages=4 --set page-width=4in --set height=5.75in | cut -d" " -f1)
./lantern edit "$book" rename "$root" "Programme book"
number=1
for name in Welcome "Star chart" "Tide table" Thanks; do
    ./lantern edit "$book" put mat --on "$root":page-$number-recto --stock pattern-160 --name "$name"
    number=$((number + 1))
done
./lantern edit "$book" put belly-band --on "$root":around --stock pattern-190
./lantern open "$book" --shot $shots/form-book.png --page form --position 0.75 --part mat-2

own=$made/own.lantern
./lantern new "$own" --family grid-sheet --set "widths=3 + 3 + 3" --set "heights=3 + 3" --set "slits=c1r2/c2r2 c2r2/c3r2" \
    --set "script=over c2r1/c2r2; over c1r1/c1r2; over c3r1/c3r2; glue c1r1/c1r2 left right; over c2r1/c1r1" >/dev/null
./lantern open "$own" --shot $shots/own-sheet.png --page form --do fold_anew

./lantern open src/yawning_lantern/examples/observatory-box.lantern --shot $shots/form-tower.png --page form

# the demo set in an order that does not work: the inner layer before its box
QT_QPA_PLATFORM=offscreen .venv/bin/python - $shots/opening-stop.png <<'PYTHON'
import sys, tempfile, time
from pathlib import Path
from yawning_lantern.desktop.shell.application import make_application, make_program, new_window
from yawning_lantern.desktop.shot import settle

app = make_application()
with tempfile.TemporaryDirectory() as folder:
    program = make_program(Path(folder))
    program.settings.setValue("toured", True)
    window = new_window(program)
    window.resize(1280, 800)
    window.show()
    settle(app, window)
    window.bench.files.open_demo()
    settle(app, window)
    window.bench.show_page("opening")
    settle(app, window)
    page = window.bench.opening
    motions = window.bench.session.study.assembly.motions
    order = [step.motion for step in page.work.current.opening.steps]
    layer = next(m for m in order if "Dusk layer" in motions[m].label)
    page.work.ask([order[0], layer])
    settle(app, window)
    page.go_to(2.0)
    for _ in range(50):  # edges are smoothed when nothing has moved for a moment
        settle(app, window)
        time.sleep(0.01)
    window.grab().save(sys.argv[1], "PNG")
    window.close()
PYTHON
