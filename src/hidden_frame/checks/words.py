"""Texts that do not fit, and characters that no font has."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator

from hidden_frame.checks.fault import Fault, PrintedItem
from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.model.memory import remembered
from hidden_frame.typeset.text import SetText


def does_not_fit(look: PrintedItem) -> Iterator[Fault]:
    """A text with more words than its frame has room for."""
    overflow = look.placed.drawing.overflow
    if overflow is not None:
        yield look.fault("text does not fit", f": {overflow.sentence.rstrip('.')}")


def missing_characters(look: PrintedItem) -> Iterator[Fault]:
    """A text with characters for which nothing is printed."""
    for primitive in look.placed.drawing.primitives:
        if not isinstance(primitive, TextPrimitive) or _is_ascii(primitive.text):
            continue
        lacking = _lacking(primitive.text)
        if lacking:
            shown = ", ".join(_named(c) for c in lacking[:3])
            more = f" and {len(lacking) - 3} more" if len(lacking) > 3 else ""
            what = f"holds {shown}{more}, which no installed font has; nothing is printed for it"
            yield look.fault("missing character", what, lacking)


def _named(character: str) -> str:
    """“☕” (U+2615); the number alone for one that nothing could show."""
    seen = unicodedata.category(character) not in ("Co", "Cn", "Cc", "Cf")
    number = f"U+{ord(character):04X}"
    return f"“{character}” ({number})" if seen else number


def _is_ascii(text: SetText) -> bool:
    """Whether a text needs no look at its glyphs: every font here has these characters."""
    drops = (spec.dress.drop for spec in text.specs if spec.dress.drop is not None)
    return all(span.text.isascii() for spec in text.specs for span in spec.spans) and all(
        drop.span.text.isascii() for drop in drops
    )


@remembered()
def _lacking(text: SetText) -> str:
    """The characters of a set text that no font has."""
    lacking: dict[str, None] = {}
    for line in text.lines:
        for run in line.runs:
            if run.span.text.isascii():
                continue
            for word in run.words:
                shaped = word.shaped
                if shaped.missing:
                    for glyph, at in zip(shaped.glyphs, shaped.clusters, strict=True):
                        if not glyph:
                            lacking[shaped.text[at]] = None
    return "".join(lacking)
