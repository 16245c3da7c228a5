"""A page's part of a story as it would be in other frames: what a rule for masters asks."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.stories.flow import Flow
from hidden_frame.compose.stories.part import StoryPart
from hidden_frame.compose.stories.stops import Stop
from hidden_frame.typeset.fill import Where


class Tried(NamedTuple):
    """Where the text would go on behind a page, and how many lines would stand there."""

    end: Where
    lines: int


class Trials:
    """Remembers for each page its last trial; while its frames and paragraphs are the same it is
    right."""

    def __init__(self) -> None:
        self._parts: dict[tuple[str, str], tuple[Stop, StoryPart]] = {}

    def tried(self, flow: Flow, stops: tuple[Stop, ...], number: int, begin: Where) -> Tried:
        """A story from a place on in the frames of a page; `number` counts the stops before it."""
        lines = 0
        for stop in stops:
            known = self._parts.get(stop.key)
            kept = known[1] if known is not None and known[0] == stop else None
            part = flow.trial(stop, number, begin, kept)
            self._parts[stop.key] = (stop, part)
            lines += part.lines
            begin = flow.behind(begin, part)
        return Tried(begin, lines)
