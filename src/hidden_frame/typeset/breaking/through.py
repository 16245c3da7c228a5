"""Total fit where lines have measures of their own, as beside a picture.

The best way to a place now depends on how many lines lead to it, so it is looked for line after
line: what is known is the best way to each node that so many lines may reach.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from typing import NamedTuple

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.breaking.demerits import (
    FORBIDDEN,
    HYPHEN,
    HYPHEN_BEFORE_LAST,
    HYPHENS_IN_A_ROW,
    OVERFULL,
    UNLIKE,
    Fit,
    cost,
    fits,
    ratio,
    short_last,
    tightness,
)
from hidden_frame.typeset.breaking.nodes import Nodes


class _Way(NamedTuple):
    """The best way to a node by so many lines: its demerits, the tightness of the last line,
    how many hyphens stand one below the other, and the way before it."""

    demerits: float
    kind: int
    row: int
    node: int
    before: _Way | None


def path_through(nodes: Nodes, fit: Fit, measures: Sequence[float], ways: int) -> list[int] | None:
    """The nodes at which lines end, the first line at the first measure (points), those behind
    the last measure at that one; None if something is wider than its line.
    """
    last = len(nodes.ends) - 1
    layer = {0: _Way(0.0, 1, 0, 0, None)}
    done: _Way | None = None
    number = 0
    while layer:
        here = fit._replace(measure=measures[min(number, len(measures) - 1)])
        found: dict[int, _Way] = {}
        for way in layer.values():
            if done is None or way.demerits < done.demerits:
                _onward(nodes, here, way, ways, found)
        end = found.pop(last, None)
        if end is not None and (done is None or end.demerits < done.demerits):
            done = end
        layer = found
        number += 1
    if done is None or done.demerits >= OVERFULL:
        return None
    path, at = [], done
    while at.before is not None:
        path.append(at.node)
        at = at.before
    return path[::-1]


def _onward(nodes: Nodes, fit: Fit, way: _Way, ways: int, found: dict[int, _Way]) -> None:
    """The lines that begin where a way ends: the fullest ones, and the paragraph's last."""
    last, first = len(nodes.ends) - 1, way.node + 1
    reach = nodes.begins[way.node] + fit.measure + TOLERANCE
    # Spaces may shrink, so a few nodes beyond what fits by itself are looked at too.
    far = min(bisect_right(nodes.ends, reach, first, last + 1) + 2, last)
    tried = 0
    for node in range(far, first - 1, -1):
        gaps = nodes.end_gaps[node] - nodes.begin_gaps[way.node]
        room = fit.measure - (nodes.ends[node] - nodes.begins[way.node])
        good = fits(fit, room, gaps)
        if not good and node > first:
            continue
        _keep(found, node, _line(nodes, fit, way, node, room, gaps, good, node == last))
        tried += 1
        if tried > ways:
            break


def _line(
    nodes: Nodes, fit: Fit, way: _Way, node: int, room: float, gaps: int, good: bool, last: bool
) -> _Way:
    hyphen = nodes.hyphens[node]
    by = ratio(fit, room, gaps)
    by = min(by, 0.0) if last else by
    total = way.demerits + (cost(by) if good else OVERFULL)
    if last:
        total += short_last(fit, fit.measure - room)
    if hyphen:
        total += HYPHEN
    if way.row and last:
        total += HYPHEN_BEFORE_LAST
    if way.row and hyphen:
        total += HYPHENS_IN_A_ROW if way.row < fit.ladder else FORBIDDEN
    kind = tightness(by)
    if fit.justified and abs(kind - way.kind) > 1:
        total += UNLIKE
    return _Way(total, kind, way.row + 1 if hyphen else 0, node, way)


def _keep(found: dict[int, _Way], node: int, way: _Way) -> None:
    known = found.get(node)
    if known is None or way.demerits < known.demerits:
        found[node] = way
