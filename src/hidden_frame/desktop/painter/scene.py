"""A scene painted on a QPainter whose unit is the point and whose origin the trim's corner."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QGlyphRun,
    QPainter,
    QPainterPath,
    QPen,
    QTransform,
)

from hidden_frame.compose.ground import rgb
from hidden_frame.compose.scene import (
    PathPrimitive,
    PicturePrimitive,
    Placed,
    Placeholder,
    Scene,
    TextPrimitive,
)
from hidden_frame.desktop.painter.fonts import OUTLINE_SIZE, glyph_path, raw_font
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.signs import paint_signs
from hidden_frame.desktop.painter.spelling import paint_doubts
from hidden_frame.model.memory import remembered
from hidden_frame.spelling.words import AskedWord
from hidden_frame.typeset.decoration import borders, decorated, decorations
from hidden_frame.typeset.judged import looseness
from hidden_frame.typeset.line import TextLine
from hidden_frame.typeset.paragraph import Ink
from hidden_frame.typeset.shaping import Setting, Word
from hidden_frame.typeset.text import SetText


def colour(ink: Ink, alpha: float = 1.0) -> QColor:
    """A screen colour; CMYK by the plain formula, without a colour profile."""
    return QColor.fromRgbF(*rgb(ink), alpha)


class Rendering(NamedTuple):
    """How a scene is painted besides what is printed.

    `proof` leaves out what is not printed; `chip` is the tint behind markers on
    masters, `note` the colour of placeholders.  `greeked` text that is too small to be
    read is painted as bars, as is common practice for thumbnails.  `tinted` tints lines that
    are `loose` or `tight`, the stronger the further their spaces are from natural.  `signs`
    stand where characters print nothing, in `sign`.  Words that are `doubtful` are marked in
    `alarm`.
    """

    proof: bool = False
    chip: QColor = QColor(183, 121, 31, 46)
    note: QColor = QColor(120, 112, 100)
    greeked: bool = False
    alarm: QColor = QColor(190, 60, 40)
    tinted: bool = False
    loose: QColor = QColor(201, 120, 20)
    tight: QColor = QColor(24, 108, 176)
    signs: bool = False
    sign: QColor = QColor(24, 108, 176)
    doubtful: Callable[[list[AskedWord]], list[AskedWord]] | None = None


LARGE = 60.0  # pixels; larger type is painted as outlines
GREEK = 2.6  # pixels; smaller type shows as bars


class _Run(NamedTuple):
    """Glyphs as Qt takes them, and one by one for where it can't; `missing` are the places of
    characters that no font has."""

    glyphs: QGlyphRun
    colour: QColor
    chip: QRectF | None
    setting: Setting
    indexes: list[int]
    points: list[QPointF]
    missing: list[QRectF]


@remembered(weigh=lambda runs: 100 + 80 * len(runs))
def runs_of(line: TextLine) -> list[_Run]:
    """A line's glyph runs as Qt takes them, from the upper left corner of its measure."""
    return [
        _run(tuple(run.words), tuple(run.xs), run.setting, run.span.ink, run.span.marker,
             line.rise, line.height)
        for run in (*line.runs, *line.leaders)
        if run.words
    ]  # fmt: skip


@remembered(by_value=("words", "xs", "ink"), weigh=lambda run: 600 + 150 * len(run.indexes))
def _run(
    words: tuple[Word, ...],
    xs: tuple[float, ...],
    setting: Setting,
    ink: Ink,
    marker: bool,
    rise: float,
    height: float,
) -> _Run:
    """The same run for equal words at the same places: a key typed into a paragraph sets all of
    it anew, and most of its lines come out as they were."""
    scale, tracking, y = setting.across, setting.tracking, rise - setting.shift
    stretch = setting.stretch
    indexes: list[int] = []
    points: list[QPointF] = []
    missing: list[QRectF] = []
    right = 0.0
    for word, x in zip(words, xs, strict=True):
        shaped = word.shaped
        offsets = shaped.offsets
        right = max(right, x + word.width)
        for n, (glyph, advance) in enumerate(zip(shaped.glyphs, shaped.advances, strict=True)):
            dx, dy = offsets[n] if offsets else (0, 0)
            if glyph:
                indexes.append(glyph)
                points.append(QPointF((x + dx * scale) / stretch, y - dy * setting.scale))
            else:
                high = setting.size * 0.62
                missing.append(QRectF(x, y - high, max(advance * scale, high / 2), high))
            x += advance * scale + tracking
    glyphs = QGlyphRun()
    glyphs.setRawFont(raw_font(setting.face, setting.size))
    glyphs.setGlyphIndexes(indexes)
    glyphs.setPositions(points)
    chip = None
    if marker:
        left = min(xs)
        chip = QRectF(left - 1, height * 0.1, right - left + 2, height * 0.8)
    return _Run(glyphs, colour(ink), chip, setting, indexes, points, missing)


@remembered()
def _path(commands: tuple) -> QPainterPath:
    path = QPainterPath()
    for name, *at in commands:
        if name == "M":
            path.moveTo(*at)
        elif name == "L":
            path.lineTo(*at)
        elif name == "C":
            path.cubicTo(*at)
        else:
            path.closeSubpath()
    return path


def paint_scene(
    painter: QPainter, scene: Scene, pictures: PictureShelf, rendering: Rendering = Rendering()
) -> None:
    """Paints everything on a page; the caller has set scale and clip."""
    painter.setRenderHints(
        QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
    )
    for placed in scene.painted:
        if placed.printing or not rendering.proof:
            paint_placed(painter, placed, pictures, rendering, scene.is_master)


def paint_placed(
    painter: QPainter,
    placed: Placed,
    pictures: PictureShelf,
    rendering: Rendering,
    chips: bool = False,
) -> None:
    """Paints one item at its place."""
    painter.save()
    painter.setTransform(QTransform(*placed.matrix), True)
    if placed.multiplied:
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
    for primitive in placed.drawing.primitives:
        if isinstance(primitive, TextPrimitive):
            _paint_text(painter, primitive, rendering, chips)
        elif isinstance(primitive, PathPrimitive):
            _paint_path(painter, primitive)
        elif isinstance(primitive, PicturePrimitive):
            _paint_picture(painter, primitive, pictures, rendering)
        elif not rendering.proof:
            _paint_placeholder(painter, primitive, rendering)
    painter.restore()


def _paint_run(
    painter: QPainter,
    run: _Run,
    at: QPointF,
    alpha: float,
    scale: float,
    rendering: Rendering,
    chips: bool,
) -> None:
    """Paints one run of a line whose upper left corner is at a point."""
    if chips and run.chip is not None and not rendering.proof:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(rendering.chip)
        painter.drawRoundedRect(run.chip.translated(at), 2, 2)
    ink = run.colour
    if alpha < 1:
        ink = QColor(ink)
        ink.setAlphaF(alpha)
    if run.setting.size * scale > LARGE:
        painter.translate(at)
        clip = painter.clipBoundingRect() if painter.hasClipping() else None
        _paint_outlines(painter, run, ink, clip)
        painter.translate(-at)
    else:
        painter.setPen(ink)
        if run.setting.stretch == 1.0:
            painter.drawGlyphRun(at, run.glyphs)
        else:
            painter.translate(at)
            painter.scale(run.setting.stretch, 1.0)
            painter.drawGlyphRun(QPointF(), run.glyphs)
            painter.scale(1 / run.setting.stretch, 1.0)
            painter.translate(-at)
    if run.missing and not rendering.proof:
        _paint_missing(painter, [rect.translated(at) for rect in run.missing], rendering)


def _paint_bars(painter: QPainter, block: TextPrimitive) -> None:
    """Each line as a bar as high as its small letters and as dark as its words look."""
    for rect, ink in _bars(block.text, block.shown):
        painter.fillRect(rect.translated(block.x, block.y), colour(ink, 0.42 * block.alpha))


@remembered(weigh=lambda bars: 250 * len(bars))
def _bars(text: SetText, shown: int) -> list[tuple[QRectF, Ink]]:
    """The bars of a text's first lines, and their inks."""
    found = []
    for line in text.lines[:shown]:
        if line.runs:
            span = line.runs[0].span
            high = span.setting.size * 0.46
            rect = QRectF(line.left, line.baseline - high, line.right - line.left, high)
            found.append((rect, span.ink))
    return found


@remembered(weigh=lambda runs: 250 * len(runs))
def _standing(text: SetText, shown: int) -> list[tuple[float, float, QPointF, _Run]]:
    """The runs of a text's first lines where they stand: how far up and down they reach, and
    the upper left corner of their line's measure."""
    return [
        (line.top - lean, line.bottom + lean, QPointF(line.x, line.top), run)
        for line in text.lines[:shown]
        for run in runs_of(line.line)
        # Accents and swashes lean out of the line, and what is shifted stands out of it.
        for lean in (run.setting.size * 0.6 + abs(run.setting.shift),)
    ]


@remembered(weigh=lambda rects: 200 * len(rects))
def _decorated(text: SetText, shown: int) -> list[tuple[QRectF, Ink]]:
    """Lines under and through words, rules of paragraphs, and their inks."""
    rules = [(QRectF(b.x, b.y, b.width, b.height), b.ink) for b in borders(text, shown)]
    if not decorated(text):
        return rules
    return rules + [
        (QRectF(line.x + d.x, line.baseline + d.y, d.width, d.height), d.ink)
        for line in text.lines[:shown]
        for d in decorations(line.line)
    ]


@remembered(weigh=lambda rects: 200 * len(rects))
def _judged(text: SetText, shown: int) -> list[tuple[QRectF, float]]:
    """Lines whose spaces are not natural, and how far they are from it."""
    return [
        (QRectF(line.left, line.top, line.right - line.left, line.height), by)
        for line in text.lines[:shown]
        for by in (looseness(line, text.specs[line.paragraph]),)
        if abs(by) > 0.25
    ]


def _too_small(painter: QPainter, block: TextPrimitive) -> bool:
    at = painter.deviceTransform()
    scale = (at.m11() ** 2 + at.m12() ** 2) ** 0.5
    return _largest(block.text) * scale < GREEK


@remembered()
def _largest(text: SetText) -> float:
    """The size of the largest type in a text, in points."""
    sizes = [span.setting.size for spec in text.specs for span in spec.spans]
    return max(sizes, default=max((s.base.size for s in text.specs), default=0.0))


def _paint_text(painter: QPainter, block: TextPrimitive, rendering: Rendering, chips: bool) -> None:
    if rendering.greeked and _too_small(painter, block):
        _paint_bars(painter, block)
        return
    painter.translate(block.x, block.y)
    at = painter.deviceTransform()
    scale = (at.m11() ** 2 + at.m12() ** 2) ** 0.5
    # Lines far outside of what is painted would cost as much as those within.
    clip = painter.clipBoundingRect() if painter.hasClipping() else None
    highest, lowest = (-math.inf, math.inf) if clip is None else (clip.top(), clip.bottom())
    if rendering.tinted:
        for rect, by in _judged(block.text, block.shown):
            tint = QColor(rendering.loose if by > 0 else rendering.tight)
            tint.setAlphaF(min(abs(by) * 0.16, 0.5))
            painter.fillRect(rect, tint)
    plain = block.alpha >= 1 and not chips
    for top, bottom, at_run, run in _standing(block.text, block.shown):
        if bottom < highest or top > lowest:
            continue
        if plain and not run.missing and run.setting.size * scale <= LARGE:  # most by far
            painter.setPen(run.colour)
            painter.drawGlyphRun(at_run, run.glyphs)
        else:
            _paint_run(painter, run, at_run, block.alpha, scale, rendering, chips)
    for rect, ink in _decorated(block.text, block.shown):
        painter.fillRect(rect, colour(ink, block.alpha))
    if rendering.doubtful is not None:
        paint_doubts(painter, block.text, block.shown, rendering.doubtful, rendering.alarm, clip,
                     scale)  # fmt: skip
    if rendering.signs:
        paint_signs(painter, block.text, block.shown, rendering.sign, clip)
    painter.translate(-block.x, -block.y)


def _paint_outlines(painter: QPainter, run: _Run, ink: QColor, clip: QRectF | None) -> None:
    """Glyph by glyph as paths: Qt paints nothing of a glyph above 64 pixels whose font was made
    from data.  Those beside the clip are left out."""
    size, face = run.setting.size, run.setting.face
    left, right = (clip.left() - size * 2, clip.right() + size) if clip else (-1e9, 1e9)
    scale = size / OUTLINE_SIZE
    base, stretch = painter.transform(), run.setting.stretch
    brush = QBrush(ink)
    for glyph, point in zip(run.indexes, run.points, strict=True):
        x = point.x() * stretch
        if left <= x <= right:
            painter.setTransform(QTransform(scale * stretch, 0, 0, scale, x, point.y()) * base)
            painter.fillPath(glyph_path(face, glyph), brush)
    painter.setTransform(base)


def _paint_missing(painter: QPainter, places: list[QRectF], rendering: Rendering) -> None:
    """A small field for each character that no font has; it is not printed."""
    painter.setPen(QPen(rendering.alarm, 0))
    tint = QColor(rendering.alarm)
    tint.setAlphaF(0.18)
    painter.setBrush(tint)
    for place in places:
        painter.drawRect(place)
        painter.drawLine(place.bottomLeft(), place.topRight())


def _paint_path(painter: QPainter, primitive: PathPrimitive) -> None:
    path = _path(primitive.commands)
    if primitive.ink is not None:
        painter.fillPath(path, QBrush(colour(primitive.ink, primitive.alpha)))
    if primitive.pen is not None:
        pen = QPen(colour(primitive.pen.ink, primitive.pen.alpha), primitive.pen.width)
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
        pen.setMiterLimit(10)  # as in PDF: ISO 32000-1, 8.4.1
        if any(primitive.pen.dash):
            dash = list(primitive.pen.dash)
            dash = dash * 2 if len(dash) % 2 else dash
            pen.setDashPattern([d / primitive.pen.width for d in dash])
        painter.strokePath(path, pen)


def _paint_picture(
    painter: QPainter, primitive: PicturePrimitive, pictures: PictureShelf, rendering: Rendering
) -> None:
    x, y, w, h = primitive.rect
    at = painter.deviceTransform()
    across = (at.m11() ** 2 + at.m12() ** 2) ** 0.5
    down = (at.m21() ** 2 + at.m22() ** 2) ** 0.5
    sight = _in_sight(painter, primitive)
    if w <= 0 or h <= 0 or sight.isEmpty():
        return
    shares = ((sight.left() - x) / w, (sight.top() - y) / h,
              (sight.right() - x) / w, (sight.bottom() - y) / h)  # fmt: skip
    mirrored, upside = primitive.flip in ("across", "both"), primitive.flip in ("down", "both")
    if mirrored:
        shares = (1 - shares[2], shares[1], 1 - shares[0], shares[3])
    if upside:
        shares = (shares[0], 1 - shares[3], shares[2], 1 - shares[1])
    part = pictures.image(
        primitive.hash, primitive.kind, w * across, h * down, primitive.orientation, shares
    )
    if part is None:
        if not rendering.proof:
            bounds = _path(primitive.clip).boundingRect()
            frame = (bounds.x(), bounds.y(), bounds.width(), bounds.height())
            _paint_placeholder(painter, Placeholder(frame, "Missing picture"), rendering)
        return
    painter.save()
    clip = _path(primitive.clip)
    if len(primitive.clip) == 5:  # a rectangle, which clips faster than a path
        painter.setClipRect(clip.boundingRect(), Qt.ClipOperation.IntersectClip)
    else:
        painter.setClipPath(clip, Qt.ClipOperation.IntersectClip)
    painter.setOpacity(painter.opacity() * primitive.alpha)
    if mirrored or upside:
        middle = QPointF(x + w / 2, y + h / 2)
        painter.translate(middle)
        painter.scale(-1 if mirrored else 1, -1 if upside else 1)
        painter.translate(-middle)
    place = QRectF(x + part.x * w, y + part.y * h, part.width * w, part.height * h)
    painter.drawImage(place, part.image)
    painter.restore()


def _in_sight(painter: QPainter, primitive: PicturePrimitive) -> QRectF:
    """The part of a picture's rectangle that can be seen, in the item's coordinates."""
    area = QRectF(*primitive.rect).intersected(_path(primitive.clip).boundingRect())
    device = painter.device()
    if device is not None:
        ratio = device.devicePixelRatioF()
        whole = QRectF(0, 0, device.width() * ratio, device.height() * ratio)
        back, possible = painter.deviceTransform().inverted()
        if possible:
            area = area.intersected(back.mapRect(whole))
    return area.intersected(painter.clipBoundingRect()) if painter.hasClipping() else area


def _paint_placeholder(painter: QPainter, primitive: Placeholder, rendering: Rendering) -> None:
    """An empty picture frame: a pale field with a small ridge and a sun, and a word."""
    rect = QRectF(*primitive.rect)
    tint = QColor(rendering.note)
    tint.setAlphaF(0.12)
    painter.fillRect(rect, tint)
    side = min(rect.width(), rect.height(), 60) * 0.5
    cx, cy = rect.center().x(), rect.center().y()
    ink = QColor(rendering.note)
    ink.setAlphaF(0.6)
    painter.setPen(QPen(ink, max(side / 24, 0.3)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    ridge = QPainterPath(QPointF(cx - side / 2, cy + side * 0.3))
    for px, py in ((-0.18, -0.15), (0.02, 0.12), (0.2, -0.06), (0.5, 0.3)):
        ridge.lineTo(cx + side * px, cy + side * py)
    painter.drawPath(ridge)
    painter.drawEllipse(QPointF(cx + side * 0.26, cy - side * 0.3), side * 0.09, side * 0.09)
    if "Missing" in primitive.note and rect.width() > 60 and rect.height() > 40:
        font = painter.font()
        font.setPixelSize(8)
        painter.setFont(font)
        below = QRectF(rect.left(), cy + side * 0.4, rect.width(), 14)
        painter.drawText(below, Qt.AlignmentFlag.AlignHCenter, primitive.note)
