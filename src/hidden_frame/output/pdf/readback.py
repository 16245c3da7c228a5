"""What is read back where a word is not printed in one piece, or not in the order of reading.

A reader of PDF puts glyphs together by what each stands for (ToUnicode: ISO 32000-1, 9.10.3) and
by where they are; some also heed what a stretch is said to stand for (ActualText, 14.9.4), and
some don't.  So that all of them find every word whole:

- what is left of a divided word on the next line is said by its hyphen, and the glyphs there say
  nothing; so are initials by the letter behind them;
- words from right to left within a line from left to right are said by the glyphs in whose place
  they would stand if the line were read from left to right all through.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from hidden_frame.typeset.text import PlacedLine

NOTHING = "\u200b"  # of no width: a glyph that says nothing at all is told as a fault by some
ONE_GLYPH = 8  # characters that a reader takes for one glyph (mupdf, `PDF_MRANGE_CAP`)
LEFT_TO_RIGHT = "\u200e"  # a letter of no width, at which words from right to left end


class ReadBack(NamedTuple):
    """What a word says besides itself: `before` it, and in place of its hyphen the `rest`; or
    nothing at all."""

    before: str = ""
    rest: str | None = None
    nothing: bool = False


SILENT = ReadBack(nothing=True)
Told = dict[tuple[int, int], ReadBack]  # by run, and word of the run


def told(lines: Sequence[PlacedLine]) -> list[Told]:
    """What the words of a block say where that is not what they are, line by line."""
    found: list[Told] = []
    within = False  # whether the line before told the word that goes on here
    for n, line in enumerate(lines):
        here: Told = {}
        runs, first = line.runs, int(line.line.has_initials)
        if first and len(runs) > 1 and runs[1].words and runs[1].words[0].text:
            here.update({(0, k): SILENT for k in range(len(runs[0].words))})
            here[1, 0] = ReadBack(runs[0].text)
        if within:
            here[first, 0] = SILENT
        after = lines[n + 1] if n + 1 < len(lines) else None
        within = after is not None and after.paragraph == line.paragraph and after.line.goes_on
        within = within and bool(line.line.rest) and bool(runs)
        if within:
            at = len(runs) - 1, len(runs[-1].words) - 1
            said = here.get(at, ReadBack())
            here[at] = said if said.nothing else said._replace(rest=line.line.rest)
        found.append(here)
    return found


def spread(texts: list[str], said: ReadBack) -> list[str]:
    """What each glyph of a word says, of which `texts` are the glyphs' own."""
    if said.nothing or not texts:
        return [NOTHING] * len(texts)
    found = [said.before + texts[0], *texts[1:]]
    if said.rest is None:
        return found
    left, spread_out = "".join(found[:-1]) + said.rest, []
    for n in range(len(found) - 1, -1, -1):  # the last glyphs take what is more than their own
        more = len(left) - sum(map(len, found[:n]))
        size = min(more, ONE_GLYPH) if n else len(left)
        left, part = left[: len(left) - size], left[len(left) - size :]
        spread_out.append(part or NOTHING)
    return spread_out[::-1]


def in_turn(text: str, glyphs: int) -> list[str]:
    """A text said by the first of so many glyphs, as many as it takes."""
    parts = [text[n : n + ONE_GLYPH] for n in range(0, len(text), ONE_GLYPH)]
    if len(parts) > glyphs:
        parts = [text]
    return parts + [NOTHING] * (glyphs - len(parts))
