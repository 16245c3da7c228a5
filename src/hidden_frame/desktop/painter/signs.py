"""Signs for characters that print nothing, painted over a text on the desk."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from hidden_frame.model.memory import remembered
from hidden_frame.typeset.signs import Kind, Sign, signs
from hidden_frame.typeset.text import SetText

_MARGIN = 2.0  # em around what is painted


def paint_signs(
    painter: QPainter, text: SetText, shown: int, ink: QColor, clip: QRectF | None
) -> None:
    """All signs of a text's first lines that lie within a clip."""
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    for sign in _signs(text, shown):
        reach = sign.size * _MARGIN
        around = QRectF(sign.x - reach, sign.baseline - reach, sign.wide + 2 * reach, 2 * reach)
        if clip is None or clip.intersects(around):
            pen = QPen(ink, sign.size * 0.055)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.setBrush(ink if sign.kind in ("space", "mark") else Qt.BrushStyle.NoBrush)
            painter.drawPath(_path(sign))
    painter.restore()


@remembered(weigh=lambda found: 120 * len(found))
def _signs(text: SetText, shown: int) -> list[Sign]:
    return signs(text, shown)


def _path(sign: Sign) -> QPainterPath:
    path = QPainterPath()
    _SHAPES[sign.kind](path, sign)
    return path


def _dot(path: QPainterPath, sign: Sign) -> None:
    path.addEllipse(QPointF(_middle(sign), _height(sign)), 0.022 * sign.size, 0.022 * sign.size)


def _bowl(path: QPainterPath, sign: Sign) -> None:
    """Of a space that is wider, narrower or does not end a line."""
    half, rim = max(sign.wide * 0.35, 0.06 * sign.size), sign.baseline - 0.08 * sign.size
    left, right = _middle(sign) - half, _middle(sign) + half
    _lines(path, (left, rim), (left, sign.baseline), (right, sign.baseline), (right, rim))


def _arrow(path: QPainterPath, sign: Sign) -> None:
    em, y = sign.size, _height(sign)
    end = sign.x + sign.wide - 0.08 * em
    _lines(path, (sign.x + 0.08 * em, y), (end, y))
    _head(path, end, y, -0.14 * em)


def _hook(path: QPainterPath, sign: Sign) -> None:
    """Of a break within a paragraph."""
    em, y = sign.size, _height(sign)
    right, end = sign.x + 0.5 * em, sign.x + 0.12 * em
    _lines(path, (right, y - 0.2 * em), (right, y), (end, y))
    _head(path, end, y, 0.14 * em)


def _flag(path: QPainterPath, sign: Sign) -> None:
    """Of a paragraph's end."""
    em, left = sign.size, sign.x + 0.16 * sign.size
    path.addRect(QRectF(left, sign.baseline - 0.5 * em, 0.3 * em, 0.26 * em))
    _lines(path, (left, sign.baseline - 0.24 * em), (left, sign.baseline))


def _tee(path: QPainterPath, sign: Sign) -> None:
    """Of a place where a word may be divided."""
    half, y = 0.07 * sign.size, _height(sign)
    _lines(path, (_middle(sign) - half, y), (_middle(sign) + half, y))
    _lines(path, (_middle(sign), y), (_middle(sign), sign.baseline))


def _wedge(path: QPainterPath, sign: Sign) -> None:
    """Of an index mark."""
    top, half = sign.baseline - 0.78 * sign.size, 0.1 * sign.size
    _lines(path, (sign.x - half, top), (sign.x + half, top), (sign.x, top + 1.6 * half))
    path.closeSubpath()


_SHAPES: dict[Kind, Callable[[QPainterPath, Sign], None]] = {
    "space": _dot, "other space": _bowl, "tab": _arrow, "line break": _hook,
    "paragraph end": _flag, "soft hyphen": _tee, "mark": _wedge,
}  # fmt: skip


def _middle(sign: Sign) -> float:
    return sign.x + sign.wide / 2


def _height(sign: Sign) -> float:
    return sign.baseline - 0.24 * sign.size


def _head(path: QPainterPath, x: float, y: float, back: float) -> None:
    """The head of an arrow that points away from `back`."""
    _lines(path, (x + back, y - abs(back) * 0.7), (x, y), (x + back, y + abs(back) * 0.7))


def _lines(path: QPainterPath, *points: tuple[float, float]) -> None:
    path.moveTo(*points[0])
    for point in points[1:]:
        path.lineTo(*point)
