"""A new publication from its setup."""

from __future__ import annotations

from hidden_frame.edit.change import new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import check
from hidden_frame.model.paint import Colour, Layer
from hidden_frame.model.publication import MAX_PAGES, Master, Page, Publication, Section, Setup
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle

LAYERS = (
    Layer(id="ground", name="Ground"),
    Layer(id="content", name="Content"),
    Layer(id="above", name="Above"),
)
COLOURS = (
    # Black ink alone: text of four inks would need four plates to meet at every letter.
    Colour(id="ink", name="Ink", space="cmyk", values=(0.0, 0.0, 0.0, 1.0)),
    Colour(id="paper", name="Paper", values=(1.0, 1.0, 1.0)),
    Colour(id="spruce", name="Spruce", values=(0.122, 0.435, 0.361)),
    Colour(id="ochre", name="Ochre", values=(0.718, 0.475, 0.122)),
    Colour(id="slate", name="Slate", values=(0.35, 0.38, 0.42)),
)
PARAGRAPH_STYLES = (
    ParagraphStyle(
        id="body", name="Body", size=10, leading=14, hyphenate=True, least_foot=2, least_head=2,
        flush_after=True,
    ),
    ParagraphStyle(
        id="heading", name="Heading", family="Alegreya Sans", bold=True, size=20, leading=24,
        space_after=8, keep_next=True, keep_together=True, level=1,
    ),
    ParagraphStyle(
        id="folio", name="Folio", family="Alegreya Sans", size=9, leading=12, alignment="outside"
    ),
)  # fmt: skip
CHARACTER_STYLES = (
    CharacterStyle(id="emphasis", name="Emphasis", italic=True),
    CharacterStyle(id="strong", name="Strong", bold=True),
)


def new_publication(title: str, setup: Setup, pages: int = 1) -> Publication:
    """A publication with one empty master, which all its pages follow.

    >>> from hidden_frame.model.geometry import Size
    >>> len(new_publication("Notes", Setup(trim=Size(420, 595)), pages=4).sections[0].pages)
    4

    Raises `Refusal` for a page count outside 1 to 5,000 and for a setup that leaves
    no room on the page.
    """
    if not 1 <= pages <= MAX_PAGES:
        raise Refusal(f"A publication has from 1 to {MAX_PAGES} pages; {pages} is not among them.")
    bare = Publication(
        title=title,
        setup=setup,
        layers=LAYERS,
        colours=COLOURS,
        paragraph_styles=PARAGRAPH_STYLES,
        character_styles=CHARACTER_STYLES,
    )
    bare, (section_id,) = new_ids(bare, "section", 1)
    bare, (master_id,) = new_ids(bare, "master", 1)
    bare, page_ids = new_ids(bare, "page", pages)
    section = Section(id=section_id, pages=tuple(Page(id=i) for i in page_ids))
    return check(
        Publication(
            title=bare.title,
            setup=setup,
            next_id=bare.next_id,
            layers=bare.layers,
            colours=bare.colours,
            paragraph_styles=bare.paragraph_styles,
            character_styles=bare.character_styles,
            masters=(Master(id=master_id, name="Base"),),
            default_masters=(master_id,),
            sections=(section,),
        )
    )
