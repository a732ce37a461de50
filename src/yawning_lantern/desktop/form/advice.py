"""The strip that tells why a design cannot be made, and offers the smallest change that would admit it."""

from __future__ import annotations

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QWidget

from yawning_lantern.design import catalogue_for
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.study import Admission, admission


class Advice(QFrame):
    """Hidden while nothing is wrong. The change is looked for off the GUI thread and done by one click."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.setObjectName("trouble")
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.change = QPushButton()
        self.change.hide()
        self.change.clicked.connect(self._apply)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(8, 4, 6, 4)
        layout.addWidget(self.words, 1)
        layout.addWidget(self.change)
        self._found: Admission | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)
        session.troubled.connect(self.tell)
        self.hide()

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being looked for."""
        return not self._runner.is_busy

    def stop(self) -> None:
        """Let what runs end."""
        self._runner.stop()

    def tell(self, words: str) -> None:
        """Tell what is wrong, or with no words that nothing is; look for what would help."""
        self._found = None
        self.change.hide()
        self.words.setText(f"✕ {words}" if words else "")
        self.setVisible(bool(words))
        if not words or not self._session.is_refused:
            return
        self.change.setText("Looking for what would help …")
        self.change.setEnabled(False)
        self.change.show()
        design = self._session.design
        known = catalogue_for(design)
        self._runner.submit(lambda: (design, admission(design, known)))

    def _answered(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, tuple)
        design, found = answer
        if design is not self._session.design or found is None:
            self.change.hide()
            return
        self._found = found
        self.change.setText(found.change)
        self.change.setEnabled(True)

    def _apply(self) -> None:
        if self._found is not None:
            self._session.edit(self._found.design, self._found.change.rstrip("."))
