"""Bars that fold what does not fit into a menu at their end, and labels that are cut with “…”:
nothing that is written in a bar makes the window wider."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QFrame,
    QLabel,
    QLineEdit,
    QMenu,
    QSlider,
    QToolButton,
    QWidget,
)

LEAST = 60  # pixels that a bar can be narrowed to


class ShortLabel(QLabel):
    """A line of plain text, cut where it has no room; the whole is its tooltip then."""

    def __init__(self, text: str = "", least: int = 40) -> None:
        super().__init__(text)
        self.least = least

    def minimumSizeHint(self) -> QSize:
        whole = super().minimumSizeHint()
        return QSize(min(self.least, whole.width()), whole.height())

    def shown(self) -> str:
        """What can be read of the text."""
        room = max(self.width() - 1, 0)
        return self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, room)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        shown = self.shown() if self.width() > 36 else ""
        whole = self.text() if shown != self.text() else ""
        if self.toolTip() != whole:
            self.setToolTip(whole)
        painter.setPen(self.palette().color(self.foregroundRole()))
        painter.drawText(self.rect(), self.alignment() | Qt.AlignmentFlag.AlignVCenter, shown)
        painter.end()


def as_high_as_its_words(card: QWidget, wide: int) -> None:
    """Makes a widget with wrapped words so wide, and as high as they need there: `adjustSize` makes
    it as high as they would be in a narrow column."""
    layout = card.layout()
    if layout is not None:
        card.setFixedSize(wide, layout.totalHeightForWidth(wide))


def _least(part: QWidget) -> int:
    """The width below which a part of a bar can't be read."""
    part.ensurePolished()
    if isinstance(part, ShortLabel | QLineEdit | QComboBox | QSlider):
        return max(part.minimumSizeHint().width(), part.minimumWidth())
    return part.sizeHint().width()


_BOTH = Qt.ToolButtonStyle.ToolButtonTextBesideIcon
_PICTURE = Qt.ToolButtonStyle.ToolButtonIconOnly


def _fewest(most: int, fits: Callable[[int], bool]) -> int:
    """The least number from 0 to `most` that fits; the greater one, the better it does."""
    low = 0
    while low < most:
        middle = (low + most) // 2
        low, most = (low, middle) if fits(middle) else (middle + 1, most)
    return low


def _has_both(part: QWidget) -> bool:
    """Whether a button has a picture and words."""
    return (
        isinstance(part, QToolButton)
        and bool(part.text())
        and not part.icon().isNull()
        and part.toolButtonStyle() in (_BOTH, _PICTURE)
    )


class Folding(QObject):
    """Takes the words off the buttons of a bar that have a picture, in a given order, while the bar
    is too narrow for all; then hides them, and offers them in a menu at its end."""

    def __init__(self, bar: QFrame, row: QBoxLayout, parts: list[QWidget]) -> None:
        super().__init__(bar)
        self._bar, self._row, self._parts = bar, row, parts
        self._widths: dict[QWidget, tuple[int, int]] = {}  # with words and without
        bar.setMinimumWidth(LEAST)
        self._fitting = False
        self.more = QToolButton()
        self.more.setText("»")
        self.more.setToolTip("Commands that have no room here")
        self.more.setAccessibleName("More of this bar")
        self.more.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu = QMenu(self.more)
        self.menu.aboutToShow.connect(self._fill)
        self.more.setMenu(self.menu)
        row.addWidget(self.more)
        self.more.hide()
        bar.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.Resize, QEvent.Type.Show, QEvent.Type.LayoutRequest):
            self.fit()
        return False

    def fit(self) -> None:
        """Hides as many as must be.  Hiding and showing tells the bar that it changed, which asks
        for this again: once is enough."""
        if self._fitting:
            return
        self._fitting = True
        try:
            self._fit()
        finally:
            self._fitting = False

    def _fit(self) -> None:
        # Counted before anything is hidden: each that is hidden and shown again asks for this once
        # more, without end.
        count = len(self._parts)
        room = self._bar.width()
        worded = [p for p in self._parts if isinstance(p, QToolButton) and _has_both(p)]
        bare = _fewest(len(worded), lambda n: self._needed(0, worded[:n]) <= room)
        gone = worded[:bare]
        hidden = _fewest(count, lambda n: self._needed(n, gone) <= room)
        for part in worded:
            style = _PICTURE if part in gone else _BOTH
            if part.toolButtonStyle() != style:
                part.setToolButtonStyle(style)
        shown = [(part, n >= hidden) for n, part in enumerate(self._parts)]
        wrong = [(w, on) for w, on in [*shown, (self.more, hidden > 0)] if w.isHidden() == on]
        if wrong:
            for widget, on in wrong:
                widget.setVisible(on)
            self._row.invalidate()
            self._row.activate()

    def _width(self, part: QWidget, bare: bool) -> int:
        """How wide a part is, with its words or without."""
        if not isinstance(part, QToolButton) or not _has_both(part):
            return _least(part)
        if part not in self._widths:
            now = part.toolButtonStyle()
            part.setToolButtonStyle(_PICTURE)
            without = _least(part)
            part.setToolButtonStyle(_BOTH)
            self._widths[part] = (_least(part), without)
            part.setToolButtonStyle(now)
        return self._widths[part][bare]

    def _needed(self, hidden: int, bare: list[QToolButton]) -> int:
        """How wide the bar must be with so many of its parts hidden, and some without words."""
        margins = self._row.contentsMargins()
        wide, count = margins.left() + margins.right(), 0
        gone = self._parts[:hidden]
        for n in range(self._row.count()):
            item = self._row.itemAt(n)
            part = item.widget()
            if part is None:
                wide += item.minimumSize().width()
            elif self._is_shown(part, gone):
                wide += self._width(part, part in bare)
                count += 1
        return wide + self._row.spacing() * max(count - 1, 0)

    def _is_shown(self, part: QWidget, gone: list[QWidget]) -> bool:
        if part is self.more:
            return bool(gone)
        return part not in gone if part in self._parts else not part.isHidden()

    def _fill(self) -> None:
        self.menu.clear()
        for part in self._parts:
            if part.isHidden() and isinstance(part, QToolButton):
                action = self.menu.addAction(part.text() or part.accessibleName())
                action.setEnabled(part.isEnabled())
                action.setCheckable(part.isCheckable())
                action.setChecked(part.isChecked())
                if part.menu() is not None:
                    action.setMenu(part.menu())
                action.triggered.connect(lambda _=False, b=part: b.click())
