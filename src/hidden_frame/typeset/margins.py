"""Marks that stand out of the measure, so that the edge of the text looks even."""

from __future__ import annotations

from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.segments import Segment
from hidden_frame.typeset.shaping import Word

# How much of a mark stands outside, as a share of its width: common practice of the trade.
_BEFORE = dict.fromkeys("“„‘‚«‹\"'", 1.0) | dict.fromkeys("([{", 0.3)
_BEHIND = (
    dict.fromkeys("-‐.,", 0.8) | dict.fromkeys("”’»›\"'", 0.9) | dict.fromkeys(";:!?", 0.4)
    | dict.fromkeys("–)]}", 0.3) | dict.fromkeys("—", 0.2)
)  # fmt: skip


def hanging(segment: Segment, cut: Cut) -> tuple[float, float]:
    """How far a line's first and last mark stand out on the left and on the right, in points."""
    if cut.last < cut.first and cut.tail is None:
        return 0.0, 0.0
    first = cut.head or (segment.words[cut.first] if cut.last >= cut.first else cut.tail)
    last = cut.tail or (cut.head if cut.last == cut.first else None) or segment.words[cut.last]
    assert first is not None
    return _out(first, first.text[:1], _BEFORE), _out(last, last.text[-1:], _BEHIND)


def _out(word: Word, mark: str, shares: dict[str, float]) -> float:
    share = shares.get(mark, 0.0)
    return word.setting.word(mark).width * share if share else 0.0
