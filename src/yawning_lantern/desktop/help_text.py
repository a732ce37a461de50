"""The help page, its key table made from the commands."""

from __future__ import annotations

from html import escape

from yawning_lantern.desktop.commands import COMMANDS

_STEPS = (
    "Begin on <b>Idea</b>: say what it must hold, what size it shall be, or what sheet you have.",
    "On <b>Form</b>, choose a part in the nest. Its measurements stand at the right: bold ones are yours, the slanted "
    "ones in a dashed field were worked out. Type as you speak: <i>2 7/8</i>, <i>73mm</i>, <i>1/16 more</i>.",
    "Drag a score flag above the flat piece; it snaps to your board's grooves and everything else follows.",
    "Look at the <b>cutaway</b>: every gap is drawn and figured. A crossed square clashes, a wedge is tight, two bars "
    "are snug, a disc is easy, a ring is loose. Choose a fit in the list to see its sum and what would cure it.",
    "On <b>Opening</b>, play how it opens. A wedge is a part that moves; a crossed square is where sheets meet, "
    "a triangle where a panel comes to rest. Drag a name up or down to try another order.",
    "Print the templates at 100 % and measure the bar first. Make a trial from copy paper before you cut dear paper.",
)
_CAUTION = "Knives, trimmers and hot glue hurt: the maker's label of your tools and local rules have the last word."
_VIEWS = (
    ("Standing view", "arrow keys turn, + and − zoom, 0 fits; drag turns, Shift and drag moves, the wheel zooms"),
    ("Flat view", "F takes the next score flag, arrow keys move it one groove"),
    ("Cutaway", "the wheel or + and − zoom, drag moves, double click or 0 fits"),
    ("Opening", "left and right step, space plays, Home and End go to shut and open; drag along the lanes to scrub"),
    ("Nest", "up and down choose; drag a part onto another to move it there"),
)


def help_html() -> str:
    """First steps, keys of the views, keys of the commands."""
    steps = "".join(f"<li>{step}</li>" for step in _STEPS)
    views = "".join(f"<tr><td><b>{name}</b></td><td>{escape(words)}</td></tr>" for name, words in _VIEWS)
    keys = "".join(
        f"<tr><td><b>{escape(c.shortcut)}</b></td><td>{escape(c.words.replace('&', ''))}</td></tr>"
        for c in COMMANDS
        if c.shortcut
    )
    return (
        f"<h2>First steps</h2><ol>{steps}</ol><p>{_CAUTION}</p>"
        f"<h2>In the pictures</h2><table cellpadding=4>{views}</table>"
        f"<h2>Keys</h2><table cellpadding=3>{keys}</table>"
    )
