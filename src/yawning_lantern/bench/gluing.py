"""What is done at every act: glued, tied, put in; tried dry before it cannot be undone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from yawning_lantern.assembly import Assembly
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.bench.acts import Act
from yawning_lantern.bench.glue_map import OFF_FOLD, GlueMap, glue_map
from yawning_lantern.bench.reach import Reached
from yawning_lantern.bench.step import MINUTES, SETS, Step, Thing
from yawning_lantern.measure import told
from yawning_lantern.pattern.convex import least_width
from yawning_lantern.stock import Adhesive

TURNS = ("as it stands", "turned a quarter to the left", "turned half round", "turned a quarter to the right")
_FAILS = {
    "held": "Other joints hold it shut",
    "off": "It does not come off its mate for glue",
    "glue": "No nozzle gets between",
    "pressed": "No finger and no folder gets there",
}


def act_step(
    act: Act,
    reached: Reached,
    assembly: Assembly,
    frames: Sequence[Frame],
    things: Mapping[str, Thing],
    adhesive: Adhesive,
) -> Step:
    """What is done at an act; `frames` are those of the shut thing."""
    maps = [glue_map(assembly, bonded, frames) for bonded in act.joints]
    thing = things[act.element]
    flat = act.is_foot and thing.flat
    tied = act.joints[0].joint.bond == "held"
    kind = "tie" if tied else "decorate" if flat else "glue"
    press = "" if tied else _pressing(reached)
    held = max(bonded.joint.hold for bonded in act.joints)
    wait = held or (0.0 if tied else _sets(adhesive))
    return Step(
        f"{kind}:{act.name}",
        "tie" if tied else "decorate" if flat else "glue",
        f"{_said(act, assembly, thing)}{press}",
        element=act.element,
        parts=tuple(dict.fromkeys((thing.name, thing.host_name) if act.is_foot else (thing.name,))),
        act=act.name,
        heed=_sentences(_own_words(act, assembly, flat), "" if tied else _how(act, maps, adhesive)),
        minutes=MINUTES[kind],
        wait=wait,
        caution=_caution(act, maps, reached),
        face=None if tied else maps[0].face,
        state="trim to fit" if act.closes else "by eye" if act.is_by_eye else "sure",
        tools=reached.tools,
    )


def _sets(adhesive: Adhesive) -> float:
    """How long what is glued is left alone, min."""
    return SETS if adhesive.is_wet else 0.0


def _sentences(*told: str) -> str:
    """What is told in words, each as a sentence."""
    return " ".join(f"{words[0].upper()}{words[1:].rstrip('.')}." for words in told if words)


def _caution(act: Act, maps: Sequence[GlueMap], reached: Reached) -> str:
    """What can hurt someone; what can spoil it: no hand gets there, or a pocket that no edge leaves open."""
    cautions = list(dict.fromkeys(bonded.joint.caution for bonded in act.joints if bonded.joint.caution))
    if not reached.ok:
        cautions.append(f"{_FAILS.get(reached.fails, '')}: hold it with tweezers or clips until it sets.")
    elif any(b.joint.spots for b in act.joints) and not any(one.open_edges for one in maps) and maps[0].inner:
        cautions.append("Every edge is shut: leave one open, or nothing goes in.")
    return " ".join(cautions)


def _own_words(act: Act, assembly: Assembly, flat: bool) -> str:
    """What the part itself says of an act."""
    piece = assembly.nodes[act.joints[0].a].piece
    return act.label or (piece.note.rstrip(".") if flat and not piece.bought else "")


def _said(act: Act, assembly: Assembly, thing: Thing) -> str:
    first = act.joints[0]
    verb = "tie" if first.joint.bond == "held" else "glue"
    if act.is_foot and thing.under and verb == "tie":
        return f"Lay {thing.name} on {thing.host_name}: what comes next is glued over it."
    if act.is_foot and verb == "tie":
        return f"Set {thing.name} through {thing.host_name}, {thing.face}."
    if act.is_foot:
        way = "" if thing.flat and not thing.turn else f", {TURNS[thing.turn % 4]}"
        return f"{verb.capitalize()} {thing.name} on {thing.host_name}, {thing.face}{way}."
    mates = list(dict.fromkeys(_name(assembly, bonded.b, thing) for bonded in act.joints))
    brought = list(dict.fromkeys(_name(assembly, bonded.a, thing) for bonded in act.joints))
    nodes = [assembly.nodes[bonded.a] for bonded in act.joints]
    if len(brought) > 1 and len({node.instance for node in nodes}) == 1 and nodes[0].piece.name != thing.name:
        labels = list(dict.fromkeys(node.panel.label or node.panel.name for node in nodes))
        return f"{thing.name}: {verb} the {nodes[0].instance.replace('-', ' ')} down by its {_listed(labels)}."
    if len(brought) > 1:
        return f"{thing.name}: {verb} {_listed(brought)} down."
    return f"{thing.name}: {verb} the {brought[0]} on the {_listed(mates)}."


def _listed(words: Sequence[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def _name(assembly: Assembly, k: int, thing: Thing) -> str:
    """What a panel is called within its part: of its main piece by its label alone."""
    node = assembly.nodes[k]
    label = node.panel.label or node.panel.name
    instance = node.instance.replace("-", " ")
    if len(node.piece.panels) == 1:
        return instance
    return label if node.piece.name == thing.name else f"{label} of {instance}"


def _pressing(reached: Reached) -> str:
    """How it is pressed, in words."""
    if not reached.ok:
        return ""
    far = [tool for tool in reached.tools if tool != "finger"]
    if far:
        return f" Reach in with the {_listed(far)}."
    return " Press it between the fingers." if reached.tools else " Press it flat."


def _how(act: Act, maps: Sequence[GlueMap], adhesive: Adhesive) -> str:
    """Where the adhesive goes and where not."""
    width = min(one.width for one in maps)
    words = []
    own = next((bonded.joint for bonded in act.joints if bonded.joint.by), None)
    if own is not None:
        held = f"; it springs back: hold it down for {own.hold:g} min" if own.hold else ""
        return f"{own.by}, on its {maps[0].face}{held}"
    if adhesive.width is not None:
        if adhesive.width > width + 0.1:
            words.append(f"the tape is wider than the strip ({told(width)}): cut it along")
        else:
            words.append(f"{adhesive.name} along the edges")
    elif adhesive.is_wet:
        words.append(f"{adhesive.name}, thin, {told(OFF_FOLD, fine=True)} off folds and open edges")
    else:
        words.append(adhesive.name)
    words[0] += f", on its {maps[0].face}"
    some = act.joints[0].joint.spots
    if some and any(edge.shut == "open" for edge in maps[0].edges):
        words.append(f"a strip of {told(max(map(least_width, some)))} only; the open edge stays free")
    return ", ".join(words)


def dry_fits(act: Act, thing: Thing) -> Iterator[Step]:
    """What is tried before an act that cannot be undone: a part in its place, or what the thing shall hold."""
    if act.is_foot and not thing.flat and not thing.under and (thing.inside or thing.fits):
        fits = f" It should have: {'; '.join(thing.fits)}." if thing.fits else ""
        yield Step(
            f"fit:{act.name}", "fit", f"Try {thing.name} in its place without glue.{fits}",
            element=act.element, parts=(thing.name, thing.host_name), act=act.name, minutes=MINUTES["fit"],
            heed=f"{TURNS[thing.turn % 4][0].upper()}{TURNS[thing.turn % 4][1:]}: see that nothing is blocked.",
        )  # fmt: skip
    for k, (across, x, y) in enumerate(thing.holes if act.is_foot else (), 1):
        yield Step(
            f"punch:{act.name}:{k}", "punch",
            f"Punch a hole of {told(across, fine=True)} for {thing.name} in {thing.host_name}, {thing.face}: "
            f"{told(x)} from the left of its piece, {told(y)} from the foot, front up.",
            element=act.element, parts=(thing.host_name,), act=act.name, minutes=MINUTES["punch"],
            heed="On a mat for cutting; a needle makes it too.",
        )  # fmt: skip
    if act.tried:
        yield Step(
            f"fit:{act.name}", "fit", f"Try {act.tried} in {thing.name} before it is closed.",
            element=act.element, parts=(thing.name,), act=act.name, minutes=MINUTES["fit"],
            heed="What comes next does not open again: take them out, and go on only when all went in and out.",
        )  # fmt: skip
    if act.closes:
        yield Step(
            f"fit:{act.name}", "fit", f"Lay {thing.name} around the finished thing without glue; mark its end.",
            element=act.element, parts=(thing.name,), act=act.name, minutes=MINUTES["fit"],
            heed="Only now is the bulk known.", state="trim to fit",
        )  # fmt: skip


def inserts(thing: Thing, adhesive: Adhesive) -> Iterator[Step]:
    """What bends and is glued into a part, and what slides into it, once the rest of it is glued."""
    for k, (piece, name, count, note) in enumerate(thing.bends):
        what = f"{count} × {name}" if count > 1 else name
        yield Step(
            f"bend:{thing.element}.{k + 1}", "glue", f"Glue {what} into {thing.name}.",
            element=thing.element, piece=piece, parts=(thing.name,), minutes=MINUTES["glue"] * count, heed=note,
            wait=_sets(adhesive),
        )  # fmt: skip
    for k, name in enumerate(dict.fromkeys(thing.inserts)):
        count = thing.inserts.count(name)
        what = f"each of {count} × {name}" if count > 1 else name
        yield Step(
            f"insert:{thing.element}.{k + 1}", "insert", f"Slide {what} into {thing.name} and draw it out again.",
            element=thing.element, parts=(thing.name,), minutes=MINUTES["insert"],
            heed="Where it sticks the glue has crept in: free it now with the folder.",
        )  # fmt: skip
    if thing.holds is not None:
        w, d, h = thing.holds
        yield Step(
            f"fit:{thing.element}.holds", "fit",
            f"Try what {thing.name} shall hold: {told(w)} by {told(d)}, {told(h)} high.",
            element=thing.element, parts=(thing.name,), minutes=MINUTES["fit"],
        )  # fmt: skip
    if thing.shaves:
        yield Step(
            f"fit:{thing.element}.shaves", "fit",
            f"Try {thing.shaves} of {thing.name}. Shave a hair off either side, and try again.",
            element=thing.element, parts=(thing.name,), minutes=MINUTES["fit"], state="shave until it holds",
            heed="A blade, and off as little as can be seen: too little is shaved again, too much no more.",
            caution="Cut away from the hand that holds.",
        )  # fmt: skip
    for k, (name, count, length) in enumerate(thing.wares):
        yield Step(
            f"insert:{thing.element}.ware-{k + 1}", "insert",
            f"Cut {count} × {name}, {told(length, fine=True)} long, and put it on.",
            element=thing.element, parts=(thing.name,), minutes=MINUTES["insert"], state="decide at the end",
        )  # fmt: skip


def put_on(thing: Thing) -> Step:
    """A part that is not glued goes where it belongs."""
    fits = f" It should have: {'; '.join(thing.fits)}." if thing.fits else ""
    where = "in" if thing.within else "on"
    return Step(
        f"put:{thing.element}", "put", f"Put {thing.name} {where} {thing.host_name}, {thing.face}.{fits}",
        element=thing.element, parts=(thing.name, thing.host_name), minutes=MINUTES["put"],
    )  # fmt: skip
