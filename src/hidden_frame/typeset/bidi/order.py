"""What stands on a line, from left to right (UAX #9, rule L2).

>>> visual([0, 1, 1, 2, 2, 1])
[0, 5, 3, 4, 2, 1]
"""

from __future__ import annotations

from collections.abc import Sequence


def visual(levels: Sequence[int]) -> list[int]:
    """The numbers of things on a line by the places at which they stand."""
    order = list(range(len(levels)))
    if not levels:
        return order
    odd = [level for level in levels if level % 2]
    for level in range(max(levels), min(odd, default=max(levels) + 1) - 1, -1):
        start = 0
        while start < len(order):
            end = start
            while end < len(order) and levels[order[end]] >= level:
                end += 1
            if end > start:
                order[start:end] = order[start:end][::-1]
            start = max(end, start + 1)
    return order
