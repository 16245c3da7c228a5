"""Page labels: a reader shows the folios of the pages (ISO 32000-1, 12.4.2)."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, NamedTuple

from pikepdf import Array, Dictionary, Name

from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.numerals import in_range
from hidden_frame.model.publication import Publication

_STYLES = {
    "decimal": Name.D,
    "lower roman": Name.r,
    "upper roman": Name.R,
    "lower letters": Name.a,
    "upper letters": Name.A,
}


class Label(NamedTuple):
    """A page label range from page `first` (counted from 0) on: ISO 32000-1, 12.4.2."""

    first: int
    style: str
    start: int | None
    prefix: str


def page_labels(publication: Publication, facts: Sequence[PageFacts]) -> list[Label]:
    """The label ranges that make a reader show the folios of these pages.

    A range starts with each section, where pages were left out, and where a style
    that can't write a number gives way to decimal.
    """
    numbering = {section.id: section.numbering for section in publication.sections}
    labels: list[Label] = []
    before: tuple[object, ...] = ()
    for index, page in enumerate(facts):
        style = numbering[page.section_id].style
        if page.number is not None and style != "none" and not in_range(page.number, style):
            style = "decimal"
        start = page.number if style != "none" else None
        expected = (page.section_id, style, start)
        if expected != before:
            prefix = numbering[page.section_id].prefix if style != "none" else ""
            labels.append(Label(index, style, start, prefix))
        before = (page.section_id, style, None if start is None else start + 1)
    return labels


def label_tree(labels: Sequence[Label]) -> Any:
    """The number tree of the labels (table 159)."""
    entries: list[Any] = []
    for label in labels:
        entry = Dictionary()
        if label.style in _STYLES:
            entry.S = _STYLES[label.style]
        if label.prefix:
            entry.P = label.prefix
        if label.start not in (None, 1):
            entry.St = label.start
        entries += [label.first, entry]
    return Dictionary(Nums=Array(entries))
