"""Contents lists: what the pages say, always; links and bookmarks in the exported PDF."""

from __future__ import annotations

import io

import pypdf
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.contents import entries
from hidden_frame.edit.carry.items import clip_of, pasted
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import delete_paragraph_style, put_paragraph_style
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import add_pages, move_pages
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour, set_story_text, start_story
from hidden_frame.edit.text.listing import list_style, set_list
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import (
    Anchor,
    Contents,
    Index,
    ListLevel,
    NoteList,
    Paragraph,
    Run,
    TabStop,
)
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes
from hidden_frame.typeset.segments import TextOffset

WORDS = st.integers(0, 120).map(lambda n: "night " * n)


def par(style, text):
    return Paragraph(style, (Run(text),) if text else ())


def book(rows, pages=8, **more):
    """A front matter of two pages, the first of which holds a list, and a body with a story."""
    publication = new_publication("Contents", Setup(trim=Size(300, 260)), pages)
    for name, level in (("chapter", 1), ("section", 2)):
        publication = put_paragraph_style(
            publication, ParagraphStyle(id=name, name=name.title(), size=14, leading=18,
                                        number=ListNumber(form="{1}" if level == 1 else "{1}.{2}",
                                                          level=level)),
        )  # fmt: skip
    publication, one = list_style(publication, 0, "body")
    publication, two = list_style(publication, 1, "body")
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=150, main=1)
    publication, _ = add_item(publication, master, frame)
    publication, body = start_section(publication, all_pages(publication)[2].id, "Body",
                                      Numbering(start=1))  # fmt: skip
    front, rest = publication.sections
    front = replace(front, name="Front", masters=(), numbering=Numbering(style="lower roman"))
    publication = replace(publication, sections=(front, replace(rest, masters=(master,))))
    text = tuple(par(style, words) for style, words in rows)
    publication, story = pour(publication, body, text, "Story")
    levels = (ListLevel("chapter", one), ListLevel("section", two))
    listing = Contents(levels=levels, **more)
    page = all_pages(publication)[0].id
    publication, item = add_item(
        publication, page, TextFrame(id="", x=20, y=20, width=260, height=220)
    )
    return set_list(publication, page, item, listing), story, page, item


def lines(publication, page, item):
    frame = next(i for i in find_page(publication, page).items if i.id == item)
    return ["".join(c.text for c in p.content) for p in frame.text]


def naive(publication, story):
    """Every heading with the folio of the page that its first line stands on, read from the
    parts."""
    composition = Composer().compose(publication)
    flow, text = composition.flow(story), find_story(publication, story).text
    labels = composition.labels(story)
    found = []
    for stop, part, start in zip(flow.stops, flow.parts, flow.starts, strict=True):
        for fragment in part.text.fragments:
            for block in fragment.blocks:
                number = start.paragraph + block.paragraph
                whole = block.first == 0 and block.set.place(0) == TextOffset()
                if whole and text[number].style in ("chapter", "section"):
                    words = "".join(c.text for c in text[number].content)
                    folio = composition.facts[stop.page_id].folio
                    found.append(f"{labels[number]} {words}\t{folio}")
    return found


rows = st.lists(
    st.tuples(st.sampled_from(["body", "body", "chapter", "section"]), WORDS), min_size=1,
    max_size=12,
).map(lambda rows: [
    (style, words if style == "body" else f"Heading {n}") for n, (style, words) in enumerate(rows)
])  # fmt: skip


@settings(max_examples=40)
@given(rows, st.data())
def test_a_list_says_what_the_pages_say_after_every_edit(rows, data):
    publication, story, page, item = book(rows)
    composer = Composer()
    publication = settled(publication, composer)
    assert lines(publication, page, item) == naive(publication, story)
    for _ in range(2):
        text = find_story(publication, story).text
        at = data.draw(st.integers(0, len(text) - 1))
        new = par(data.draw(st.sampled_from(["body", "chapter"])), "night " * data.draw(
            st.integers(1, 200)))  # fmt: skip
        publication = settled(
            set_story_text(publication, story, (*text[:at], new, *text[at:])), composer
        )
        wanted = [" ".join(line.split(" ")) for line in naive(publication, story)]
        told = lines(publication, page, item)
        assert [" ".join(x.split()) for x in told] == [" ".join(x.split()) for x in wanted]
        assert settled(publication, composer) is publication


ROWS = [("chapter", "Winter"), ("body", "night " * 150), ("section", "Frost"), ("body", "cold"),
        ("chapter", "Spring"), ("body", "rain")]  # fmt: skip


def test_numbers_folios_title_and_sections_as_asked():
    publication, _, page, item = book(ROWS, title="Contents", title_style="chapter")
    publication = settled(publication)
    told = lines(publication, page, item)
    assert told[0] == "Contents" and told[1] == "1 Winter\t1"
    assert [t.split("\t")[0] for t in told[1:]] == ["1 Winter", "1.1 Frost", "2 Spring"]
    listing = next(i for i in find_page(publication, page).items if i.id == item).contents
    bare = replace(listing, levels=(replace(listing.levels[0], number=False, folio=False),),
                   title="")  # fmt: skip
    done = settled(set_list(publication, page, item, bare))
    assert lines(done, page, item) == ["Winter", "Spring"]
    elsewhere = replace(bare, sections=(publication.sections[0].id,))
    assert lines(settled(set_list(publication, page, item, elsewhere)), page, item) == []
    plain = settled(set_list(done, page, item, None))
    assert lines(plain, page, item) == ["Winter", "Spring"]


def test_a_stop_for_it_parts_number_and_text_by_a_tab():
    publication, _, page, item = book([("chapter", "Dusk"), ("body", "night")])
    publication = settled(publication)
    assert lines(publication, page, item) == ["1 Dusk\t1"]
    shown = next(s for s in publication.paragraph_styles if s.name.startswith("List"))
    stops = (TabStop(20.0), *shown.tabs)
    publication = settled(put_paragraph_style(publication, replace(shown, tabs=stops)))
    assert lines(publication, page, item) == ["1\tDusk\t1"]


def test_it_follows_pages_that_come_and_move():
    publication, story, page, item = book(ROWS)
    publication = settled(publication)
    body = publication.sections[1].id
    more, _ = add_pages(publication, body, 0, 2)
    assert lines(settled(more), page, item) == naive(more, story)
    moved = move_pages(publication, [all_pages(publication)[1].id], body, 1)
    assert lines(settled(moved), page, item) == naive(moved, story)


def test_headings_of_frames_and_captions_are_listed_and_a_list_never_lists_itself():
    publication, _, page, item = book(ROWS, title="Contents", title_style="chapter")
    third = all_pages(publication)[4].id
    caption = Anchor(caption="Plate 1", caption_style="section", stands="inside")
    own = (Paragraph("chapter", (Run("Own"),)), Paragraph("body", (caption, Run("words"))))
    publication, _ = add_item(
        publication, third, TextFrame(id="", x=10, y=5, width=100, height=40, text=own)
    )
    told = lines(settled(publication), page, item)
    assert "Own\t3" in told and "Plate 1\t3" in told
    assert sum("Contents" in line for line in told) == 1


def test_a_list_flows_on_as_a_story():
    publication, _, page, item = book([("chapter", f"Chapter {n}") for n in range(40)])
    publication, story = start_story(publication, page, item)
    publication = settled(publication)
    text = find_story(publication, story).text
    assert len(text) == 40 and text[0].content[0].text.startswith("1 Chapter 0\t")


def test_a_text_is_one_list_at_a_time():
    publication, _, page, item = book([("chapter", "Dusk")])
    publication = settled(set_list(publication, page, item, NoteList(shown="body", title="Notes")))
    assert lines(publication, page, item) == []
    publication = settled(set_list(publication, page, item, Index(shown="body", title="Terms")))
    assert lines(publication, page, item) == ["Terms"]
    frame = find_page(set_list(publication, page, item, None), page).items[0]
    assert (frame.contents, frame.index, frame.notes) == (None, None, None) and frame.text


def test_links_and_bookmarks_are_in_the_pdf():
    """Read by pypdf."""
    publication, _, page, _ = book(ROWS)
    publication = settled(publication)
    composition = Composer().compose(publication)
    reader = pypdf.PdfReader(io.BytesIO(pdf_bytes(composition, {})))
    pages = [p.indirect_reference for p in reader.pages]
    first = reader.pages[0]
    there = [pages.index(a.get_object()["/Dest"][0]) for a in first["/Annots"]]
    listing = next(i for i in find_page(publication, page).items).contents
    expected = [e.position - 1 for e in entries(composition, listing)]
    assert there == expected and len(there) == 3
    rects = [[float(v) for v in a.get_object()["/Rect"]] for a in first["/Annots"]]
    assert all(20 <= r[0] < r[2] <= 281 and r[1] < r[3] <= 260 for r in rects)

    def told(items, depth=0):
        for each in items:
            if isinstance(each, list):
                yield from told(each, depth + 1)
            else:
                yield depth, each.title, reader.get_destination_page_number(each)

    assert list(told(reader.outline)) == [
        (0, "Front", 0), (0, "Body", 2), (1, "1 Winter", 2),
        (2, "1.1 Frost", expected[1]), (1, "2 Spring", expected[2]),
    ]  # fmt: skip
    few = pdf_bytes(composition, {}, [all_pages(publication)[0].id])
    assert "/Annots" not in pypdf.PdfReader(io.BytesIO(few)).pages[0]


def test_lists_are_saved_carried_and_outlive_their_styles():
    publication, _, page, item = book(ROWS)
    publication = check(settled(publication))
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication
    gone = settled(delete_paragraph_style(publication, "section", "chapter"))
    assert not problems(gone)
    frame = next(i for i in find_page(publication, page).items if i.id == item)
    other = new_publication("Other", Setup(trim=Size(300, 260)), 1)
    made, _ = pasted(other, all_pages(other)[0].id, clip_of(publication, [frame]))
    assert not problems(made) and not problems(settled(made))
    bad = replace(frame.contents, levels=(ListLevel("gone", "gone"),))
    assert len(problems(set_list(publication, page, item, bad))) == 1


@pytest.mark.parametrize("count", [1, 60])
def test_a_list_that_makes_its_own_section_grow_settles(count):
    """The list stands in front of what it lists, in the same section."""
    publication, story, page, item = book([("chapter", f"C {n}") for n in range(count)])
    publication, listing = start_story(publication, page, item)
    publication = settled(publication)
    again = settled(publication)
    assert again is publication
    assert len(find_story(publication, listing).text) == count
    assert find_story(publication, story).text
