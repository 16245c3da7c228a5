"""A line that would be loose or tight, with its letters a little wider apart, or themselves a
little wider or narrower.

Common practice of the trade: letters are spaced and scaled only where nothing else helps, and so
little that nobody sees it; the style says how much at most.
"""

from __future__ import annotations

from array import array

from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import Segment
from hidden_frame.typeset.shaping import Word, setting_of

STEP = 4.0  # 1/1000 em: letter spaces are multiples of it, so that words are shaped once for each
SCALES = 1 / 400  # the same for the share by which letters are wider or narrower


def spaced_out(
    segment: Segment, cut: Cut, spec: ParagraphSpec, room: float, spaces: int
) -> tuple[Segment, Cut] | None:
    """The line as a segment of its own, if its spaces, which are to take up `room` points more
    (or fewer), would be wider or narrower than the style likes; None if it is good as it is."""
    spacing, space = spec.spacing, spec.base.space
    wanted = room - spaces * space * (spacing.most - 1)
    lacking = room + spaces * space * (1 - spacing.least)
    if wanted <= 0 and (lacking >= 0 or not spacing.glyphs):
        return None  # most lines
    words = segment.words[cut.first : cut.last + 1]
    if cut.head is not None and words:
        words[0] = cut.head
    if cut.tail is not None:
        words.append(cut.tail)
    places = sum(len(word.shaped.glyphs) for word in words) + spaces
    if not places:
        return None
    if wanted <= 0:
        by = _share(lacking, words, spaces * space, spacing.glyphs)
        return _wider(segment, cut, words, 0.0, by) if by else None
    em = spec.base.size / 1000
    letters = min(spacing.letters, wanted / places / em) // STEP * STEP
    left = wanted - letters * places * em
    by = _share(left, words, spaces * space, spacing.glyphs) if spacing.glyphs else 0.0
    return _wider(segment, cut, words, letters, by) if letters or by else None


def _share(wanted: float, words: list[Word], spaces: float, most: float) -> float:
    """By what share glyphs and the spaces between them are to be wider for so many points, as far
    as that is allowed: less than nothing to be narrower."""
    width = sum(word.width for word in words if word.shaped.glyphs) + spaces
    share = min(max(wanted / width, -most), most) if width else 0.0
    return int(share / SCALES) * SCALES


def _wider(
    segment: Segment, cut: Cut, words: list[Word], by: float, share: float
) -> tuple[Segment, Cut]:
    first, count = cut.first, len(words)
    made = Segment(segment.origin, segment.languages)
    made.spans = segment.spans if isinstance(segment.spans, int) else segment.spans[first:][:count]
    made.all_spaced, made.spaced = segment.all_spaced, segment.spaced[first:][:count]
    made.words, made.ends = [], array("d")
    made.marked = {n - first: v for n, v in segment.marked.items() if first <= n < first + count}
    made.ends_with = segment.ends_with
    made.spread = True
    if segment.levels is not None:
        made.levels = segment.levels[first:][:count]
        made.gap_levels = segment.gap_levels[first:][:count]
    x = 0.0
    for n, word in enumerate(words):
        old = word.setting
        tracking = old.tracking / old.size * 1000 + by
        new = word.dressed(
            setting_of(old.face, old.size, tracking, old.manner, old.shift, 1 + share)
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
