"""Work that is done a few milliseconds at a time, so that a desk can go on between."""

from __future__ import annotations

import time
from collections.abc import Generator

from hidden_frame.model.publication import Publication

# What is laid out so far, again and again; in the end what comes of it.
Slices = Generator[Publication, None, Publication]


class Working:
    """Work under way: what it has so far (`seen`), and what came of it once it is `done`."""

    def __init__(self, slices: Slices, seen: Publication) -> None:
        self._slices = slices
        self.seen = seen
        self.done = False

    def go_on(self, seconds: float) -> bool:
        """Works for so long; whether it is done then."""
        end = time.perf_counter() + seconds
        while not self.done:
            try:
                self.seen = next(self._slices)
            except StopIteration as stop:
                self.seen, self.done = stop.value, True
            if time.perf_counter() >= end:
                break
        return self.done

    def finish(self) -> Publication:
        """Works until it is done."""
        self.go_on(float("inf"))
        return self.seen
