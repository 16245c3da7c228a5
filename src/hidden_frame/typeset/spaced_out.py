"""A line that would be loose with its letters a little wider apart.

Common practice of the trade: letters are spaced only where nothing else helps, and so little
that nobody sees it; the style says how much at most.
"""

from __future__ import annotations

from array import array

from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import Segment
from hidden_frame.typeset.shaping import Word, setting_of

STEP = 4.0  # 1/1000 em: letter spaces are multiples of it, so that words are shaped once for each


def spaced_out(
    segment: Segment, cut: Cut, spec: ParagraphSpec, room: float, spaces: int
) -> tuple[Segment, Cut] | None:
    """The line as a segment of its own, if its spaces, which are to take up `room` points more,
    would be wider than the style likes; None if it is good as it is."""
    good = spaces * spec.base.space * (spec.spacing.most - 1)
    words = segment.words[cut.first : cut.last + 1]
    if cut.head is not None and words:
        words[0] = cut.head
    if cut.tail is not None:
        words.append(cut.tail)
    places = sum(len(word.shaped.glyphs) for word in words) + spaces
    if room <= good or not places:
        return None
    em = spec.base.size / 1000
    by = min(spec.spacing.letters, (room - good) / places / em) // STEP * STEP
    return _wider(segment, cut, words, by) if by else None


def _wider(segment: Segment, cut: Cut, words: list[Word], by: float) -> tuple[Segment, Cut]:
    first, count = cut.first, len(words)
    made = Segment(segment.origin, segment.languages)
    made.spans = segment.spans if isinstance(segment.spans, int) else segment.spans[first:][:count]
    made.all_spaced, made.spaced = segment.all_spaced, segment.spaced[first:][:count]
    made.words, made.ends = [], array("d")
    made.marked = {n - first: v for n, v in segment.marked.items() if first <= n < first + count}
    made.ends_with = segment.ends_with
    if segment.levels is not None:
        made.levels = segment.levels[first:][:count]
        made.gap_levels = segment.gap_levels[first:][:count]
    x = 0.0
    for n, word in enumerate(words):
        old = word.setting
        tracking = old.tracking / old.size * 1000 + by
        new = setting_of(old.face, old.size, tracking, old.manner, old.shift).word(
            word.text, word.shaped.rtl
        )
        gap = n > 0 and (segment.all_spaced or segment.spaced[first + n])
        x += (new.setting.space if gap else 0.0) + new.width  # spaces are spaced too
        made.words.append(new)
        made.ends.append(x)
    # A place of its own for each token: where it stands in the paragraph's text.
    sources = segment.sources[first : first + count]
    if cut.skip and sources:
        sources[0] += cut.skip
    made.__dict__["sources"] = sources
    made.origin = sources[0]
    if cut.used:  # the hyphen is no character of the text
        made.marked[count - 1] = cut.used - (cut.skip if cut.last < cut.first else 0)
    return made, Cut(0, count - 1)
