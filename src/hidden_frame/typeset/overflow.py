"""Why a text does not show in its frame, in one sentence.

>>> text = composition.scene(page).placed[1].drawing.text.text
>>> explain(text, height=5.0).sentence
'The first line needs 14 pt; the frame is 5 pt high.'
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from hidden_frame.typeset.line import GlyphRun
from hidden_frame.typeset.shaping import Word
from hidden_frame.typeset.text import PlacedLine, SetText

TOLERANCE = 0.01  # points
_OUT = 0.5  # points by which a line may stand out of its column before anybody sees it


class Overflow(NamedTuple):
    """How much of a text fits: shown lines, hidden lines and words, and why."""

    shown: int
    hidden: int
    words: int
    needed: float
    sentence: str


def explain(text: SetText, height: float) -> Overflow | None:
    """What does not fit in a height (points); None if all of it does."""
    shown = sum(line.bottom <= height + TOLERANCE for line in text.lines)
    hidden = len(text.lines) - shown
    if not hidden or not any(line.runs for line in text.lines[shown:]):
        return None
    words = sum(bool(w.text) for line in text.lines[shown:] for run in line.runs for w in run.words)
    needed = text.lines[-1].bottom
    if shown:
        what = f"{_count(hidden, 'line')} ({_count(words, 'word')}) of the text"
        verb = "does" if hidden == 1 else "do"
        if len(text.columns) > 1:
            room = f"{len(text.columns)} columns of {height:.4g} pt are too short for it."
        else:
            room = f"all of it needs {needed:.4g} pt and the frame is {height:.4g} pt high."
        sentence = f"{what} {verb} not fit: {room}"
    else:
        sentence = _first_line(text, height)
    return Overflow(shown, hidden, words, needed, sentence)


def too_wide(text: SetText) -> Overflow | None:
    """What stands out of its column, since it can be neither broken nor put on a line of its own;
    None where all is within.  Marks that hang are meant to."""
    out = [line for line in text.doubtful() if _stands_out(line, text)]
    if not out:
        return None
    first = out[0]
    measure = _measure(first, text)
    words = " ".join(first.text.split())
    shown = words if len(words) <= 30 else f"{words[:29]}…"
    more = f", and so {'are' if len(out) > 2 else 'is'} {_count(len(out) - 1, 'more line')}"
    sentence = (
        f"The line “{shown}” is wider than the {measure:.4g} pt that it has"
        f"{more if len(out) > 1 else ''}; make room for it, or its text smaller."
    )
    return Overflow(len(text.lines), 0, 0, 0.0, sentence)


def _measure(line: PlacedLine, text: SetText) -> float:
    spec = text.specs[line.paragraph]
    return text.columns[line.column][1] - line.x - spec.right


def _stands_out(line: PlacedLine, text: SetText) -> bool:
    spec = text.specs[line.paragraph]
    most = _OUT + (spec.base.size if spec.spacing.hangs else 0.0)
    end = _measure(line, text) + most
    if line.line.right > end:  # spaces at the end of a line may
        return any(x + w.width > end for run in line.runs for w, x in _words(run) if w.text)
    return line.line.left < -most and line.line.both_ways


def _words(run: GlyphRun) -> Iterator[tuple[Word, float]]:
    return zip(run.words, run.xs, strict=True)


def _first_line(text: SetText, height: float) -> str:
    line, spec = text.lines[0], text.specs[0]
    if spec.before > 0 and line.height <= height:
        return (
            f"The first line needs {line.height:.4g} pt and its style “{spec.style_name}” asks "
            f"for {spec.before:.4g} pt above it; the frame is {height:.4g} pt high."
        )
    return f"The first line needs {line.bottom:.4g} pt; the frame is {height:.4g} pt high."


def _count(number: int, word: str) -> str:
    return f"{number} {word}" if number == 1 else f"{number} {word}s"
