"""Breaking a paragraph anew after a key: only what lies behind the change is looked at again.

Where lines may end before a change, and the best ways to there, are the same in a paragraph that
begins with the same tokens.  Widths are exact (`demerits`), so that they are the same to the bit.
"""

from __future__ import annotations

from bisect import bisect_left
from collections import deque
from itertools import compress, count
from operator import attrgetter, is_not
from typing import NamedTuple

from hidden_frame.typeset.breaking.demerits import Fit
from hidden_frame.typeset.breaking.nodes import Nodes
from hidden_frame.typeset.segments import Segment

LONG = 60  # tokens from which it is worth the while


class Ways(NamedTuple):
    """Of the first nodes the best way to each: its demerits, the node before it, the tightness of
    the line that ends there, its ratio, and how many hyphens stand one below the other; and the
    earliest node from which a line to it can be set."""

    best: list[float]
    before: list[int]
    kind: list[int]
    ratios: list[float]
    row: list[int]
    firsts: list[int]


def begun() -> Ways:
    """The way to node 0, where the text begins."""
    return Ways([0.0], [0], [1], [0.0], [0], [0])


class _Broken(NamedTuple):
    """A paragraph that was broken; `ways` may be found for its first nodes only."""

    segment: Segment
    fit: Fit
    indent: float
    divide: bool
    nodes: Nodes
    ways: Ways


_broken: deque[_Broken] = deque(maxlen=6)


def forget() -> None:
    """Lets go of the paragraphs that were broken last."""
    _broken.clear()


def keep(
    segment: Segment, fit: Fit, indent: float, divide: bool, nodes: Nodes, ways: Ways
) -> None:  # fmt: skip
    """Remembers how far a paragraph is broken; `ways` may go on growing."""
    if len(segment.words) >= LONG:
        _broken.append(_Broken(segment, fit, indent, divide, nodes, ways))


def resumed(
    segment: Segment, fit: Fit, indent: float, divide: bool
) -> tuple[Nodes, Ways, int] | None:
    """What is known of a paragraph from one that begins with the same tokens: its nodes as far as
    they are the same, the ways to them, and the token with which nodes go on; None if nothing."""
    if len(segment.words) < LONG:
        return None
    for n, old in enumerate(_broken):
        if (old.indent, old.divide, old.fit) == (indent, divide, fit):
            token = _same_tokens(old.segment, segment)
            if token > 0:
                to = bisect_left(old.nodes.breaks, token, key=attrgetter("token"))
                nodes = Nodes._make(each[:to] for each in old.nodes)
                del _broken[n]  # the changed one takes its place
                return nodes, Ways._make(each[:to] for each in old.ways), token
    return None


def _same_tokens(old: Segment, new: Segment) -> int:
    """How many tokens at the head of two segments lines may end behind in the same way."""
    a, b = old.words, new.words
    same = next(compress(count(), map(is_not, a, b)), min(len(a), len(b)))
    # A line's end also depends on the token that follows, and on whether it is the last one.
    most = min(same - 1, old.last_visible, new.last_visible)
    if most <= 0 or not b[most].text or _way(old, most) != _way(new, most):
        return 0
    return most


def _way(segment: Segment, to: int) -> tuple[object, ...]:
    """All of a segment's first tokens but their words that says where lines may end."""
    spans = segment.spans
    return (
        segment.languages,
        segment.ends[: to + 1],
        [True] * (to + 1) if segment.all_spaced else [True, *segment.spaced[1 : to + 1]],
        spans if isinstance(spans, int) else spans[: to + 1],
        [item for item in segment.marked.items() if item[0] <= to],
    )
