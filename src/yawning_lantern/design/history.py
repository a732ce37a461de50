"""Undo and redo: a line of designs and the place in it. One gesture is one step."""

from __future__ import annotations

from msgspec import Struct

from yawning_lantern.design.document import Design

_LONGEST = 500  # steps that can be undone


class Step(Struct, frozen=True):
    """A design and the words for the edit that made it. `gesture` joins edits of one drag into one step."""

    design: Design
    words: str
    gesture: str = ""


class History(Struct, frozen=True):
    """An immutable line of steps; `at` is the one that is current."""

    steps: tuple[Step, ...]
    at: int = 0

    @staticmethod
    def start(design: Design) -> History:
        """A history with nothing to undo."""
        return History((Step(design, ""),))

    @property
    def design(self) -> Design:
        """The current design."""
        return self.steps[self.at].design

    def push(self, design: Design, words: str, gesture: str = "") -> History:
        """A new step after the current one; what could be redone is gone. The same design is no step."""
        if design == self.design:
            return self
        done = self.steps[: self.at + 1]
        if gesture and done[-1].gesture == gesture and len(done) > 1:
            done = done[:-1]
        steps = (*done, Step(design, words, gesture))[-_LONGEST:]
        return History(steps, len(steps) - 1)

    @property
    def undo_words(self) -> str:
        """What undo would take back, or nothing."""
        return self.steps[self.at].words if self.at else ""

    @property
    def redo_words(self) -> str:
        """What redo would do again, or nothing."""
        return self.steps[self.at + 1].words if self.at + 1 < len(self.steps) else ""

    def undo(self) -> History:
        """One step back, if there is one."""
        return History(self.steps, max(0, self.at - 1))

    def redo(self) -> History:
        """One step on, if there is one."""
        return History(self.steps, min(len(self.steps) - 1, self.at + 1))
