"""How far two sequences are the same objects: what an edit of a long text left as it was."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import compress, count
from operator import is_not


def same_ends(old: Sequence[object], new: Sequence[object]) -> tuple[int, int]:
    """How many elements are the same objects at the head, and at the foot behind it.

    >>> a, b, c = [1], [2], [3]
    >>> same_ends((a, b, c), (a, [9], [9], c))
    (1, 1)
    """
    if old is new:
        return len(old), 0
    most = min(len(old), len(new))
    head = next(compress(count(), map(is_not, old, new)), most)
    back = map(is_not, reversed(old), reversed(new))
    foot = next(compress(count(), back), most)
    return head, min(foot, most - head)
