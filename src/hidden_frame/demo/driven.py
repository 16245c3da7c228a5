"""The long book with all that its text drives: running heads, masters by rule, a contents list, an
index, notes and a reference.

>>> book = driven_book(chapters=2)
>>> [rule.when for rule in book.rules]
['style', 'no text']
"""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.demo.book import body_frame, folio_frame, long_book
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.masters.rules import add_rule
from hidden_frame.edit.pages.order import add_pages
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text.index import mark_all
from hidden_frame.edit.text.listing import set_list
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, paragraph_style
from hidden_frame.model.publication import Master, Numbering, Publication
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import (
    Contents,
    Head,
    Index,
    IndexMark,
    ListLevel,
    Marker,
    Note,
    NoteList,
    Paragraph,
    Reference,
    Run,
    TabStop,
    Text,
)  # fmt: skip

_STYLES = (
    ParagraphStyle(
        id="list-title", name="List title", based_on="heading", space_before=0, number=None,
        indent_left=0, indent_first=0, starts="anywhere",
    ),
    ParagraphStyle(
        id="contents", name="Contents", family="Alegreya Sans", size=10.4, leading=21,
        indent_left=22, indent_first=-22, tabs=(TabStop(22), TabStop(None, "right", leader=" ·")),
    ),
    ParagraphStyle(
        id="letter", name="Index letter", family="Alegreya Sans", size=10, leading=14, bold=True,
        colour="ochre", space_before=9, keep_next=True,
    ),
    ParagraphStyle(
        id="entry", name="Index entry", size=9, leading=12, indent_left=10, indent_first=-10,
    ),
    ParagraphStyle(
        id="sub-entry", name="Index sub-entry", based_on="entry", indent_left=20, indent_first=-10,
    ),
    ParagraphStyle(
        id="note", name="Note", size=9, leading=12.4, indent_left=16, indent_first=-16,
        tabs=(TabStop(16),), space_after=4,
    ),
)  # fmt: skip
_THINGS = {
    "boathouse": ("crooked", "patient", "unlit"),
    "lantern": ("borrowed", "half-forgotten", "rain-dark"),
    "signal tower": ("northern", "quiet"),
    "tide table": ("salt-white", "well-kept"),
    "weather glass": ("silver-grey",),
}


def driven_book(chapters: int = 14, seed: int = 31) -> Publication:
    """The book, its text poured and marked; it has its pages, lists and heads once it is grown."""
    publication = long_book(chapters, seed)
    for style in _STYLES:
        publication = put_paragraph_style(publication, style)
    heading = paragraph_style(publication, "heading")
    publication = put_paragraph_style(
        publication, replace(heading, starts="right page", space_before=0)
    )
    publication = _with_head(publication)
    publication = _with_rules(publication)
    story = publication.stories[0]
    publication = set_story_text(publication, story.id, _marked(story.text))
    return _with_lists(publication)


def _with_head(publication: Publication) -> Publication:
    """The chapter in force at the top of a page, where the book's name stood."""
    master = _master(publication, "Text page")
    head = next(i for i in master.items if i.name == "Page head")
    chapter = Marker("running head", head=Head("heading", "at the top", "number and text", " · "))
    said = (Paragraph("head", (chapter, Run("\t"), Marker("title"))),)
    return change_items(publication, master.id, {head.id: {"text": said}})


def _with_rules(publication: Publication) -> Publication:
    """Pages on which chapters begin have more room above and no head, blank ones nothing at all."""
    body = publication.sections[1].id
    plain = _master(publication, "Plain").id
    publication, opener = add_master(publication, "Chapter opener", plain)
    for item in (body_frame(sink=96), folio_frame()):
        publication, _ = add_item(publication, opener, item)
    publication, blank = add_master(publication, "Blank", plain)
    said = {"style": "heading", "masters": (opener,), "sections": (body,)}
    publication, _ = add_rule(publication, when="style", **said)
    return add_rule(publication, when="no text", masters=(blank,), sections=(body,))[0]


def _with_lists(publication: Publication) -> Publication:
    """The contents in front; notes and index behind, in a section that goes on with the folios."""
    pages = [page.id for page in all_pages(publication)]
    publication, at = add_item(publication, pages[2], _list_frame("Contents"))
    level = ListLevel("heading", "contents")
    contents = Contents(levels=(level,), title="Contents", title_style="list-title")
    publication = set_list(publication, pages[2], at, contents)
    body = publication.sections[-1]
    publication, behind = add_pages(publication, body.id, len(body.pages), 2)
    notes_page, index_page = behind
    publication, _ = start_section(publication, notes_page, "Notes and index", Numbering(), ())
    publication, back = add_master(publication, "Back matter", _master(publication, "Plain").id)
    publication, _ = add_item(publication, back, folio_frame())
    publication = apply_masters(publication, behind, (back,))
    publication, at = add_item(publication, notes_page, _list_frame("Notes"))
    notes = NoteList(shown="note", title="Notes", title_style="list-title")
    publication = set_list(publication, notes_page, at, notes)
    publication, at = add_item(publication, index_page, _list_frame("Index", columns=2))
    index = Index(shown="entry", sub_shown="sub-entry", letters="letter",
                  title="Index", title_style="list-title")  # fmt: skip
    return set_list(publication, index_page, at, index)


def _list_frame(name: str, columns: int = 1) -> TextFrame:
    return replace(body_frame(), name=name, main=0, columns=columns, gutter=14.0)


def _marked(text: Text) -> Text:
    """The story with index marks, two notes, and a reference from its first chapter to a later."""
    for thing, kinds in _THINGS.items():
        for kind in kinds:
            text, _ = mark_all(text, f"{kind} {thing}", IndexMark(thing, kind))
    openings = [n for n, p in enumerate(text) if p.style == "opening"]
    headings = [n for n, p in enumerate(text) if p.style == "heading"]
    notes = ("The ledger is lost; what is known of it stands in letters of later years.",
             "So the tide table has it. The bell had been cast nine years before.")  # fmt: skip
    made = list(text)
    for at, said in zip(openings, notes, strict=False):
        made[at] = _and(made[at], Note((Run(said),)))
    seen = made[openings[0] + 1]
    last = headings[-1]
    made[last] = replace(made[last], place="told-later")
    made[openings[0] + 1] = _and(
        seen, Run(" (More of this on page "), _told("folio"), Run(", under “"), _told("text"),
        Run("”.)"),
    )  # fmt: skip
    made[openings[-1]] = _and(
        made[openings[-1]], IndexMark("lamp", see="lantern"), IndexMark("tower", see="signal tower")
    )
    return tuple(made)


def _told(tells: str) -> Marker:
    return Marker("reference", refers=Reference("told-later", tells))  # type: ignore[arg-type]


def _and(paragraph: Paragraph, *more: Run | Marker | Note | IndexMark) -> Paragraph:
    return replace(paragraph, content=(*paragraph.content, *more))


def _master(publication: Publication, name: str) -> Master:
    return next(m for m in publication.masters if m.name == name)
