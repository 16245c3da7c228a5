"""How much of a screen a window takes, and where."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QSize

LEAST_SIZE = (1000, 640)
FIRST_SIZE = QSize(1280, 800)
_SHARE = 0.88  # of a large screen, in each direction


def first_size(free: QSize) -> QSize:
    """The size, with its frame, of a window that nobody has sized: most of a large screen, so that
    spread, Shelf and Properties have room; all of a small one.

    >>> first_size(QSize(1280, 776)), first_size(QSize(1920, 1053))
    (PySide6.QtCore.QSize(1280, 776), PySide6.QtCore.QSize(1690, 927))
    """
    wanted = QSize(round(free.width() * _SHARE), round(free.height() * _SHARE))
    return wanted.expandedTo(FIRST_SIZE).boundedTo(free)


def first_place(inner: QRect, frame: QRect, free: QRect) -> QRect:
    """Where a window that nobody has sized lies: in the middle of the free part of a screen."""
    around = frame.size() - inner.size()
    size = first_size(free.size()) - around
    left = free.left() + (free.width() - size.width() - around.width()) // 2
    top = free.top() + (free.height() - size.height() - around.height()) // 2
    placed = QRect(QPoint(left, top) + inner.topLeft() - frame.topLeft(), size)
    return within(placed, placed.adjusted(frame.left() - inner.left(), frame.top() - inner.top(),
                                          frame.right() - inner.right(),
                                          frame.bottom() - inner.bottom()), free)  # fmt: skip


def within(inner: QRect, frame: QRect, free: QRect) -> QRect:
    """A window's place that lies with its frame in the free part of a screen."""
    around = frame.size() - inner.size()
    size = inner.size().boundedTo(free.size() - around)
    size = size.expandedTo(QSize(*LEAST_SIZE))
    left = min(max(frame.left(), free.left()), free.right() + 1 - size.width() - around.width())
    top = min(max(frame.top(), free.top()), free.bottom() + 1 - size.height() - around.height())
    corner = QPoint(max(left, free.left()), max(top, free.top()))
    return QRect(corner + inner.topLeft() - frame.topLeft(), size)
