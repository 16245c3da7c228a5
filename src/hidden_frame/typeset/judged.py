"""How good lines are: how far their spaces are from natural, and what a typographer would mend."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from hidden_frame.model.memory import remembered
from hidden_frame.typeset.breaking.demerits import LADDER
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import is_rtl
from hidden_frame.typeset.text import PlacedLine, SetText

# Common practice of the trade.
MEND = 2.0  # of the widest space that a style likes: beyond it a line is in everybody's eye
SAME_WORD = 3  # lines that begin alike
RIVER = 4  # lines through which a gap runs
WIDE_GAP = 1.5  # of the natural space: narrower ones are in nobody's eye
OVERLAP = 0.6  # of the natural space, at least, by which gaps lie below each other
_SLACK = 0.02  # of a limit; lines are seldom exactly at it


class LineFault(NamedTuple):
    """Something to mend on a line, counted from the text's first; `wide` is how wide its spaces
    are, of the natural one."""

    kind: str
    line: int
    wide: float = 1.0


def looseness(line: PlacedLine, spec: ParagraphSpec) -> float:
    """How far a line's spaces are stretched (1: as far as its style likes) or shrunk (-1)."""
    runs = line.runs
    if spec.align != "justified" or not runs:
        return 0.0
    space, extra = spec.base.space, runs[-1].extra
    if extra >= 0:
        return extra / max(space * (spec.spacing.most - 1), space / 64)
    return extra / max(space * (1 - spec.spacing.least), space / 64)


@remembered(weigh=lambda faults: 100 + 90 * len(faults))
def line_faults(text: SetText) -> tuple[LineFault, ...]:
    """What is to mend about a text's lines, from the first on."""
    lines = text.lines
    found = [
        f for n, line in enumerate(lines) for f in _spaced(line, text.specs[line.paragraph], n)
    ]
    for first, last in _paragraphs(lines):
        spec = text.specs[lines[first].paragraph]
        found += _of_paragraph(lines, first, last, spec)
    found += _at_edges(text)
    return tuple(sorted(found, key=lambda f: f.line))


def _spaced(line: PlacedLine, spec: ParagraphSpec, n: int) -> Iterator[LineFault]:
    """Whether a line's spaces are wider than its style likes, beyond bearing or not, or narrower
    than it allows."""
    by = looseness(line, spec)
    if abs(by) <= 1 + _SLACK:
        return
    wide = 1 + line.runs[-1].extra / spec.base.space
    kind = "tight line" if by < 0 else "loose line" if wide > MEND * spec.spacing.most else "looser"
    yield LineFault(kind, n, wide)


def _paragraphs(lines: Sequence[PlacedLine]) -> Iterator[tuple[int, int]]:
    """The first line of each paragraph in a column, and the one behind its last."""
    starts = [
        n for n, line in enumerate(lines)
        if n == 0 or (line.paragraph, line.column) != (lines[n - 1].paragraph, lines[n - 1].column)
    ]  # fmt: skip
    return pairwise([*starts, len(lines)])


def _of_paragraph(
    lines: Sequence[PlacedLine], first: int, last: int, spec: ParagraphSpec
) -> Iterator[LineFault]:
    row = same = 0
    word, most = "", spec.spacing.hyphens or LADDER
    for n in range(first, last):
        text = lines[n].text
        row = row + 1 if text.endswith("-") and n + 1 < last else 0
        if row == most + 1:
            yield LineFault("hyphen ladder", n)
        begins = text.split(" ", 1)[0].strip("“”„‚‘’(").lower()
        same = same + 1 if begins and begins == word else 1
        word = begins
        if same == SAME_WORD:
            yield LineFault("same word", n)
    end = lines[last - 1]
    if last - first > 1 and _closes(end, spec):
        wide = max(spec.first, spec.base.size)
        if end.right - end.left < wide:
            yield LineFault("short last line", last - 1)
    if last - first >= RIVER and spec.align == "justified" and not is_rtl(spec):
        yield from _rivers(lines, first, last, spec.base.space)


def _closes(line: PlacedLine, spec: ParagraphSpec) -> bool:
    """Whether a line is its paragraph's last."""
    count = sum(0 if s.goes_on else 1 if s.marker else len(s.text) for s in spec.spans)
    drop = spec.dress.drop
    return line.end >= count + (len(drop.span.text) if drop is not None else 0)


def _rivers(
    lines: Sequence[PlacedLine], first: int, last: int, space: float
) -> Iterator[LineFault]:
    """Gaps that stand below gaps on so many lines."""
    least, over = space * WIDE_GAP, space * OVERLAP
    flowing: list[tuple[float, float, int]] = []  # left, right, and through how many lines
    for n in range(first, last):
        now: list[tuple[float, float, int]] = []
        for left, right in _gaps(lines[n], least):
            depth = (
                max((d for a, b, d in flowing if a + over < right and b - over > left), default=0)
                + 1
            )
            now.append((left, right, depth))
        if any(depth == RIVER for _, _, depth in now):
            yield LineFault("river", n)
        flowing = now


def _gaps(line: PlacedLine, least: float) -> Iterator[tuple[float, float]]:
    places = [
        (x, x + word.width)
        for run in line.runs for word, x in zip(run.words, run.xs, strict=True)
    ]  # fmt: skip
    for (_, right), (left, _) in pairwise(places):
        if left - right >= least:
            yield right, left


def _at_edges(text: SetText) -> Iterator[LineFault]:
    """Fewer lines of a paragraph at a column's foot or head than its style wants."""
    lines = text.lines
    for first, last in _paragraphs(lines):
        spec = text.specs[lines[first].paragraph]
        opens, closes = lines[first].line.place == (0, 0), _closes(lines[last - 1], spec)
        if opens and not closes and last - first < spec.keeps.foot:
            yield LineFault("orphan", first)
        if closes and not opens and last - first < spec.keeps.head:
            yield LineFault("widow", first)
