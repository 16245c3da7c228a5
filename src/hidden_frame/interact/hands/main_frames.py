"""A main frame for a section whose masters have none: a story that is poured in needs one."""

from __future__ import annotations

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.placing import text_area
from hidden_frame.edit.items.draw import add_item
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.model.items import TextFrame
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import find_section, stack_of
from hidden_frame.model.publication import Publication


def has_main_frame(publication: Publication, section_id: str) -> bool:
    """Whether any page of a section shows a main frame."""
    facts = page_facts(publication)
    return any(
        isinstance(r.item, TextFrame) and r.item.main
        for page in find_section(publication, section_id).pages
        for r in items_on(publication, page.id, facts[page.id].side)
    )


def main_master(publication: Publication, section_id: str) -> str:
    """The id of the lowest master that most pages of a section follow; "" without any."""
    counts: dict[str, int] = {}
    for page in find_section(publication, section_id).pages:
        for master in stack_of(publication, page)[:1]:
            counts[master] = counts.get(master, 0) + 1
    return max(counts, key=lambda m: counts[m], default="")


def with_main_frame(publication: Publication, section_id: str) -> Publication:
    """The section's master with a main frame as large as the margins of its pages, in their
    columns; as it is if its pages follow none."""
    master = main_master(publication, section_id)
    if not master:
        return publication
    pages = find_section(publication, section_id).pages
    page = next(p for p in pages if stack_of(publication, p)[:1] == (master,))
    layout = page_layout(publication, page)
    area = text_area(publication.setup, layout.margins, "recto")
    frame = TextFrame(
        id="", name="Main frame", x=area.left, y=area.top, width=area.width, height=area.height,
        columns=min(layout.columns.count, 20), gutter=layout.columns.gutter, main=1,
    )  # fmt: skip
    return add_item(publication, master, frame)[0]
