"""A text that was set, in other inks: the same lines at the same places."""

from __future__ import annotations

from copy import copy

from hidden_frame.typeset.line import GlyphRun, TextLine
from hidden_frame.typeset.paragraph import Ink, Span
from hidden_frame.typeset.text import PlacedLine, SetText


class DarkText(SetText):
    """A text on dark ground: all of it in one `ink`, or each span in its own for dark ground."""

    __slots__ = ("_ink", "_text")

    def __init__(self, text: SetText, ink: Ink | None = None) -> None:
        super().__init__(text.fragments, text.columns, text.specs)
        self._text, self._ink = text, ink

    @property
    def lines(self) -> list[PlacedLine]:
        """As those of the text, in other inks."""
        if self._lines is None:
            self._lines = [self._inked(placed) for placed in self._text.lines]
        return self._lines

    def _inked(self, placed: PlacedLine) -> PlacedLine:
        made = copy(placed)
        line: TextLine = copy(placed.line)
        line.leaders = tuple(self._run(run) for run in placed.leaders)
        line._runs = tuple(self._run(run) for run in placed.runs)
        made.line = line
        return made

    def _run(self, run: GlyphRun) -> GlyphRun:
        ink = self._ink if self._ink is not None else run.span.dark
        if ink is None:
            return run
        made = copy(run)
        made.span = run.span._replace(ink=ink)
        return made


def names_dark(spans: tuple[Span, ...]) -> bool:
    """Whether any of these has an ink of its own for dark ground."""
    return any(span.dark is not None for span in spans)
