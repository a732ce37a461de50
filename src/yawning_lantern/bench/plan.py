"""The whole design step by step: a graph of steps with reasons, and one order through it for one pair of hands.

Acts keep the order in which every joint can be reached (`order`). What prepares their pieces comes just before them;
while glue sets, the next pieces are prepared, and only where nothing is left to prepare is there a wait. All cutting
comes first, since sheets are cut edge to edge.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from functools import cached_property

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import Assembly
from yawning_lantern.bench.acts import Act
from yawning_lantern.bench.gluing import act_step, dry_fits, inserts, put_on
from yawning_lantern.bench.order import Before, Order, Reasons, Schools
from yawning_lantern.bench.preparing import notches, preparing, punching
from yawning_lantern.bench.reach import Reached
from yawning_lantern.bench.score_plan import ScorePlan
from yawning_lantern.bench.step import MINUTES, Step, Thing
from yawning_lantern.fold import State, pose
from yawning_lantern.on_use import load
from yawning_lantern.pattern import Piece
from yawning_lantern.stock import Adhesive, Tool


class Material(Struct, frozen=True):
    """A piece that is cut, the ids of all that are equal to it, and how it is scored. `behind` names what lies behind
    its notches when all is made; `turns` tells in which order it is folded, where that matters."""

    piece: Piece
    scores: ScorePlan
    ids: tuple[str, ...]
    behind: tuple[str, ...] = ()
    turns: tuple[str, ...] = ()

    @property
    def elements(self) -> tuple[str, ...]:
        """The elements that need it."""
        return tuple(dict.fromkeys(one.split(".")[0] for one in self.ids))


class BenchPlan(Struct, frozen=True, dict=True):
    """Steps in the order they are made. `stuck` are the acts for which no hand is small enough."""

    steps: tuple[Step, ...]
    stuck: tuple[str, ...] = ()

    @property
    def minutes(self) -> float:
        """Minutes of hands."""
        return round(sum(step.minutes for step in self.steps if step.kind != "wait"), 2)

    @property
    def waits(self) -> float:
        """Minutes in which nothing can be done."""
        return round(sum(step.minutes for step in self.steps if step.kind == "wait"), 2)

    @cached_property
    def at(self) -> Mapping[str, int]:
        """The place of each step by its id."""
        return {step.id: k for k, step in enumerate(self.steps)}

    @cached_property
    def critical(self) -> tuple[tuple[str, ...], float]:
        """The longest chain of steps that wait for one another, and its minutes with what must set in between: with any
        number of hands it takes as long."""
        nx = load("networkx")
        graph = nx.DiGraph()
        cost = {step.id: step.minutes for step in self.steps}
        for step in self.steps:
            graph.add_node(step.id)
            for need in step.needs:
                before = self.steps[self.at[need]]
                graph.add_edge(need, step.id, weight=before.minutes + before.wait)
        chain = tuple(nx.dag_longest_path(graph)) if len(graph) else ()
        waits = sum(self.steps[self.at[one]].wait for one in chain[:-1])
        return chain, round(sum(cost[one] for one in chain) + waits, 2)


def bench_plan(
    assembly: Assembly,
    order: Order,
    reasons: Reasons,
    materials: Sequence[Material],
    things: Mapping[str, Thing],
    tool: Tool,
    adhesive: Adhesive,
    schools: Schools,
    rules: Iterable[Before] = (),
    copies: int = 1,
) -> BenchPlan:
    """All steps of a design in one order, so many copies side by side: each step is done to all before the next."""
    made = _Made(assembly, order, materials, things, tool, adhesive, schools, copies)
    made.walk()
    steps = _with_reasons(made.steps, order, reasons, rules)
    return BenchPlan(steps, tuple(act.name for act, _ in order.stuck))


class _Made:
    """Walks the acts and writes down what is done."""

    def __init__(
        self,
        assembly: Assembly,
        order: Order,
        materials: Sequence[Material],
        things: Mapping[str, Thing],
        tool: Tool,
        adhesive: Adhesive,
        schools: Schools,
        copies: int,
    ) -> None:
        self.assembly, self.things, self.adhesive, self.copies = assembly, things, adhesive, copies
        self.acts = [*order.stuck, *order.acts]  # stuck with the others made: they come before
        self._frames = pose(assembly, State(1.0, (0.0,) * len(assembly.motions)))
        self.steps: list[Step] = []
        self.now = 0.0
        self._wet: dict[str, tuple[float, str]] = {}  # element: when its glue holds, and the step that glued it
        self._queue: dict[str, list[Step]] = {}
        self._ready: dict[str, list[str]] = {}  # element: the last steps of its pieces
        self._cut_out: dict[str, str] = {}  # piece: its last step
        self._of: dict[str, str] = {}  # a step that glued something: the part
        self._last: dict[str, str] = {}  # element: the last thing done to it
        self._late: dict[str, Step] = {}
        self._left = {e: sum(act.element == e for act, _ in self.acts) for e in things}
        self._finished: set[str] = set()
        cuts: list[Step] = []
        for material in materials:
            early = schools.notch == "before" or bool(material.behind)
            own = preparing(material.piece, material.scores, tool, early)
            if material.turns:
                so = "; ".join(f"{k}. {words}" for k, words in enumerate(material.turns, 1))
                own = tuple(replace(one, heed=f"Then it folds in this order: {so}.") if one.kind == "fold" else one
                            for one in own)  # fmt: skip
            if material.behind and notches(material.piece):
                why = f"Punch before it is glued: {', '.join(material.behind)} will lie behind it."
                own = tuple(replace(step, heed=why) if step.kind == "punch" else step for step in own)
            elif not early and notches(material.piece):
                scrap = "Slip a scrap of board behind, so that nothing else is cut."
                for element in material.elements:
                    self._late[element] = replace(punching(material.piece), heed=scrap, element=element)
            cuts.append(own[0])
            self._cut_out |= dict.fromkeys(material.ids, own[-1].id)
            for element in material.elements:
                self._ready.setdefault(element, []).append(own[-1].id)
            first = material.elements[0] if material.elements else ""
            self._queue.setdefault(first, []).extend(replace(step, element=first) for step in own[1:])
            for element in material.elements[1:]:
                self._queue.setdefault(element, [])
        self._shared = {
            element: [m.elements[0] for m in materials if element in m.elements and m.elements[0] != element]
            for element in things
        }
        stock = {f"cut:{m.piece.id}": m.piece.stock.id for m in materials}
        first_of = {kind: k for k, kind in reversed(list(enumerate(stock.values())))}
        for step in sorted(cuts, key=lambda step: first_of[stock[step.id]]):  # sheet after sheet
            self._do(step)

    def _do(self, step: Step) -> None:
        if self.copies > 1 and (not step.piece or step.kind == "glue") and step.kind != "wait":
            step = replace(step, copies=self.copies, minutes=round(step.minutes * self.copies, 3))
        self.steps.append(step)
        self.now += step.minutes

    def _prepare(self, element: str) -> None:
        """What is left to do to the pieces of a part."""
        for one in (*self._shared.get(element, ()), element):
            for step in self._queue.get(one, ()):
                self._do(step)
            self._queue[one] = []

    def _until(self, elements: Iterable[str]) -> None:
        """Let glue set: prepare what comes later meanwhile, else wait."""
        wet = [self._wet[e] for e in elements if e in self._wet]
        until, after = max(wet, default=(0.0, ""))
        for queue in self._queue.values():
            while queue and self.now < until - 1e-6:
                piece = queue[0].piece
                while queue and queue[0].piece == piece:  # a piece is prepared at one go
                    self._do(queue.pop(0))
        if self.now < until - 1e-6:
            left = until - self.now
            self._do(
                Step(
                    f"wait:{after}",
                    "wait",
                    "Let the glue set before it is handled.",
                    needs=(after,),
                    element=self._of[after],
                    parts=(self.things[self._of[after]].name,),
                    minutes=round(left, 2),
                    caution="The label of the glue has the last word.",
                )
            )

    def walk(self) -> None:
        """Every act in order, with all that belongs to it."""
        for act, reached in self.acts:
            self._act(act, reached)
        for element, thing in self.things.items():
            self._finish(element)
            if thing.seated and not any(act.element == element and act.closes for act, _ in self.acts):
                self._until((element, thing.host))
                step = put_on(thing)
                self._do(replace(step, needs=self._needs(element, thing.host)))
                self._last[thing.host] = step.id
        self._rehearse()

    def _act(self, act: Act, reached: Reached) -> None:
        thing = self.things[act.element]
        self._prepare(act.element)
        if act.is_foot:
            self._finish(act.element)
            self._prepare(thing.host)
            if not thing.flat:
                self._until((act.element,))
        if act.closes:
            for element in self.things:
                if element != act.element:
                    self._finish(element)
            self._until(self.things)
        tried = [one.element for one in self.things.values() if act.tried and one.host == act.element and one.within]
        for element in tried:
            self._finish(element)
        self._until([act.element, *tried] if act.tried else ())
        fitted: list[str] = []
        for step in dry_fits(act, thing):
            self._do(replace(step, needs=self._needs(act.element, act.host, *tried)))
            self._last[act.element] = step.id
            fitted.append(step.id)
        step = act_step(act, reached, self.assembly, self._frames, self.things, self.adhesive)
        needs = self._needs(act.element, act.host) if act.is_foot or act.closes else self._own_needs(act)
        self._do(replace(step, needs=tuple(dict.fromkeys((*needs, *fitted)))))
        self._last[act.element] = step.id
        if act.is_foot:
            self._last[act.host] = step.id
        if step.wait:
            self._wets(step, act.element, act.host)
        self._left[act.element] -= 1
        if act.is_foot and act.element in self._late:
            late = self._late.pop(act.element)
            self._do(replace(late, needs=(step.id,)))

    def _own_needs(self, act: Act) -> tuple[str, ...]:
        """A joint of a part needs the pieces that it joins."""
        nodes = self.assembly.nodes
        ids = [nodes[k].piece.id for bonded in act.joints for k in (bonded.a, bonded.b)]
        return tuple(dict.fromkeys(self._cut_out[one] for one in ids if one in self._cut_out))

    def _needs(self, *elements: str) -> tuple[str, ...]:
        """What is done to parts so far: their last step, else their pieces."""
        needs: list[str] = []
        for element in elements:
            last = self._last.get(element)
            needs += [last] if last else self._ready.get(element, [])
        return tuple(dict.fromkeys(needs))

    def _finish(self, element: str) -> None:
        """A part is made: what slides into it is tried."""
        if element in self._finished or self._left.get(element, 0) > 1:
            return
        self._finished.add(element)
        self._prepare(element)
        for step in inserts(self.things[element], self.adhesive):
            if step.state == "shave until it holds":
                self._until([element])
            pieces = self._ready.get(element, []) if step.piece else []
            self._do(replace(step, needs=tuple(dict.fromkeys((*self._needs(element), *pieces)))))
            self._last[element] = step.id
            if step.wait:
                self._wets(step, element)

    def _wets(self, step: Step, *elements: str) -> None:
        """What is glued in a step is wet so long as it says."""
        self._of[step.id] = step.element
        self._wet.update(dict.fromkeys(elements, (self.now + step.wait, step.id)))

    def _rehearse(self) -> None:
        self._until(self.things)
        first = self.assembly.nodes[0].element
        moves = [motion.label for motion in self.assembly.motions]
        said = "; ".join(moves[:8]) + (" …" if len(moves) > 8 else "")
        how = f"Open it once in its order and shut it again: {said}." if moves else "Look at it from all sides."
        needs = tuple(dict.fromkeys((*self._needs(first), *(self._last.get(e, "") for e in self.things))))
        known = {step.id for step in self.steps}
        self._do(
            Step(
                "rehearse",
                "rehearse",
                how,
                element=first,
                needs=tuple(n for n in needs if n in known),
                minutes=MINUTES["rehearse"],
                heed="Write down what was done, for next time.",
            )
        )


def _with_reasons(steps: Sequence[Step], order: Order, reasons: Reasons, rules: Iterable[Before]) -> tuple[Step, ...]:
    """The steps, those of acts with what they must come before others for."""
    by_act = {step.act: step.id for step in steps if step.act and step.kind in ("glue", "decorate", "tie")}
    place = {act.name: k for k, (act, _) in enumerate(order.acts)}
    needs: dict[str, list[str]] = {}
    because: dict[str, list[str]] = {}
    text = {step.id: step for step in steps}
    for act, _ in order.acts:
        reason = reasons.of(act)
        if reason is None:
            continue
        last = max(reason.others, key=lambda other: place[other.name])
        needs.setdefault(by_act[last.name], []).append(by_act[act.name])
        others = [text[by_act[other.name]].text.split(".")[0] for other in reason.others]
        first = others[0][0].lower() + others[0][1:]
        more = f" and {len(others) - 1} more" if len(others) > 1 else ""
        because.setdefault(by_act[act.name], []).append(f"{_WHY[reason.fails]} after “{first}”{more}")
    for rule in rules:
        if rule.first in by_act and rule.then in by_act:
            needs.setdefault(by_act[rule.then], []).append(by_act[rule.first])
            because.setdefault(by_act[rule.first], []).append(rule.because)
    return tuple(
        replace(
            step,
            needs=tuple(dict.fromkeys((*step.needs, *needs.get(step.id, ())))),
            because="; ".join(dict.fromkeys(because.get(step.id, ()))),
        )
        for step in steps
    )


_WHY = {
    "held": "it is held shut",
    "off": "it does not come off its mate",
    "glue": "no glue gets in",
    "pressed": "nothing reaches in to press it",
}
