"""Where a maker is in the plan: which step, which of its numbers, which copies, what is done. Immutable."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct, field
from msgspec.structs import replace

from yawning_lantern.bench.plan import BenchPlan
from yawning_lantern.bench.step import Step


class Walk(Struct, frozen=True):
    """A place in a plan: the rank of a step and of one of its numbers; `ticked` are the copies for which that number is
    done; `done` are the ids of whole steps. `at` is the number of steps where all is done."""

    plan: BenchPlan
    at: int = 0
    number: int = 0
    ticked: frozenset[int] = field(default_factory=frozenset)
    done: frozenset[str] = field(default_factory=frozenset)

    @property
    def step(self) -> Step | None:
        """The step to do, or None where all is done."""
        return self.plan.steps[self.at] if self.at < len(self.plan.steps) else None

    @property
    def numbers(self) -> int:
        """How many numbers the step has, one after the other."""
        return numbers_of(self.step) if self.step is not None else 0

    @property
    def minutes_left(self) -> float:
        """Minutes of all steps that are not done, waits with them."""
        return round(sum(step.minutes for step in self.plan.steps if step.id not in self.done), 2)

    @property
    def before(self) -> Step | None:
        """What was done last before this step."""
        return next((s for s in reversed(self.plan.steps[: self.at]) if s.id in self.done), None)

    @property
    def after(self) -> Step | None:
        """What comes next."""
        return next((s for s in self.plan.steps[self.at + 1 :] if s.id not in self.done), None)

    @property
    def missing(self) -> tuple[Step, ...]:
        """Steps that this one needs and that are not done."""
        step = self.step
        return () if step is None else tuple(s for s in self.plan.steps if s.id in step.needs and s.id not in self.done)

    def forward(self) -> Walk:
        """The number is done for all copies: to the next number, or the next step that is not done."""
        step = self.step
        if step is None:
            return self
        if self.number + 1 < self.numbers:
            return replace(self, number=self.number + 1, ticked=frozenset())
        done = self.done | {step.id}
        later = [k for k in range(self.at + 1, len(self.plan.steps)) if self.plan.steps[k].id not in done]
        left = later or [k for k, one in enumerate(self.plan.steps) if one.id not in done]
        return Walk(self.plan, left[0] if left else len(self.plan.steps), done=done)

    def back(self) -> Walk:
        """The number before, or the last number of the step before, which is not done then."""
        if self.number:
            return replace(self, number=self.number - 1, ticked=frozenset())
        if not self.at:
            return replace(self, ticked=frozenset())
        step = self.plan.steps[self.at - 1]
        return Walk(self.plan, self.at - 1, numbers_of(step) - 1, done=self.done - {step.id})

    def tick(self, copy: int) -> Walk:
        """One copy is done, or not after all; with the last of them the number is."""
        step = self.step
        if step is None or not 0 <= copy < step.copies:
            return self
        ticked = self.ticked ^ {copy}
        return self.forward() if len(ticked) == step.copies else replace(self, ticked=ticked)

    def go(self, at: int) -> Walk:
        """To a step by its rank, wherever one was."""
        return Walk(self.plan, max(0, min(at, len(self.plan.steps))), done=self.done)

    def record(self) -> dict[str, Any]:
        """What is kept: ids, so that it holds for the plan of a design that was changed since."""
        return {
            "at": self.step.id if self.step is not None else "",
            "number": self.number,
            "ticked": sorted(self.ticked),
            "done": sorted(self.done),
        }


def numbers_of(step: Step) -> int:
    """How many numbers a step has."""
    return len(step.placing.readings) if step.placing is not None else 1


def resumed(plan: BenchPlan, record: Mapping[str, Any]) -> Walk:
    """The place in a plan that was kept. What a changed plan has no more of is left out; what cannot be read is passed
    over: one is at the first step that is not done."""
    kept = record.get("done", ())
    done = frozenset(one for one in kept if one in plan.at) if isinstance(kept, list) else frozenset()
    at = plan.at.get(str(record.get("at", "")))
    if at is None:
        at = next((k for k, step in enumerate(plan.steps) if step.id not in done), len(plan.steps))
        return Walk(plan, at, done=done)
    step, number, ticked = plan.steps[at], record.get("number", 0), record.get("ticked", ())
    number = number if isinstance(number, int) and 0 <= number < numbers_of(step) else 0
    own = ticked if isinstance(ticked, list) else ()
    copies = frozenset(k for k in own if isinstance(k, int) and 0 <= k < step.copies)
    return Walk(plan, at, number, copies if len(copies) < step.copies else frozenset(), done)
