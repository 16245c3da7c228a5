"""Pages paired by hand: in spreads, and on the sheets of a booklet."""

from __future__ import annotations

from hidden_frame.model.publication import Setup
from hidden_frame.model.sides import spread_of


def spreads(count: int, setup: Setup) -> list[tuple[int, ...]]:
    """The positions of each spread, in reading order: `[(1,), (2, 3), (4,)]`."""
    result: list[tuple[int, ...]] = []
    for position in range(1, count + 1):
        number = spread_of(position, setup)
        if number > len(result):
            result.append((position,))
        else:
            result[-1] = (*result[-1], position)
    return result


def sheet_pairs(count: int) -> list[tuple[tuple[int, int], tuple[int, int]]]:
    """The positions on the sheets of a saddle-stitched booklet, the outer sheet first:
    front (left, right) and back (left, right).  Common practice of the trade.

    >>> sheet_pairs(8)
    [((8, 1), (2, 7)), ((6, 3), (4, 5))]
    """
    return [((count - 2 * n, 2 * n + 1), (2 * n + 2, count - 2 * n - 1)) for n in range(count // 4)]
