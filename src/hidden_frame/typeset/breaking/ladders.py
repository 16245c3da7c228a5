"""The best way where hyphens must not stand one below the other more often than a style allows.

`total_fit.best_path` keeps one best way to each node, whatever stands before it, so the best way
of few hyphens may be lost on a node whose best way comes with many.  Here the best way to each
node is kept for every number of hyphens in a row that it may end with; few paragraphs need it.
"""

from __future__ import annotations

from typing import NamedTuple

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
from hidden_frame.typeset.breaking.fullest import fullest
from hidden_frame.typeset.breaking.nodes import Nodes


class _Way(NamedTuple):
    """The best way to a node that ends with so many hyphens in a row: its demerits, the tightness
    of its last line, and the node and the row of the way before it."""

    demerits: float
    kind: int
    before: int
    row: int


def path_by_rows(nodes: Nodes, fit: Fit, ways: int) -> list[int]:
    """The nodes at which lines end, none of them behind more than `fit.ladder` hyphens in a row
    if there is any such way."""
    last = len(nodes.ends) - 1
    best: list[dict[int, _Way]] = [{0: _Way(0.0, 1, 0, 0)}]
    for n, first in enumerate(fullest(nodes, fit), 1):
        found: dict[int, _Way] = {}
        for k in range(first, n if n == last else min(n, first + ways)):
            _lines(nodes, fit, n, k, best[k], found)
        best.append(found)
    path: list[int] = []
    n, row = last, min(best[last], key=lambda row: best[last][row].demerits)
    while n > 0:
        path.append(n)
        _, _, n, row = best[n][row]
    return path[::-1]


def _lines(
    nodes: Nodes, fit: Fit, n: int, k: int, before: dict[int, _Way], found: dict[int, _Way]
) -> None:
    """Keeps the ways to node `n` by a line from node `k`, where they are the best."""
    last, hyphen = n == len(nodes.ends) - 1, nodes.hyphens[n]
    gaps, width = nodes.end_gaps[n] - nodes.begin_gaps[k], nodes.ends[n] - nodes.begins[k]
    room = fit.measure - width
    by = ratio(fit, room, gaps)
    by = min(by, 0.0) if last else by
    costs = cost(by) if fits(fit, room, gaps) else OVERFULL
    costs += HYPHEN * hyphen + (short_last(fit, width) if last else 0.0)
    kind = tightness(by)
    for row, way in before.items():
        total = way.demerits + costs
        if row and last:
            total += HYPHEN_BEFORE_LAST
        if row and hyphen:
            total += HYPHENS_IN_A_ROW if row < fit.ladder else FORBIDDEN
        if fit.justified and abs(kind - way.kind) > 1:
            total += UNLIKE
        now = min(row + 1, fit.ladder) if hyphen else 0
        if now not in found or total < found[now].demerits:
            found[now] = _Way(total, kind, k, row)
