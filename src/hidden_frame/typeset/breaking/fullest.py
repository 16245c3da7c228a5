"""The fullest line that may end at each node."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.breaking.demerits import Fit
from hidden_frame.typeset.breaking.nodes import Nodes


def fullest(nodes: Nodes, fit: Fit, begin: int = 1, first: int = 0) -> Iterator[int]:
    """For each node from `begin` on the earliest node from which a line to it can be set, or the
    one just before it, if none can; that of the node before `begin` is `first`."""
    shrink, begins, gaps = fit.shrink, nodes.begins, nodes.begin_gaps
    for n in range(begin, len(nodes.ends)):
        least = nodes.ends[n] - shrink * nodes.end_gaps[n] - fit.measure - TOLERANCE
        while first < n - 1 and begins[first] - shrink * gaps[first] < least:
            first += 1
        yield first
