"""A long book, *The Lamplighters of Harrow Tarn*: some 200 pages of made-up prose that flow through
the main frames of one section.

>>> made = long_book(chapters=1)
>>> made.stories[0].name
'The Lamplighters'
"""

from __future__ import annotations

from random import Random

from msgspec.structs import replace

from hidden_frame.demo.prose import paragraph, titles
from hidden_frame.edit.about import set_about
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_character_style, put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, apply_masters, rename_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import set_blind
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour
from hidden_frame.model.geometry import Margins, Size
from hidden_frame.model.items import Line, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.paint import Stroke
from hidden_frame.model.publication import Numbering, Publication, Setup
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle, Rule
from hidden_frame.model.text import Marker, Paragraph, Run, TabStop, Text
from hidden_frame.model.units import mm

TITLE = "The Lamplighters of Harrow Tarn"
_TRIM = Size(mm(129), mm(198))
_MARGINS = Margins(top=mm(19), bottom=mm(24), inside=mm(17), outside=mm(20))
_SANS = "Alegreya Sans"
_STYLES = (
    ParagraphStyle(
        id="body", name="Text", size=10.4, leading=14.4, alignment="justified", hyphenate=True,
        letter_space=10,
        least_foot=2, least_head=2,
    ),
    ParagraphStyle(id="opening", name="Text, opening", based_on="body", drop_lines=3),
    ParagraphStyle(id="next", name="Text, indented", based_on="body", indent_first=13),
    ParagraphStyle(
        id="heading", name="Chapter title", family=_SANS, bold=True, size=19, leading=24,
        colour="spruce", space_before=30, space_after=18, keep_next=True,
        number=ListNumber(form="{1}", style="number"), indent_left=26, indent_first=-26,
        rule_below=Rule(0.4, 4.0),
    ),
    ParagraphStyle(
        id="book-title", name="Book title", family=_SANS, bold=True, size=27, leading=33,
        colour="spruce", alignment="centre",
    ),
    ParagraphStyle(
        id="byline", name="Byline", size=11, leading=16, alignment="centre", space_before=14,
    ),
    ParagraphStyle(
        id="head", name="Page head", family=_SANS, size=8.4, leading=11, tracking=50,
        colour="slate", tabs=(TabStop(None, "right"),),
    ),
    ParagraphStyle(
        id="folio", name="Folio", family=_SANS, size=9, leading=12, alignment="outside",
    ),
)  # fmt: skip


def long_book(chapters: int = 14, seed: int = 31) -> Publication:
    """The book, its text poured; its section has one page until it is grown to what it needs."""
    setup = Setup(trim=_TRIM, margins=_MARGINS, bleed=mm(3))
    publication = new_publication(TITLE, setup, 5)
    publication = set_about(publication, author="A. N. Invented", subject="A made-up novel")
    number = CharacterStyle(id="number", name="Chapter number", colour="ochre", bold=False)
    publication = put_character_style(publication, number)
    for style in _STYLES:
        publication = put_paragraph_style(publication, style)
    plain = publication.masters[0].id
    publication = rename_master(publication, plain, "Plain")
    publication, text = add_master(publication, "Text page", plain)
    for item in _on_text_page():
        publication, _ = add_item(publication, text, item)
    pages = [page.id for page in all_pages(publication)]
    publication = _title_page(publication, pages[0])
    publication, body = start_section(publication, pages[4], "The Lamplighters", Numbering(start=1))
    publication = _sections(publication, text)
    for page in pages[:4]:
        publication = apply_masters(publication, [page], (plain,))
        publication = set_blind(publication, [page], True)
    publication, _ = pour(publication, body, manuscript(chapters, seed), "The Lamplighters")
    return publication


def _sections(publication: Publication, text: str) -> Publication:
    """Front matter without folios; the body on the text page."""
    front, body = publication.sections
    front = replace(front, name="Front matter", numbering=Numbering(style="none"))
    return replace(publication, sections=(front, replace(body, masters=(text,))))


def body_frame(sink: float = 0.0) -> TextFrame:
    """The main frame of a page, its top so many points below the margin."""
    width = _TRIM.width - _MARGINS.inside - _MARGINS.outside
    height = _TRIM.height - _MARGINS.top - _MARGINS.bottom - sink
    return TextFrame(
        id="", name="Main text", x=_MARGINS.inside, y=_MARGINS.top + sink, width=width,
        height=height, main=1, snug=True,
    )  # fmt: skip


def folio_frame() -> TextFrame:
    """The folio below the text, at the outside."""
    width = _TRIM.width - _MARGINS.inside - _MARGINS.outside
    return TextFrame(
        id="", name="Folio", x=_MARGINS.inside, y=_TRIM.height - mm(15), width=width, height=14,
        text=(Paragraph("folio", (Marker("folio"),)),),
    )  # fmt: skip


def _on_text_page() -> list[TextFrame | Line]:
    """The main frame with head, rule and folio around it."""
    width = _TRIM.width - _MARGINS.inside - _MARGINS.outside
    left = _MARGINS.inside
    head = (Marker("section name"), Run("\t"), Marker("title"))
    return [
        body_frame(),
        TextFrame(
            id="", name="Page head", x=left, y=mm(10), width=width, height=13,
            text=(Paragraph("head", head),),
        ),
        Line(
            id="", name="Head rule", x=left, y=mm(15.4), width=width, height=0,
            stroke=Stroke(colour="slate", width=0.4),
        ),
        folio_frame(),
    ]  # fmt: skip


def _title_page(publication: Publication, page_id: str) -> Publication:
    width = _TRIM.width - _MARGINS.inside - _MARGINS.outside
    words = (
        Paragraph("book-title", (Run(TITLE),)),
        Paragraph("byline", (Run("A novel that nobody wrote"),)),
    )
    frame = TextFrame(
        id="", name="Title", x=_MARGINS.inside, y=mm(52), width=width, height=mm(52), text=words
    )
    return add_item(publication, page_id, frame)[0]


def manuscript(chapters: int, seed: int = 31) -> Text:
    """The text: a title and about 38 paragraphs a chapter."""
    rng = Random(seed)
    found: list[Paragraph] = []
    for title in titles(chapters):
        found.append(Paragraph("heading", (Run(title),)))
        count = rng.randint(30, 46)
        found += [
            Paragraph("next" if n else "opening", (Run(paragraph(rng)),)) for n in range(count)
        ]
    return tuple(found)
