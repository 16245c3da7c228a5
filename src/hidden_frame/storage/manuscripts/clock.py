"""A reader's clock: what takes longer than any manuscript does is given up."""

from __future__ import annotations

import time

MOST_SECONDS = 60.0  # of the processor's time in one thread, so that a busy machine costs nothing


class TooSlow(Exception):
    """What is read takes longer than any manuscript does."""


class Clock:
    """Counts from when it is made, in its thread.

    >>> Clock().look()
    >>> Clock(most=-1.0).look()
    Traceback (most recent call last):
    ...
    hidden_frame.storage.manuscripts.clock.TooSlow
    """

    def __init__(self, most: float | None = None) -> None:
        self._end = time.thread_time() + (MOST_SECONDS if most is None else most)

    def look(self) -> None:
        """Raises `TooSlow` when the time is up."""
        if time.thread_time() > self._end:
            raise TooSlow
