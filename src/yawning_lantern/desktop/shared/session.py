"""What is open: the design with its history, its study, what is selected, and where it is saved."""

from __future__ import annotations

import time
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from yawning_lantern.design import Design, Element, History, Value, find, set_value, walk
from yawning_lantern.desktop.shared.keeping import Keeping
from yawning_lantern.desktop.shared.letting_go import LettingGo
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.design_file import fingerprint, read_design, write_design
from yawning_lantern.exchange.recovery import Recovery
from yawning_lantern.study import Study, known_names

SHORT = 0.045
"""A study whose last stages each took less, s, is made at once; a longer one leaves the GUI thread."""


class Session(QObject):
    """One open design.

    `is_refused`: the design as it is now cannot be made at all, `trouble` says why.
    `changed`: the design is another. `studied`: a study of it arrived, sizes settled. `judged`: its fits are judged
    too, in the next turn of the event loop; what needs them listens to this. `hand`: the view that a maker drags in.
    `handed`: it is to paint itself at once, before anyone else hears of the study; `studied` then comes in the next
    turn. `troubled`: what is wrong, or nothing.
    `selected`: another element. `moved`: another place between flat and open. `saved`: the file or its state changed.
    """

    changed = Signal()
    handed = Signal()
    studied = Signal()
    judged = Signal()
    troubled = Signal(str)
    selected = Signal()
    moved = Signal()
    saved = Signal()
    _settled = Signal(int, object)

    def __init__(self, recovery: Recovery, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.history = History.start(Design(Element("box", "explosion-box", "Explosion box")))
        self.is_open = False
        self.path: Path | None = None
        self.study: Study | None = None
        self.trouble = ""
        self.is_refused = False
        self.selection = self.history.design.root.id
        self.position = 0.0
        self.recovery = recovery
        self._clean: Design | None = None
        self._print: str | None = None
        self._took = self._judging = SHORT  # s: the last study, and the judging of its fits
        self._unjudged: Study | None = None
        self._replaced = LettingGo(self)
        self.hand: QObject | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        self._settled.connect(self._hand_over)
        self._opened = 0  # how many designs were opened here: a worker may still be at the last
        self._keeping = Keeping(recovery, lambda: (self.design, self.path) if self.is_dirty else None, self)
        self._keeping.failed.connect(self.tell)

    @property
    def design(self) -> Design:
        """The design as it is now."""
        return self.history.design

    @property
    def is_dirty(self) -> bool:
        """Whether there is something to save."""
        return self.is_open and self.design != self._clean

    @property
    def is_idle(self) -> bool:
        """Whether the study belongs to the design as it is now and is judged, or the design cannot be studied."""
        return not self._runner.is_busy and self._unjudged is None

    def start(self, design: Design, path: Path | None = None, *, dirty: bool = False) -> None:
        """Open a design; the history begins anew."""
        self.history = History.start(design)
        self.path = path
        self.is_open = True
        self._opened += 1
        self.study = self._unjudged = None
        self.position = 0.0
        self._clean = None if dirty else design
        self._print = fingerprint(path) if path is not None else None
        self.selection = design.root.id
        self._restudy()
        self.saved.emit()
        self.selected.emit()

    def open_file(self, path: Path) -> None:
        """Open a file. Raises LanternError; the open design then stays as it was.

        A design whose values cannot be made is opened all the same, with what would help; one that names what this
        program does not know is not."""
        design = read_design(path)
        known_names(design)
        self.start(design, path)

    def save(self, path: Path) -> None:
        """Save to a file. Raises WriteError."""
        write_design(self.design, path)
        self.path, self._clean, self._print = path, self.design, fingerprint(path)
        self.recovery.discard()
        self.saved.emit()

    def is_changed_on_disk(self, path: Path) -> bool:
        """Whether a file is there that is not what was read from it or saved to it last."""
        there = fingerprint(path)
        return there is not None and (path != self.path or there != self._print)

    def edit(self, design: Design, words: str, gesture: str = "") -> None:
        """One step. Edits of one gesture join into one step."""
        before = self.history
        self.history = self.history.push(design, words, gesture)
        if self.history is not before:
            self._restudy()

    def give(self, element: str, parameter: str, value: Value | None, words: str, gesture: str = "") -> None:
        """Give a setting of an element, or with None let it be worked out."""
        self.edit(set_value(self.design, element, parameter, value), words, gesture)

    def undo(self) -> None:
        """One step back."""
        self.history = self.history.undo()
        self._restudy()

    def redo(self) -> None:
        """One step on."""
        self.history = self.history.redo()
        self._restudy()

    def select(self, element: str) -> None:
        """Select an element of the nest."""
        if element != self.selection:
            self.selection = element
            self.selected.emit()

    def selected_element(self) -> Element:
        """The selected element."""
        return find(self.design, self.selection)

    def move_to(self, position: float) -> None:
        """Go to a place from flat (−1) over shut (0) to open (1)."""
        self.position = max(-1.0, min(1.0, position))
        self.moved.emit()

    def autosave(self) -> bool:
        """Keep the design for recovery; gives whether that was done. What is wrong is told in the trouble strip."""
        return self._keeping.now()

    def close(self) -> None:
        """End well: nothing is left to recover."""
        self._unjudged = None
        self._keeping.stop()
        self._runner.stop()
        self._replaced.stop()
        self.recovery.discard()

    def _restudy(self) -> None:
        if self.selection not in {element.id for element in walk(self.design.root)}:
            self.selection = self.design.root.id
            self.selected.emit()
        design, before, position, opened = self.design, self.study, self.position, self._opened

        def work() -> tuple[Study, float]:
            begin = time.perf_counter()
            study = Study(design, before=before)
            if self.hand is None:
                _ = study.closed, study.picture(position)
            return study, time.perf_counter() - begin

        def whole() -> tuple[Study, float]:
            study, taken = work()
            if self.hand is None or self._judging >= SHORT:  # else it is judged when it is handed over
                if self.hand is not None:
                    self._settled.emit(opened, study)  # what is under the hand is painted meanwhile
                self._time_judging(study)
            return study, taken

        self._keeping.soon()
        self.changed.emit()
        if max(self._took, self._judging) < SHORT and before is not None and not self._runner.is_busy:
            try:
                answer: object = work()
            except LanternError as error:
                answer = error
            self._answered(answer)
        else:
            self._runner.submit(whole)

    def _answered(self, answer: object) -> None:
        self.is_refused = isinstance(answer, LanternError)
        if isinstance(answer, LanternError):
            self.tell(answer.sentence())
        elif isinstance(answer, BaseException):
            raise answer
        else:
            assert isinstance(answer, tuple)
            study, self._took = answer
            self.tell("")
            self._hand_over(self._opened, study)
            if self.hand is None:
                self.studied.emit()
                QTimer.singleShot(0, self, self._judge)
            else:
                QTimer.singleShot(0, self, self._follow)

    def _hand_over(self, opened: int, study: Study) -> None:
        """Take a study and let what is under the hand be painted, even where a newer study is on its way: a hand sees
        itself move."""
        if opened == self._opened and study is not self.study:
            self._replaced.put(self.study)
            self.study = self._unjudged = study
            if self.hand is not None:
                self.handed.emit()

    def _follow(self) -> None:
        """Tell all others of the newest study, what is under the hand being painted, if that is still to do."""
        if self._unjudged is not None:
            self.studied.emit()
            self._judge()

    def _judge(self) -> None:
        """Judge the fits of the newest study, if that is still to do."""
        study, self._unjudged = self._unjudged, None
        if study is None or study is not self.study:
            return
        self._time_judging(study)
        self.judged.emit()

    def _time_judging(self, study: Study) -> None:
        """Pose and judge the fits; where that was done already its time stays."""
        begin = time.perf_counter()
        is_new = "checks" not in study.__dict__
        _ = study.closed, study.checks, study.mount_frames
        if is_new:
            self._judging = time.perf_counter() - begin

    def tell(self, words: str) -> None:
        """Say what is wrong now, or with no words that nothing is."""
        if words != self.trouble or self.is_refused:
            self.trouble = words
            self.troubled.emit(words)
