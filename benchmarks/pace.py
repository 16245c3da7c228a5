"""How fast the machine is at this moment: its moods change figures in milliseconds by half, and a
yardstick moves along with them."""

from __future__ import annotations

import time
from collections.abc import Iterable, Iterator
from statistics import median

from benchmarks.measures import TIMES, Row, _qt_layout
from benchmarks.publication import page_texts

QUIET = 14.6  # milliseconds that the yardstick takes here in a quiet spell
_TEXTS = page_texts(pages=24)


def yardstick() -> float:
    """Milliseconds that QTextDocument takes to lay out 24 pages of 300 words: the median of
    five times."""
    times = []
    for _ in range(5):
        start = time.perf_counter()
        _qt_layout(_TEXTS)
        times.append(time.perf_counter() - start)
    return median(times) * 1000


def judged(rows: Iterable[Row]) -> Iterator[Row]:
    """Each time with the machine's pace around it: the yardstick before and after."""
    before = yardstick()
    for row in rows:
        after = yardstick()
        yield row._replace(pace=(before + after) / 2 / QUIET) if row.unit in TIMES else row
        before = after
