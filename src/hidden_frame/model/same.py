"""How far two sequences are the same objects: what an edit of a long text left as it was."""

from __future__ import annotations

from collections import deque
from collections.abc import Sequence
from itertools import compress, count
from operator import is_not

_LONG = 200  # elements from which an answer is remembered
# The last pairs of long ones: one edit has a dozen ask for the same, each of them of all that it
# knows if much has moved.
_asked: deque[tuple[Sequence[object], Sequence[object], tuple[int, int]]] = deque(maxlen=12)


def forget_ends() -> None:
    """Lets go of the sequences that were asked about."""
    _asked.clear()


def same_ends(old: Sequence[object], new: Sequence[object]) -> tuple[int, int]:
    """How many elements are the same objects at the head, and at the foot behind it.

    >>> a, b, c = [1], [2], [3]
    >>> same_ends((a, b, c), (a, [9], [9], c))
    (1, 1)
    """
    if old is new:
        return len(old), 0
    for one, other, found in _asked:
        if one is old and other is new:
            return found
    most = min(len(old), len(new))
    head = next(compress(count(), map(is_not, old, new)), most)
    back = map(is_not, reversed(old), reversed(new))
    foot = min(next(compress(count(), back), most), most - head)
    if isinstance(old, tuple) and isinstance(new, tuple) and most > _LONG:
        _asked.appendleft((old, new, (head, foot)))
    return head, foot
