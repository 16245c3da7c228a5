"""Running heads that are longer than their frame, shortened: to the heading's short form if it has
one, else behind a word, with an ellipsis."""

from __future__ import annotations

from collections.abc import Callable

from hidden_frame.compose.drawing import set_frame
from hidden_frame.compose.palette import Palette
from hidden_frame.compose.regions import inner_height, regions_of
from hidden_frame.compose.worn import worn
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import TextFrame
from hidden_frame.model.memory import remembered
from hidden_frame.typeset.overflow import explain, too_wide
from hidden_frame.typeset.region import Outline

ELLIPSIS = "…"
_WORD = "x"  # what every head is replaced by to see how many lines a frame has without them


@remembered(by_value=("values", "shorts", "outlines", "grid"))
def shortened(
    frame: TextFrame,
    side: Side,
    values: tuple[str, ...],
    shorts: tuple[str | None, ...],
    known: Palette,
    outlines: tuple[Outline, ...],
    grid: tuple[float, float] | None,
) -> tuple[str, ...]:
    """What a frame's markers show, its running heads so short that none of its lines wraps.

    `shorts` has the short form of each running head ("": none), and None for other markers.
    """
    frame, known = worn(frame, known)
    regions, height = regions_of(frame, outlines, grid=grid), inner_height(frame)

    def lines(shown: tuple[str, ...]) -> int | None:
        text = set_frame(frame.text, regions, side, shown, known, frame.snug)
        fits = explain(text, height) is None and too_wide(text) is None
        return len(text.lines) if fits else None

    bare = tuple(
        _WORD if short is not None and value else value
        for value, short in zip(values, shorts, strict=True)
    )
    least = lines(bare)
    if least is None:
        return values

    def fits(shown: tuple[str, ...]) -> bool:
        return lines(shown) == least

    found = list(values)
    order = [n for n, short in enumerate(shorts) if short is not None]
    for n in sorted(order, key=lambda n: -len(values[n])):
        if fits(tuple(found)):
            break
        found[n] = _short_form(found, n, shorts[n] or "", fits)
    return tuple(found)


def _short_form(
    found: list[str], at: int, short: str, fits: Callable[[tuple[str, ...]], bool]
) -> str:
    def tried(value: str) -> bool:
        return fits((*found[:at], value, *found[at + 1 :]))

    if short and tried(short):
        return short
    words = found[at].split()
    low, high = 1, len(words) - 1
    if high < 1:
        return found[at]
    while low < high:  # the most words that fit
        middle = (low + high + 1) // 2
        if tried(_cut(words, middle)):
            low = middle
        else:
            high = middle - 1
    return _cut(words, low)


def _cut(words: list[str], count: int) -> str:
    return " ".join(words[:count]).rstrip(",;:–—-") + ELLIPSIS
