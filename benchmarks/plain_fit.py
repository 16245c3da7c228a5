"""A plain whole-paragraph fit, to compare ours with: Knuth and Plass, “Breaking Paragraphs into
Lines”, Software: Practice and Experience 11 (1981), with plain TeX's values (The TeXbook,
appendix B; from memory) but its tolerance, which is without end, as columns have to be set.

Every line that can be set is looked at, and the best way is kept to each place for each of the
four classes of tightness, as in the paper.  Hyphens may stand one below the other at a price, as
often as it pays.  It shares the places where words are divided and the widths with the program,
and nothing else.
"""

from __future__ import annotations

from math import inf
from typing import NamedTuple

from hidden_frame.typeset.breaking.nodes import Nodes

LINE, HYPHEN, IN_A_ROW, BEFORE_LAST, UNLIKE = 10.0, 50.0**2, 10_000.0, 5_000.0, 10_000.0
EMERGENCY = 1e12  # of a line that can't be set at all


class Glue(NamedTuple):
    """The measure, and how far each space may shrink and stretch (points)."""

    measure: float
    shrink: float
    stretch: float


class _Active(NamedTuple):
    demerits: float
    hyphen: bool
    node: int
    kind: int  # of the way before, at `node`


def plain_fit(nodes: Nodes, glue: Glue) -> list[int]:
    """The nodes at which lines end."""
    last = len(nodes.ends) - 1
    ways: list[dict[int, _Active]] = [{1: _Active(0.0, False, 0, 1)}]
    for n in range(1, last + 1):
        best: dict[int, _Active] = {}
        for k in range(n - 1, -1, -1):
            by = _ratio(nodes, glue, k, n)
            if by < -1.0001 and best:
                break  # from no earlier one either
            by = 0.0 if n == last and by > 0 else by
            for kind, way in ways[k].items():
                _keep(best, way, kind, by, k, n == last, nodes.hyphens[n])
        ways.append(best)
    n, kind = last, min(ways[last], key=lambda c: ways[last][c].demerits)
    path = []
    while n:
        path.append(n)
        _, _, n, kind = ways[n][kind]
    return path[::-1]


def _ratio(nodes: Nodes, glue: Glue, k: int, n: int) -> float:
    spaces = nodes.end_gaps[n] - nodes.begin_gaps[k]
    room = glue.measure - (nodes.ends[n] - nodes.begins[k])
    if abs(room) < 1e-3:
        return 0.0
    if room < 0:
        return room / (spaces * glue.shrink) if spaces else -inf
    return room / ((spaces or 0.25) * glue.stretch)


def _keep(
    best: dict[int, _Active], way: _Active, kind: int, by: float, k: int, last: bool, hyphen: bool
) -> None:
    bad = min(100.0 * abs(by) ** 3, 1e6)
    total = way.demerits + ((LINE + bad) ** 2 if by >= -1.0001 else EMERGENCY)
    total += (HYPHEN + IN_A_ROW * way.hyphen) * hyphen + BEFORE_LAST * (last and way.hyphen)
    now = 0 if by < -0.5 else 1 if by <= 0.5 else 2 if by <= 1.0 else 3
    total += UNLIKE * (abs(now - kind) > 1)
    if now not in best or total < best[now].demerits:
        best[now] = _Active(total, hyphen, k, kind)
