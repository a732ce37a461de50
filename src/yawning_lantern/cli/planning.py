"""`families`, `plan` and `opening`: what there is, what is cut and whether it fits, and how it opens."""

from __future__ import annotations

import argparse
import json
import sys
from typing import Any

from yawning_lantern.cli.designs import told_design
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.exchange.film import write_film, write_strip
from yawning_lantern.exchange.mesh import write_pose
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.plan import cut_list, plan, readings, score_tool, to_buy
from yawning_lantern.fit import formula, headline, sentence
from yawning_lantern.fold import weight
from yawning_lantern.measure import MM_PER_INCH, Units, format_fine, format_size, speak
from yawning_lantern.on_use import Late
from yawning_lantern.structures import Family, families, setting_words
from yawning_lantern.study import Resolved, Study, opening_of, sound, state_at
from yawning_lantern.study.opened import (
    closed_facts,
    contact_words,
    cure_words,
    cures,
    knot_words,
    reach,
    shut_words,
    step_words,
    verdict,
)
from yawning_lantern.study.page_map import heads, is_folded, pages_of, pockets_of
from yawning_lantern.study.stock_warnings import stock_warnings
from yawning_lantern.words import in_a_row

_PAGES = {
    option: Late(f"yawning_lantern.exchange.{module}")
    for option, module in (
        ("markdown", "reference"), ("choices", "choices"), ("faces", "faces"), ("slips", "slips"),
        ("limits", "limits"),
    )
}  # fmt: skip
"""The pages made from the code, by their options; each is loaded when it is asked for."""


def _told(kind: Family) -> dict[str, Any]:
    return {
        "id": kind.id,
        "name": kind.name,
        "about": kind.about,
        "starts": list(kind.starts),
        "faces": [{"id": face, "label": label} for face, label in kind.faces],
        "parameters": [
            {
                "id": p.id,
                "label": p.label,
                "kind": p.kind,
                "group": p.group,
                "help": p.help,
                "words": list(p.words),
                "least": p.least,
                "most": p.most,
                "default": p.default,
                "derived": p.derived,
            }
            for p in kind.parameters
        ],
    }


def tell_families(options: argparse.Namespace) -> int:
    """List the families."""
    for option, module in _PAGES.items():
        if getattr(options, option):
            print(module.page(), end="")
            return 0
    if options.json:
        print(json.dumps({"units": "mm", "families": [_told(kind) for kind in families().values()]}, indent=2))
        return 0
    for kind in families().values():
        print(f"{kind.id}: {kind.about}")
        for p in kind.parameters:
            words = f" [{', '.join(p.words)}]" if p.words else ""
            print(f"    {p.id:16} {p.kind:7}{words} {p.help}")
        print()
    return 0


def tell_plan(options: argparse.Namespace) -> int:
    """Work out a design and tell it; 1 where something clashes."""
    design = told_design(options)
    units: Units = options.units or design.units
    study = sound(Study(design))
    if options.json:
        told = plan(study, units, opening_of(study), stock_warnings(study))
        print(json.dumps(told, indent=2, ensure_ascii=False))
    else:
        _print_plan(study, units)
    if options.pdf:
        write_templates(study, options.pdf, options.paper, units)
    if options.csv:
        write_atomically(options.csv, cut_list(study, units).encode("utf-8"))
    return 1 if study.has_clash else 0


def _print_folded(study: Study, r: Resolved, units: Units) -> None:
    """The map of a folded sheet."""
    pages = pages_of(study, r)
    print(f"\n{r.final.name}, page by page")
    for page in pages:
        holds = f", with {page.holds}" if page.holds else ""
        print(f"  {page.label}: {page.panel}, {page.side}, its head is {page.up} on the sheet{holds}")
    for pocket in pockets_of(r):
        where = {"up": "at the head", "right": "at the side"}.get(pocket.mouth, pocket.mouth)
        inside = format_size((pocket.width, pocket.depth), units)
        print(f"  {pocket.name}, between {in_a_row(pocket.between)}: opens {where}, {inside} inside")
    if told := heads(pages):
        print(f"  {told}")


def tell_opening(options: argparse.Namespace) -> int:
    """Find the opening, tell it, and write what was asked for; 1 where it does not open."""
    design = told_design(options)
    units: Units = options.units or design.units
    study = sound(Study(design))

    def told(done: int, of: int) -> None:
        if sys.stderr.isatty():
            print(f"\r{done} of {of} motions open", end="\n" if done == of else "", file=sys.stderr)

    opening = opening_of(study, told=told)
    room = reach(study, opening)
    if options.strip:
        write_strip(study, opening, options.strip, units, room)
    if options.film:
        write_film(study, opening, options.film)
    if options.pose:
        write_pose(study, state_at(study, opening, options.step), options.pose)
    print(verdict(study, opening, units, room))
    for contact in opening.shut:
        print(f"  {shut_words(study, contact, units)}")
    for k, step in enumerate(opening.steps):
        print(f"  {k + 1:2} {'  ' if step.clear else '✕ '}{step_words(study, step)}")
        for contact in step.resting:
            print(f"        {contact_words(study, step, contact, units)}")
        if step.contact is not None:
            print(f"        {contact_words(study, step, step.contact, units)}")
            for cure in cures(study, step.contact):
                print(f"        → {cure_words(study, cure, units)}")
    if knot := knot_words(study, opening):
        print(knot)
    for name, words in closed_facts(study, units):
        print(f"{name:12}{words}")
    print("If it goes by post, the carrier's own thickness and weight limits have the last word.")
    return 0 if opening.works else 1


def _print_plan(study: Study, units: Units) -> None:
    print(study.design.name)
    print("\nPieces")
    for piece in study.pieces:
        how = "ready-made, not cut" if piece.bought else piece.stock.name
        print(f"  {piece.quantity} × {piece.name}: {format_size(piece.size, units)}, {how}")
        for heading, text in readings(piece, units, score_tool(study)):
            print(f"      {heading}: {text}")
    for line in to_buy(study, units):
        print(f"  {line}, bought")
    print("\nWorked out")
    for element, r in study.resolved.items():
        for declared in r.family.parameters:
            sized = r.sizes.get(declared.id)
            if sized is None:
                continue
            shown = setting_words(sized.value, declared, units, mark=declared.kind != "lengths")
            exact = ""
            if abs(sized.residual) > 1e-6:
                divide = MM_PER_INCH if units == "in" else 1.0
                exact = f" (exact {(sized.exact or 0.0) / divide:.3f}, rounded by {sized.residual / divide:+.3f})"
            print(f"  {element}.{declared.id} = {shown}, {sized.origin}{exact}")
    for r in study.resolved.values():
        if is_folded(r):
            _print_folded(study, r, units)
    print("\nClosed " + format_size(tuple(round(x, 1) for x in study.size_at(0.0)), units))
    bulk = study.bulk
    print(
        f"At most {bulk.most} {'sheet lies' if bulk.most == 1 else 'sheets lie'} in one place, "
        f"{format_fine(bulk.thickest, units)} of paper; "
        f"the paper weighs about {weight(study.pieces):.0f} g without glue and contents."
    )
    print("If it goes by post, the carrier's own thickness and weight limits have the last word.")
    print("\nFits")
    for check in study.checks:
        print(f"  {headline(check)}: {sentence(check, units)}")
        if not check.gap.lacks:
            print(f"      {formula(check, units)}")
    for warning in stock_warnings(study):
        print(f"\n△ {speak(warning.sentence, units)}")
    if study.has_clash:
        print("\nSomething clashes: this cannot be built as it stands.")
