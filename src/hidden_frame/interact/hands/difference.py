"""Where two pictures of a page differ: what is to be painted again.

>>> scene = composition.scene(page)
>>> difference(scene, scene) is None
True
"""

from __future__ import annotations

import operator
from collections.abc import Iterator

from hidden_frame.compose.scene import (
    Matrix,
    PathPrimitive,
    PicturePrimitive,
    Placed,
    Placeholder,
    Scene,
    TextPrimitive,
)
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import Bounds, around_all
from hidden_frame.typeset.line import GlyphRun, TextLine
from hidden_frame.typeset.text import PlacedLine

_SLACK = 12.0  # points: antialiasing, marks, letters that lean out of their line


def difference(before: Scene, after: Scene) -> Bounds | None:
    """The part of the page, in points, in which two scenes may differ; None if they look the
    same.  Of a text only the lines that differ count."""
    areas = []
    for a, b in _pairs(before.painted, after.painted):
        lines = _lines_changed(a, b) if a is not None and b is not None else None
        areas += [lines] if lines is not None else [reach(p) for p in (a, b) if p is not None]
    return around_all(areas) if areas else None


@remembered()
def reach(placed: Placed) -> Bounds:
    """Everything an item may paint, in points on its page: its box, half its stroke, text that
    leans out, and what is anchored in it and stands beside it."""
    left, top, right, bottom = around_all([placed.bounds, *_outside(placed)])
    pens = [
        p.pen.width for p in placed.drawing.primitives if isinstance(p, PathPrimitive) and p.pen
    ]
    out = _SLACK + max(pens, default=0.0)
    return Bounds(left - out, top - out, right + out, bottom + out)


def _outside(placed: Placed) -> Iterator[Bounds]:
    """The boxes of pictures and captions that are part of an item, on its page."""
    first = placed.drawing.text
    for p in placed.drawing.primitives:
        if isinstance(p, PicturePrimitive | Placeholder):
            x, y, width, height = p.rect
        elif isinstance(p, TextPrimitive) and p is not first:
            (left, right), *_ = p.text.columns
            x, y, width, height = p.x + left, p.y, right - left, p.text.height
        else:
            continue
        corners = [placed.matrix.apply(x + dx, y + dy) for dx in (0, width) for dy in (0, height)]
        yield around_all(Bounds(cx, cy, cx, cy) for cx, cy in corners)


def _lines_changed(a: Placed, b: Placed) -> Bounds | None:
    """The part of a text frame whose lines differ; None if more than its lines may differ."""
    one, other = a.drawing, b.drawing
    same = a.matrix == b.matrix and (one.width, one.height) == (other.width, other.height)
    if not same or a.matrix.b or a.printing != b.printing:
        return None
    texts = [p for p in one.primitives if isinstance(p, TextPrimitive)]
    if len(one.primitives) != len(other.primitives) or len(texts) != 1:
        return None
    for p, q in zip(one.primitives, other.primitives, strict=True):
        if isinstance(p, TextPrimitive) and isinstance(q, TextPrimitive):
            if (p.x, p.y, p.alpha) != (q.x, q.y, q.alpha):
                return None
            block, old = q, p
        elif p != q:
            return None
    rows = _rows_changed(old.text.lines[: old.shown], block.text.lines[: block.shown])
    return _around_rows(rows, a.matrix, one.width, block.y)


def _rows_changed(before: list[PlacedLine], after: list[PlacedLine]) -> list[PlacedLine]:
    """The lines of both texts between those that are alike at their heads and feet."""
    first = 0
    while first < min(len(before), len(after)) and _alike(before[first], after[first]):
        first += 1
    last_old, last_new = len(before), len(after)
    while min(last_old, last_new) > first and _alike(before[last_old - 1], after[last_new - 1]):
        last_old, last_new = last_old - 1, last_new - 1
    return before[first:last_old] + after[first:last_new]


def _around_rows(rows: list[PlacedLine], matrix: Matrix, width: float, down: float) -> Bounds:
    left, top = matrix.e, matrix.f
    if not rows:
        return Bounds(left, top, left + 1, top + 1)
    y1, y2 = min(r.top for r in rows), max(r.bottom for r in rows)
    lean = max((run.setting.size for r in rows for run in r.runs), default=0.0) * 0.6 + 4
    top += down
    return Bounds(left - _SLACK, top + y1 - lean, left + width + _SLACK, top + y2 + lean)


def _alike(a: PlacedLine, b: PlacedLine) -> bool:
    """Whether two lines look the same: most are the very same line at the same place."""
    if (a.x, a.baseline) != (b.x, b.baseline):
        return False
    return a.line is b.line or _look_alike(a.line, b.line)


def _look_alike(one: TextLine, other: TextLine) -> bool:
    if (one.rise, one.height) != (other.rise, other.height):
        return False
    runs, others = (*one.runs, *one.leaders), (*other.runs, *other.leaders)
    return len(runs) == len(others) and all(map(_same_run, runs, others))


def _same_run(a: GlyphRun, b: GlyphRun) -> bool:
    """Whether two runs paint the same: a key typed into a paragraph sets all of it anew, and
    most of its lines come out as they were.  Equal words are the same object."""
    if a.setting is not b.setting or a.span.ink != b.span.ink or a.span.marker != b.span.marker:
        return False
    words, others = a.words, b.words
    return len(words) == len(others) and all(map(operator.is_, words, others)) and a.xs == b.xs


def _pairs(
    before: tuple[Placed, ...], after: tuple[Placed, ...]
) -> list[tuple[Placed | None, Placed | None]]:
    """Items that differ between two scenes; order counts, so a new order is all different."""
    if [_key(p) for p in before] == [_key(p) for p in after]:
        return [
            (a, b)
            for a, b in zip(before, after, strict=True)
            if a.drawing is not b.drawing or a.matrix != b.matrix or a.printing != b.printing
        ]
    old = {_key(p): p for p in before}
    new = {_key(p): p for p in after}
    kept = [i for i in old if i in new]
    if kept == [i for i in new if i in old]:
        found: list[tuple[Placed | None, Placed | None]] = [
            (old[i], new[i])
            for i in kept
            if old[i].drawing is not new[i].drawing or old[i].matrix != new[i].matrix
        ]
        found += [(old[i], None) for i in old if i not in new]
        found += [(None, new[i]) for i in new if i not in old]
        return found
    return [(p, None) for p in before] + [(None, p) for p in after]


def _key(placed: Placed) -> tuple[str, object]:
    """What tells an item from all others on a page: a master's may be there twice, from either
    side of the spine."""
    return placed.item_id, placed.home
