"""Characters that print nothing, and where they stand: spaces, tabs, breaks, ends, index marks.

>>> text = composition.scene(page).placed[1].drawing.text.text
>>> [sign.kind for sign in signs(text, len(text.lines))][-1]
'paragraph end'
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from itertools import pairwise
from typing import Literal, NamedTuple

from hidden_frame.typeset.caret import stops
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.segments import LINE_BREAK
from hidden_frame.typeset.text import PlacedLine, SetText

Kind = Literal["space", "other space", "tab", "line break", "paragraph end", "mark", "soft hyphen"]
_MARK, _OTHER = "\ufffc", "\ufffd"
_KINDS: dict[str, Kind] = {
    " ": "space", "\t": "tab", LINE_BREAK: "line break", _MARK: "mark", "\u00ad": "soft hyphen",
}  # fmt: skip

_SPACES = ("space", "other space")


class Sign(NamedTuple):
    """What stands there, from `x` on and so `wide`, on a baseline, in type of a size (points, from
    the text's corner)."""

    kind: Kind
    x: float
    baseline: float
    wide: float
    size: float


def signs(text: SetText, shown: int) -> list[Sign]:
    """The signs of a text's first lines.  A space that ends a line is hidden by the line's end."""
    sources: dict[int, str] = {}
    found: list[Sign] = []
    for line in text.lines[:shown]:
        spec = text.specs[line.paragraph]
        source = sources.get(line.paragraph)
        if source is None:
            source = sources[line.paragraph] = _source(spec)
        found += _on_line(line, source, spec)
    return found


def _on_line(line: PlacedLine, source: str, spec: ParagraphSpec) -> Iterator[Sign]:
    size = spec.base.size
    for (offset, here), (_, there) in pairwise(stops(line)):
        kind = _kind(source[offset])
        if kind is not None and (here != there or kind not in _SPACES):
            yield Sign(kind, min(here, there), line.baseline, abs(there - here), size)
    if line.end >= len(source):
        from_right = spec.dress.level == 1
        yield Sign("paragraph end", line.left if from_right else line.right, line.baseline, 0, size)


def _kind(char: str) -> Kind | None:
    """What a character is, if it prints nothing (general category Zs of the Unicode standard)."""
    return _KINDS.get(char) or ("other space" if unicodedata.category(char) == "Zs" else None)


def _source(spec: ParagraphSpec) -> str:
    """A paragraph's text, a character an offset; index marks as the sign of an object."""
    initials = spec.dress.drop.span.text if spec.dress.drop is not None else ""
    return initials + "".join(map(_of_span, spec.spans))


def _of_span(span: Span) -> str:
    if span.goes_on:
        return ""
    if not span.marker:
        return span.text
    return _MARK if span.anchored is not None and span.anchored.what is None else _OTHER
