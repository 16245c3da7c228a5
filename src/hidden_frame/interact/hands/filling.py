"""Empty pages filled with frames that are linked one after the other."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.placing import text_area
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.stories import link
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import find_page
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Link, Station
from hidden_frame.model.text import Paragraph


class Fillable(NamedTuple):
    """Of some pages those that are empty, and those that are passed over."""

    empty: tuple[str, ...]
    passed: tuple[str, ...]

    @property
    def words(self) -> str:
        """“Fill 12 pages with the text”, and what is passed over."""
        if not self.empty:
            return "No page is empty here; drag across empty ones, or add pages first."
        words = f"Fill {_pages(len(self.empty))} with the text"
        if self.passed:
            one = len(self.passed) == 1
            words += f"\n{_pages(len(self.passed))} {'is' if one else 'are'} passed over: "
            words += f"{'it holds' if one else 'they hold'} something"
        return words


def _pages(count: int) -> str:
    return "1 page" if count == 1 else f"{grouped(count)} pages"


def fillable(composition: Composition, pages: Iterable[str]) -> Fillable:
    """A page is empty that has no item of its own and through which no story flows."""
    publication = composition.publication
    told = {page for s in publication.stories for page in composition.flow(s.id).frames}
    empty: list[str] = []
    passed: list[str] = []
    for page in pages:
        own = find_page(publication, page).items
        (passed if own or page in told else empty).append(page)
    return Fillable(tuple(empty), tuple(passed))


def filled_pages(
    publication: Publication, story_id: str, after: Station, pages: Iterable[str]
) -> Publication:
    """Each page with a frame as large as its margins, in the columns of the page, linked behind
    the one before; the first behind a station of the story."""
    wanted = list(pages)
    if not wanted:
        raise Refusal(Fillable((), ()).words)
    facts, style = page_facts(publication), publication.paragraph_styles[0].id
    for page_id in wanted:
        layout = page_layout(publication, find_page(publication, page_id))
        area = text_area(publication.setup, layout.margins, facts[page_id].side)
        frame = TextFrame(
            id="", x=area.left, y=area.top, width=area.width, height=area.height,
            columns=min(layout.columns.count, 20), gutter=layout.columns.gutter,
            text=(Paragraph(style),),
        )  # fmt: skip
        publication, item = add_item(publication, page_id, frame)
        publication = link(publication, story_id, page_id, item, after)
        after = Link(page_id, item)
    return publication
