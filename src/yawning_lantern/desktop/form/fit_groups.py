"""The fits as rows of a list: grouped by what they join, what is wrong first, what is well folded away."""

from __future__ import annotations

from typing import Any

from msgspec import Struct
from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, Qt

from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.fit import Check, headline, sentence
from yawning_lantern.study import Study

_RANK = {"clash": 0, "tight": 1, "snug": 2, "loose": 3, "easy": 4}
_JOINS = {"inside": "in", "onto": "on", "over": "over", "around": "around"}
Index = QModelIndex | QPersistentModelIndex


class Group(Struct, frozen=True):
    """The fits that join two parts, or those of one part by itself, worst first."""

    key: str
    title: str
    checks: tuple[Check, ...]

    @property
    def wrong(self) -> int:
        """How many are not as asked."""
        return sum(not check.is_fine for check in self.checks)

    @property
    def words(self) -> str:
        """What is to be said of all of them together."""
        clashes = sum(check.is_clash for check in self.checks)
        count = len(self.checks)
        if count == 1:
            return "it clashes" if clashes else "not as asked" if self.wrong else "1 fit, as asked"
        if clashes:
            return f"{clashes} of {count} fits clash{'' if clashes > 1 else 'es'}"
        return f"{self.wrong} of {count} fits not as asked" if self.wrong else f"{count} fits, as asked"


Row = Group | Check


def _order(check: Check) -> tuple[bool, int]:
    return check.is_fine, _RANK[check.verdict] if not check.is_fine else 0


def grouped(study: Study) -> tuple[Group, ...]:
    """Every check in a group of those that join the same two parts; groups in which something is wrong first."""
    by_part: dict[str, list[Check]] = {}
    titles: dict[str, str] = {}
    for check in study.checks:
        gap = check.gap
        one, host = study.resolved[gap.element], study.resolved.get(gap.host)
        name = one.final.name
        if gap.host == gap.element or host is None:
            key, title = gap.element, name
        elif one.host == gap.host:
            key, title = f"{gap.element} {gap.host}", f"{name} {_JOINS[one.need.relation]} {host.final.name}"
        else:
            key, title = f"{gap.element} {gap.host}", f"{host.final.name} beside {name}"
        titles.setdefault(key, title)
        by_part.setdefault(key, []).append(check)
    groups = [Group(key, titles[key], tuple(sorted(checks, key=_order))) for key, checks in by_part.items()]
    return tuple(sorted(groups, key=lambda group: _order(group.checks[0])))


def subject(check: Check, study: Study | None) -> str:
    """What a fit is about within its group: the parts that the group names are not named again."""
    gap = check.gap
    known = study.resolved if study is not None else {}
    names = [known[e].final.name if e in known else "" for e in (gap.element, gap.host)]
    rest = []
    for words in gap.between:
        named = next((n for n in names if n and (words == n or words.startswith(f"{n}, "))), "")
        left = words[len(named) :].removeprefix(", ") if named else words
        if left and left not in rest:
            rest.append(left)
    return f"{gap.use.label}: {' · '.join(rest)}" if rest else gap.use.label


class FitsModel(QAbstractListModel):
    """Headings and, where a group is open, its checks."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._session = session
        self._groups: tuple[Group, ...] = ()
        self._turned: dict[str, bool] = {}
        self.rows: list[Row] = []
        self._words: list[tuple[str, str, str]] = []

    def said(self, index: Index) -> tuple[str, str, str]:
        """What a row says in its two lines, and the verdict of its mark."""
        return self._words[index.row()]

    def _say(self, row: Row) -> tuple[str, str, str]:
        if isinstance(row, Group):
            return row.title, row.words, row.checks[0].verdict
        return subject(row, self._session.study), sentence(row, self._session.design.units), row.verdict

    @property
    def checks(self) -> list[Check]:
        """Every check, in the order of the groups."""
        return [check for group in self._groups for check in group.checks]

    def refresh(self) -> None:
        """Take the checks of the newest study."""
        study = self._session.study
        self._groups = grouped(study) if study else ()
        self._lay()

    def is_open(self, group: Group) -> bool:
        """Whether a group's checks are shown: where something is wrong, unless the maker folded it."""
        return self._turned.get(group.key, group.wrong > 0)

    def toggle(self, group: Group) -> None:
        """Fold or unfold a group, until it is turned again."""
        self._turned[group.key] = not self.is_open(group)
        self._lay()

    def reveal(self, key: str) -> int | None:
        """The row of a check by its gap's key, its group unfolded; None where there is no such check."""
        for group in self._groups:
            if any(check.gap.key == key for check in group.checks) and not self.is_open(group):
                self.toggle(group)
        return self.row_of(key)

    def row_of(self, key: str) -> int | None:
        """The row of a check by its gap's key, None where it is not shown."""
        return next((i for i, r in enumerate(self.rows) if isinstance(r, Check) and r.gap.key == key), None)

    def _lay(self) -> None:
        rows: list[Row] = []
        for group in self._groups:
            rows.append(group)
            if self.is_open(group):
                rows.extend(group.checks)
        before, self._words = self._words, [self._say(row) for row in rows]
        if [_key(row) for row in rows] == [_key(row) for row in self.rows] and rows:
            self.rows = rows
            for k, (new, old) in enumerate(zip(self._words, before, strict=True)):
                if new != old:  # a list is laid out anew wherever one row says something else
                    self.dataChanged.emit(self.index(k), self.index(k))
        else:
            self.beginResetModel()
            self.rows = rows
            self.endResetModel()

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  # Qt's own signature
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or index.row() >= len(self.rows):
            return None
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return row
        if isinstance(row, Group):
            how = "unfolded" if self.is_open(row) else "folded"
            texts = (f"{row.title}: {row.words}", f"{row.title}: {row.words}, {how}")
        else:
            texts = (headline(row), f"{headline(row)}: {sentence(row, self._session.design.units)}")
        if role == Qt.ItemDataRole.DisplayRole:
            return texts[0]
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            return texts[1]
        return None


def _key(row: Row) -> str:
    return f"group {row.key}" if isinstance(row, Group) else row.gap.key
