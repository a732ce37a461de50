"""The help pages, their key tables made from the commands."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from yawning_lantern.desktop.shell.commands import Command

_PAGES = {
    "idea": (
        "Idea", (
            "Choose a structure in the gallery: type some letters of its name, or look under its heading.",
            "Say what you know: what it must hold, what size it shall be, or what sheet is at hand. One is enough. The "
            "picture beside it shows what comes of it.",
            "<b>Work it out</b> makes the design and goes to Form, where everything can be changed.",
        ), (("Gallery", "arrow keys choose, Enter begins in the usual size"),),
    ),
    "stock": (
        "Stock", (
            "The drawer holds your papers, boards, films, glue and tape, ready-made things and tools. Find one by "
            "typing; tell its weight (216 or 80 lb cover), its sheet, both its faces, and how many there are.",
            "Drag a swatch onto a part of the nest or onto the standing view, where it may also become a mat on that "
            "face. With keys: choose a part, choose a swatch, Enter.",
            "Measure the thickness of ten sheets together, and say so: every clearance follows from it.",
            "On top stands what this design uses, how many sheets it takes and what is missing. A triangle tells what "
            "a paper cannot do, or a pattern that ends on its head; <b>Mend it</b> offers what would help.",
        ), (("The drawer", "arrow keys choose, Enter uses it for the chosen part; Ctrl+F finds"),),
    ),
    "form": (
        "Form", (
            "Choose a part in the nest. Its measurements stand at the right: bold ones are yours, the slanted ones in "
            "a dashed field were worked out. Type as you speak: <i>2 7/8</i>, <i>73mm</i>, <i>1/16 more</i>.",
            "Put structures on: drag one from below the nest onto a part, or press the keys for it. The faces that "
            "would take it are marked in the standing view.",
            "Drag a score flag above the flat piece; it snaps to your board's grooves and everything else follows.",
            "Look at the <b>cutaway</b>: every gap is drawn and figured. A crossed square clashes, a wedge is tight, "
            "two bars are snug, a disc is easy, a ring is loose. Choose a fit in the list to see its sum and what "
            "would cure it.",
            "F11 makes the view that has the keys as large as the page.",
        ), (
            ("Standing view", "arrow keys turn, + and − zoom, 0 fits; drag turns, Shift and drag moves, wheel zooms"),
            ("Flat view", "F takes the next score flag, arrow keys move it a groove; Page Up and Down turn pieces"),
            ("Cutaway", "the wheel or + and − zoom, drag moves, double click or 0 fits"),
            ("Nest", "up and down choose; drag a part onto another to move it there"),
        ),
    ),
    "opening": (
        "Opening", (
            "Play how it opens. A wedge is a part that moves; a crossed square is where sheets meet, a triangle where "
            "a panel comes to rest.",
            "Drag a name up or down to try another order. “Try to break it” sweeps again with a margin.",
        ), (("Lanes", "left and right step, space plays, Home and End go to shut and open; drag along them to scrub"),),
    ),
    "sheets": (
        "Sheets", (
            "What is cut from which sheet: pieces as they lie, the cuts in the order made. Choose a sheet to see its "
            "cuts numbered and listed with the fence's settings; choose a piece to choose its part.",
            "“It cannot be done with fewer” is proven; else the least that is proven is told beside what was found.",
            "“One setting” plans for all sheets on the table, with the fence set as seldom as can be. More copies "
            "share sheets: the bars show how many each number takes.",
            "Drag a piece to another place or sheet of its paper: it is locked there, and what that costs is told. "
            "<b>Lay the rest anew</b> keeps what is locked. Hatched corners are off-cuts too.",
        ), (("Sheets", "arrow keys choose a sheet, Space a piece on it, Shift and an arrow put it on the next"),),
    ),
    "bench": (
        "Bench", (
            "One step at a time, with one number: what lies at the fence, which face is up. Space when it is done, "
            "Backspace to go back. It remembers where you were, even after the lamp went out.",
            "The order is one in which every joint can still be reached; a step says why it comes now. While glue sets "
            "the next pieces are prepared; timers stand at the right and ring.",
            "With several copies each step is done to all of them before the next; click a number to check one off.",
            "<b>All steps</b> folds out the whole list: click a step to go there. Blades and hot glue: the maker's "
            "label has the last word.",
        ), (("The step", "Space or Enter: done; Backspace: back; 1 to 9 check a copy off"),),
    ),
}  # fmt: skip
_STEPS = (
    "Begin on <b>Idea</b>.", "Shape it on <b>Form</b>.", "See on <b>Opening</b> that it opens.",
    "Cut as <b>Sheets</b> lists it: each cut right across, the fence where it says.",
    "Print the templates at 100 % and measure the bar first. Make a trial from copy paper before you cut dear paper.",
)  # fmt: skip
_CAUTION = "Knives, trimmers and hot glue hurt: the maker's label of your tools and local rules have the last word."


def _rows(pairs: Sequence[tuple[str, str]]) -> str:
    return "".join(f"<tr><td><b>{escape(a)}</b></td><td>{escape(b)}</td></tr>" for a, b in pairs)


def help_html(page: str, commands: Sequence[Command]) -> str:
    """Help for a page, its keys, the first steps, and the keys of the commands."""
    title, notes, keys = _PAGES[page]
    said = "".join(f"<li>{note}</li>" for note in notes)
    steps = "".join(f"<li>{step}</li>" for step in _STEPS)
    views = f"<h3>Keys in the pictures</h3><table cellpadding=4>{_rows(keys)}</table>" if keys else ""
    table = _rows([(c.shortcut, c.plain) for c in commands if c.shortcut])
    return (
        f"<h2>{title}</h2><ul>{said}</ul>{views}<h2>First steps</h2><ol>{steps}</ol><p>{_CAUTION}</p>"
        f"<h2>Keys everywhere</h2><table cellpadding=3>{table}</table>"
    )


def about_html(version: str) -> str:
    """What the program is."""
    return (
        f"<h2>Yawning Lantern {escape(version)}</h2><p>A workbench for paper crafters who design fold-out structures: "
        "it works out every nested offset, clearance, pleat and score, folds the thing with the paper's real "
        "thickness, and proves that it shuts and opens.</p><p>Free under the MIT licence. Set in Lato, under the "
        f"SIL Open Font Licence; both licences lie beside the program.</p><p>{_CAUTION}</p>"
    )
