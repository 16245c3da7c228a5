"""Contents lists: what they show, from the headings that the pages show."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.model.styles import ParagraphStyle, computed_paragraphs
from hidden_frame.model.text import Contents, ListLevel, Paragraph, Run, Text


class ContentsLine(NamedTuple):
    """A line of a list: its level from 0, the heading's number and text, and the page that it
    stands on with its folio and position."""

    level: int
    number: str
    text: str
    page_id: str
    folio: str
    position: int


def entries(composition: Composition, contents: Contents) -> list[ContentsLine]:
    """What a contents list lists, in the order of the pages."""
    heads, facts = composition.said.heads, composition.facts
    found: list[tuple[tuple[float, ...], ContentsLine]] = []
    for level, each in enumerate(contents.levels):
        for seen in heads.everywhere(each.style):
            page = heads.page_of(seen)
            here = facts[page]
            if contents.sections and here.section_id not in contents.sections:
                continue
            heading = seen.heading
            order = (seen.position, seen.down, seen.across, heading.paragraph, heading.offset)
            entry = ContentsLine(
                level, heading.number, heading.text, page, here.folio, here.position
            )
            found.append((order, entry))
    return [entry for _, entry in sorted(found, key=lambda row: row[0])]


def contents_text(
    contents: Contents, found: list[ContentsLine], styles: tuple[ParagraphStyle, ...]
) -> Text:
    """The text of a list: a paragraph a line, with a tab before the folio; a tab too between number
    and text where the line's style has a stop for it."""
    known = computed_paragraphs(styles)
    stops = [len(known[x.shown].tabs) if x.shown in known else 0 for x in contents.levels]
    between = ["\t" if stops[n] > x.folio else " " for n, x in enumerate(contents.levels)]
    lines = [_line(contents.levels[e.level], e, between[e.level]) for e in found]
    if contents.title:
        style = contents.title_style or contents.levels[0].shown
        lines.insert(0, Paragraph(style, (Run(contents.title),)))
    return tuple(lines)


def _line(level: ListLevel, entry: ContentsLine, between: str) -> Paragraph:
    number = f"{entry.number.rstrip()}{between}" if level.number and entry.number else ""
    words = f"{number}{entry.text}"
    if level.folio:
        words += f"\t{entry.folio or '–'}"
    return Paragraph(level.shown, (Run(words),), goes_to=entry.page_id)
