"""Initials: the letters with which a paragraph begins, set over several of its lines."""

from __future__ import annotations

from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.line import Laid, TextLine
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import Segment

BESIDE = 0.15  # of the size: what stands between initials and the text beside them


class Initials:
    """The letters at a paragraph's head, set over the lines that are still to come, `lines`."""

    def __init__(self, spec: ParagraphSpec) -> None:
        assert spec.dress.drop is not None
        self.spec, (span, self.lines) = spec, spec.dress.drop
        segment = Segment(0, (None,))
        for part in span.text.split(" "):
            word = span.setting.word(part)
            segment.words.append(word)
            end = segment.ends[-1] + span.setting.space if segment.ends else 0.0
            segment.ends.append(end + word.width)
        self.span, self.segment = span, segment
        self.width = segment.ends[-1] + spec.base.size * BESIDE

    @property
    def fresh(self) -> bool:
        """Whether no line stands beside them yet."""
        whole = self.spec.dress.drop
        return whole is not None and self.lines == whole.lines

    def beside(self, line: TextLine) -> TextLine:
        """A line that stands beside them; the first one carries them."""
        first = self.fresh
        self.lines = max(self.lines - 1, 0)
        if not first:
            return line
        laid = Laid(self.segment, Cut(0, len(self.segment.words) - 1), self.spec.left, 0.0)
        return line.behind(self.span, laid)
