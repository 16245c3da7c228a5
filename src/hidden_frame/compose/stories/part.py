"""What of a story stands in one frame: what its drawing shows."""

from __future__ import annotations

from hidden_frame.typeset.fill import Opening, Where
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import TextOffset
from hidden_frame.typeset.text import SetText


class StoryPart:
    """What of a story stands in one stop.

    Paragraphs are counted from the one that `begin` is a place in, so that a part stays the
    same object when paragraphs before it come or go.  `rest` is where the text goes on.
    Parts are compared by identity.
    """

    __slots__ = ("_lines", "begin", "goes_on", "looked_at", "opening", "rest", "text")

    def __init__(
        self,
        begin: TextOffset,
        rest: Where | None,
        text: SetText,
        looked_at: tuple[ParagraphSpec, ...],
        opening: Opening,
    ) -> None:
        self.begin = begin
        self.rest = rest
        self.text = text
        self.looked_at = looked_at
        self.opening = opening
        self.goes_on = rest is not None
        self._lines: int | None = None

    @property
    def lines(self) -> int:
        """How many lines stand here."""
        if self._lines is None:
            self._lines = self.text.count
        return self._lines

    @property
    def words(self) -> int:
        """How many words stand here; parts of a divided word count as words."""
        lines = (
            line
            for f in self.text.fragments
            for b in f.blocks
            for line in b.lines[b.first : b.last]
        )
        return sum(bool(w.text) for line in lines for run in line.runs for w in run.words)
