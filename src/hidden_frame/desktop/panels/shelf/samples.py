"""A style as a small picture: two letters in its font, form and colour, on paper."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QIcon, QPainter, QPen

from hidden_frame.compose.ground import contrast
from hidden_frame.desktop.fields.swatches import sharp
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.painter.fonts import OUTLINE_SIZE, glyph_path
from hidden_frame.typeset.fonts import font_book

WIDTH, HEIGHT = 36, 24  # pixels
_LETTERS = "Ag"
_SMALLEST, _LARGEST = 9.0, 17.0  # pixels to the em, however large the style is
_PAPER, _NIGHT = (1.0, 1.0, 1.0), (0.16, 0.18, 0.2)


def sample(
    family: str, bold: bool, italic: bool, size: float, rgb: tuple[float, float, float]
) -> QIcon:
    """The letters as this type has them; light ones stand on dark ground."""
    ground = _PAPER if contrast(rgb, _PAPER) >= contrast(rgb, _NIGHT) else _NIGHT
    pixmap = sharp(WIDTH, HEIGHT)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(QColor(theme.current().edge), 1))
    painter.setBrush(QColor.fromRgbF(*ground))
    painter.drawRoundedRect(QRectF(0.5, 0.5, WIDTH - 1, HEIGHT - 1), 3, 3)
    face = font_book().face(family, bold, italic)
    cmap = face.tables.getBestCmap() or {}
    glyphs = [face.tables.getGlyphID(cmap[ord(c)]) for c in _LETTERS if ord(c) in cmap]
    scale = min(max(size, _SMALLEST), _LARGEST) / OUTLINE_SIZE
    paths = [glyph_path(face, glyph) for glyph in glyphs]
    wide = sum(p.boundingRect().right() * scale for p in paths) + len(paths)
    x = max((WIDTH - wide) / 2, 2.0)
    for path in paths:
        painter.save()
        painter.translate(x, HEIGHT * 0.68)
        painter.scale(scale, scale)
        painter.fillPath(path, QColor.fromRgbF(*rgb))
        painter.restore()
        x += path.boundingRect().right() * scale + 1
    painter.end()
    return QIcon(pixmap)


def nothing() -> QIcon:
    """As high and wide as a sample."""
    return QIcon(sharp(WIDTH, HEIGHT))
