"""New styles for what an author wrote: as their kind usually looks, or as they look there."""

from __future__ import annotations

import re

from msgspec.structs import replace

from hidden_frame.edit.looks.styles import new_paragraph_style, put_paragraph_style
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.numbering import ListNumber, NumberingStyle
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import ComputedStyle, ParagraphStyle, computed_paragraphs
from hidden_frame.model.text import TabStop
from hidden_frame.storage.manuscripts.manuscript import SourceLook

AS_THERE = "as there"  # instead of a style's id: a new one that looks as it does in the source


def new_style(
    publication: Publication, name: str, look: SourceLook | None = None
) -> tuple[Publication, str]:
    """A style of this name, based on the first one, as its kind usually looks, or as it looks in
    the source."""
    first = publication.paragraph_styles[0].id
    publication, style_id = new_paragraph_style(publication, first, based=True)
    style = replace(paragraph_style(publication, style_id), name=name[:80] or "Style")
    others = computed_paragraphs(publication.paragraph_styles)
    computed = others[first]
    style = _dressed(style, name, computed.size)
    level = style.level
    if level:
        above = max(
            (s for s in others.values() if 0 < s.level < level),
            key=lambda s: s.level, default=None,
        )  # fmt: skip
        if above is not None:  # headings are of one family
            style = replace(style, family=above.family, colour=above.colour)
    if look is not None:
        style = _looking(style, look, computed)
    return put_paragraph_style(publication, style), style_id


def _looking(style: ParagraphStyle, look: SourceLook, first: ComputedStyle) -> ParagraphStyle:
    """A style as it looks in the source; what that does not say stays."""
    said: dict[str, object] = {"family": look.family} if look.family else {}
    size = min(max(look.size, 1.0), 2000.0) if look.size else None
    if size is not None:
        leading = look.leading or size * first.leading / first.size
        said |= {"size": size, "leading": round(max(leading, 1.0), 1)}
    for name in ("bold", "italic", "space_before", "space_after", "indent_left", "indent_right",
                 "indent_first", "keep_next", "strike", "underline"):  # fmt: skip
        value = getattr(look, name)
        said |= {name: value} if value is not None else {}
    said |= {"case": "small capitals"} if look.small_capitals else {}
    said |= {"alignment": look.alignment} if look.alignment else {}
    return replace(style, **said)


def _dressed(style: ParagraphStyle, name: str, size: float) -> ParagraphStyle:
    """How headings, lists, quotes and notes look until somebody chooses otherwise (common practice
    of the trade)."""
    level = int(name[8:]) if name.startswith("Heading ") and name[8:].isdecimal() else 0
    if level:
        larger = round(size * max(1.0, 1.7 - 0.2 * (level - 1)), 1)
        return replace(
            style, bold=True, size=larger, leading=round(larger * 1.25, 1), alignment="left",
            space_before=round(size * 1.2, 1), space_after=round(size * 0.5, 1), indent_first=0.0,
            hyphenate=False, keep_next=True, keep_together=True, level=min(level, 9),
        )  # fmt: skip
    listed = _LIST.fullmatch(name)
    if listed is not None:
        depth = int(listed[2] or 1)
        inner = {"indent_left": 16.0 * depth, "tabs": (TabStop(16.0 * depth),)}
        if listed[1] == "continue":
            return replace(style, **inner, indent_first=0.0)
        numbered = listed[1] == "number"
        number = ListNumber(
            form=f"{{{depth}}}." if numbered else "•", level=depth, list="lists",
            numerals=_NUMERALS[(depth - 1) % len(_NUMERALS)] if numbered else "decimal",
        )  # fmt: skip
        return replace(style, **inner, indent_first=-16.0, number=number)
    if name == "Picture":
        apart = round(size * 0.7, 1)
        return replace(
            style, space_before=apart, space_after=apart, indent_first=0.0, keep_next=True,
        )  # fmt: skip
    if name == "Caption":
        small = round(size * 0.85, 1)
        return replace(
            style, size=small, leading=round(small * 1.35, 1), space_after=size, indent_first=0.0,
            alignment="left", hyphenate=False,
        )  # fmt: skip
    if name == "Quote":
        return replace(style, indent_left=18.0, indent_right=18.0, indent_first=0.0, italic=True)
    if name == "Note":
        small = round(size * 0.85, 1)
        return replace(
            style, size=small, leading=round(small * 1.3, 1), indent_left=16.0, indent_first=-16.0,
            tabs=(TabStop(16.0),),
        )  # fmt: skip
    return style


_LIST = re.compile(r"List (bullet|number|continue)(?: ([1-9]))?")
# How the levels of a list are numbered, one within the other (common practice of the trade).
_NUMERALS: tuple[NumberingStyle, ...] = ("decimal", "lower letters", "lower roman")
