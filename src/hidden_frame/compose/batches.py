"""Pages that are walked one after the other: their own texts are set several pages at a time, which
is quicker than page by page.

>>> from hidden_frame.compose.composer import Composer
>>> [scene.side for scene in scenes_of(Composer().compose(publication), [page])]
['recto']
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import islice
from typing import TYPE_CHECKING

from hidden_frame.compose.context import context_of
from hidden_frame.compose.numbers import labels
from hidden_frame.compose.regions import grid_in, regions_of
from hidden_frame.compose.textspec import specs
from hidden_frame.compose.worn import worn
from hidden_frame.model.items import TextFrame
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import find_page
from hidden_frame.model.text import Anchor, Marker
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.paragraphs import set_paragraph

if TYPE_CHECKING:
    from hidden_frame.compose.composition import Composition
    from hidden_frame.compose.scene import Scene

PAGES = 32  # whose texts are set together: more make it no quicker


def scenes_of(composition: Composition, page_ids: Sequence[str]) -> Iterator[Scene]:
    """The scenes of pages, in turn."""
    for begin in range(0, len(page_ids), PAGES):
        some = page_ids[begin : begin + PAGES]
        _held = set_ahead(composition, some)  # until these pages are done
        for page_id in some:
            yield composition.scene(page_id)


def set_ahead(composition: Composition, page_ids: Sequence[str]) -> list[object]:
    """Sets the paragraphs of the pages' own texts, those of one measure together; they are
    remembered as long as somebody holds what is given back.

    What stands in a text's way is not asked for: a paragraph that it moves is set again.
    """
    known = context_of(composition.publication).known
    by_measure: dict[float, list[ParagraphSpec]] = {}
    for page_id in page_ids:
        page = find_page(composition.publication, page_id)
        frames = [i for i in page.items if isinstance(i, TextFrame) and _is_plain(i)]
        if not frames:
            continue
        side, grid = (
            composition.facts[page_id].side,
            page_layout(composition.publication, page).grid,
        )
        for frame in frames:
            dressed, palette = worn(frame, known)
            region = regions_of(dressed, grid=grid_in(frame, grid, palette))[0]
            text = dressed.text
            found = specs(text, (), side, palette, labels(text, palette))
            by_measure.setdefault(region.measure, []).extend(found)
    return [
        (paragraphs, set_paragraph.each(paragraphs, measure))
        for measure, paragraphs in by_measure.items()
    ]


def _is_plain(frame: TextFrame) -> bool:
    """Whether a frame has words of its own, without anything that depends on its page."""
    beside = (c for p in frame.text for c in p.content if isinstance(c, Marker | Anchor))
    return bool(frame.text) and frame.visible and not list(islice(beside, 1))
