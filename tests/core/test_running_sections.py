"""Sections in a running story: its text stays where it stands; a section follows its heading."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

import hidden_frame as hf
from hidden_frame.checks.sections import section_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, set_default_masters
from hidden_frame.edit.masters.rules import add_rule
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import add_pages, delete_pages, move_pages
from hidden_frame.edit.pages.sections import (
    StoryPlace,
    begin_with,
    delete_section,
    duplicate_section,
    end_section,
    join_with_previous,
    move_section,
    number_from,
    start_section,
)
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.interact.words.beginning import heading_on
from hidden_frame.interact.words.storied import running_into, state
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story, section_of
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Contents, ListLevel, Paragraph, Run
from hidden_frame.settle.settling import settled


def book(count=40, every=8):
    """A story of numbered paragraphs and a heading each so many; its publication and id."""
    publication = new_publication("Ledger", Setup(trim=Size(300, 220)), 1)
    publication = put_paragraph_style(
        publication, ParagraphStyle(id="heading", name="Heading", size=16, leading=20)
    )
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=112, main=1)
    publication, _ = add_item(publication, master, frame)
    publication = set_default_masters(publication, (master,))
    text = tuple(
        Paragraph("heading", (Run(f"h{n}"),)) if n % every == 0
        else Paragraph("body", (Run(f"p{n} " + "night sky " * 12),))
        for n in range(count)
    )  # fmt: skip
    publication, story = pour(publication, publication.sections[0].id, text, "Ledger")
    return settled(publication), story


def stands(publication, story):
    """What of a story stands on each page that has some, and whether all of it does."""
    flow = Composer().compose(publication).flow(story)
    found: dict[str, list[str]] = {}
    for stop, part in zip(flow.stops, flow.parts, strict=True):
        if part.lines:
            found.setdefault(stop.page_id, []).extend(line.text for line in part.text.lines)
    return found, flow.rest is None


def words(publication, story):
    """All that pages say, page after page."""
    there, fits = stands(publication, story)
    assert fits
    lines = [line for page in all_pages(publication) for line in there.get(page.id, ())]
    return "".join(lines).replace("-", "").replace(" ", "")


def said(publication, story):
    return "".join(
        run.text for p in find_story(publication, story).text for run in p.content
    ).replace(" ", "")


def sizes(publication):
    return [len(section.pages) for section in publication.sections]


BOOK, STORY = book()
BEFORE = stands(BOOK, STORY)[0]


@pytest.mark.parametrize("how", ["section", "page 1", "ended", "script"])
def test_a_section_started_in_a_running_story_moves_no_word(how):
    pages = [p.id for p in all_pages(BOOK)]
    if how == "script":
        document = hf.Document(BOOK)
        document.section_at(7, name="Two", start=1)
        after = document.publication
    else:
        start = {"section": start_section, "page 1": number_from, "ended": end_section}[how]
        after = settled(start(BOOK, pages[6])[0])
    assert [p.id for p in all_pages(after)] == pages
    assert stands(after, STORY)[0] == BEFORE and len(after.sections) == 2
    check(after)


def test_what_stands_behind_the_end_of_a_text_is_not_carried_on():
    publication, made = add_pages(BOOK, BOOK.sections[0].id, 99, 2)
    composition = Composer().compose(publication)
    assert running_into(composition, made[1]) == ()
    document = hf.Document(publication)
    document.section_at(len(all_pages(publication)), name="Notes")
    assert len(find_story(document.publication, STORY).sections) == 1


EDITS = st.lists(
    st.tuples(
        st.sampled_from(["start", "page 1", "join", "move", "duplicate", "delete", "delete pages",
                         "move pages", "add", "cut", "put back"]),
        st.integers(0, 1000),
    ), min_size=1, max_size=6,
)  # fmt: skip


def edited(publication, kind, number):
    """One of the things that a designer does to sections and pages of a book."""
    pages = [p.id for p in all_pages(publication)]
    sections = publication.sections
    page, section = pages[number % len(pages)], sections[number % len(sections)]
    match kind:
        case "start":
            return start_section(publication, page)[0]
        case "page 1":
            return number_from(publication, page)[0]
        case "join":
            return join_with_previous(publication, section.id)
        case "move":
            return move_section(publication, section.id, sections[number // 7 % len(sections)].id)
        case "duplicate":
            return duplicate_section(publication, section.id)[0]
        case "delete":
            return delete_section(publication, section.id, pages=False)
        case "delete pages":
            return delete_section(publication, section.id, pages=True)
        case "move pages":
            return move_pages(publication, pages[number % 3 :: 5], section.id, number % 4)
        case "add":
            return add_pages(publication, section.id, number % 5, 1 + number % 3)[0]
    text = find_story(publication, STORY).text
    new = text[: max(len(text) - number % 9, 1)] if kind == "cut" else (
        *text, *find_story(BOOK, STORY).text[: number % 5]
    )  # fmt: skip
    return set_story_text(publication, STORY, new)


@settings(max_examples=60, deadline=None)
@given(EDITS)
def test_whatever_becomes_of_sections_all_words_stand_in_order_once(edits):
    publication, composer = BOOK, Composer()
    for kind, number in edits:
        try:
            publication = settled(edited(publication, kind, number), composer)
        except Refusal:
            continue
        check(publication)
        if find_story(publication, STORY).sections and any(
            s.id in find_story(publication, STORY).sections for s in publication.sections
        ):
            assert words(publication, STORY) == said(publication, STORY)
        assert settled(publication, Composer()) is publication
        assert len(all_pages(publication)) < 200


def with_beginning(number=2):
    """Section Two begins with the heading of that number."""
    at = number * 8
    page = next(
        p for p, lines in BEFORE.items() if any(line == f"h{at}" for line in lines)
    )  # fmt: skip
    publication, two = start_section(BOOK, page, "Two")
    return settled(begin_with(publication, two, StoryPlace(STORY, at))), two, at


def naive_first(publication, words):
    """The first page that says so, looked for from the front."""
    there, _ = stands(publication, STORY)
    return next(p.id for p in all_pages(publication) if words in there.get(p.id, ()))


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.booleans(), st.integers(0, 39), st.integers(1, 12)), max_size=5))
def test_a_section_follows_the_paragraph_that_it_begins_with(edits):
    publication, two, at = with_beginning()
    composer = Composer()
    for more, where, count in edits:
        text = find_story(publication, STORY).text
        if more:
            new = (*text[:where], *[Paragraph("body", (Run("new " * 40),))] * count, *text[where:])
        else:
            gone = range(where, min(where + count, len(text)))
            if any(text[n].place for n in gone) or len(gone) >= len(text) - 1:
                continue
            new = tuple(p for n, p in enumerate(text) if n not in gone)
        publication = settled(set_story_text(publication, STORY, new), composer)
        first = naive_first(publication, f"h{at}")
        section = next(s for s in publication.sections if s.id == two)
        if publication.sections[0].pages[0].id != first:  # it can't be the book's first page
            assert section.pages[0].id == first
        assert words(publication, STORY) == said(publication, STORY)
        assert settled(publication) is publication


def test_a_paragraph_that_is_gone_doubled_or_moved_past_another_is_told():
    publication, two, at = with_beginning()
    text = find_story(publication, STORY).text
    gone = settled(set_story_text(publication, STORY, (*text[:at], *text[at + 1 :])))
    (found,) = section_findings(Composer().compose(gone))
    assert "“Two” was to begin with a paragraph that no longer exists" in found.sentence
    for way in found.ways:
        assert list(section_findings(Composer().compose(settled(way.fix(gone))))) == []
    doubled = settled(set_story_text(publication, STORY, (*text, text[at])))
    assert section_of(doubled, naive_first(doubled, f"h{at}")).id == two
    other = next(p for p, lines in stands(publication, STORY)[0].items() if "h24" in lines)
    publication, three = start_section(publication, other, "Three")
    publication = settled(begin_with(publication, three, StoryPlace(STORY, 24)))
    crossed = settled(set_story_text(
        publication, STORY,
        (*text[:at], replace(text[24], place=find_story(publication, STORY).text[24].place),
         text[at], *text[at + 1 : 24], *text[25:]),
    ))  # fmt: skip
    check(crossed)
    assert words(crossed, STORY) == said(crossed, STORY)
    assert settled(crossed) is crossed


def test_a_script_names_the_words_that_a_section_begins_with():
    document = hf.Document(BOOK)
    page = next(p for p in document.pages if p.id == naive_first(BOOK, "h16"))
    section = document.section_at(page, "Two", begins="H16")
    with document.step("more before it"):
        text = find_story(document.publication, STORY).text
        new = (Paragraph("body", (Run("new " * 400),)), *text)
        document.edit("text", lambda p: set_story_text(p, STORY, new))
    assert section.pages[0].id == naive_first(document.publication, "h16")
    with pytest.raises(Refusal, match="No paragraph that begins on that page starts with “h17”"):
        document.section_at(3, begins="h17")


def test_the_highest_heading_of_a_page_is_offered():
    page = naive_first(BOOK, "h16")
    found = heading_on(Composer().compose(BOOK), page)
    assert found is not None and found.words == "h16"
    assert heading_on(Composer().compose(BOOK), all_pages(BOOK)[1].id) is None


def test_pages_that_a_text_left_are_told_and_taken_out():
    publication, _ = start_section(BOOK, all_pages(BOOK)[8].id, "Two")
    publication, _ = add_pages(publication, publication.sections[0].id, 8, 2)
    publication = settled(publication)
    text = find_story(publication, STORY).text
    less = settled(set_story_text(publication, STORY, text[:10]))
    composition = Composer().compose(less)
    found = list(section_findings(composition))
    assert found and all("ends before" in f.sentence for f in found)
    for finding in found:
        less = settled(finding.fix(less))
    assert list(section_findings(Composer().compose(less))) == []
    assert words(less, STORY) == said(less, STORY)


def test_sections_joined_through_which_two_stories_run_keep_their_words():
    page = all_pages(BOOK)[-1].id
    publication, made = add_pages(BOOK, BOOK.sections[0].id, 99, 1)
    publication, two = start_section(publication, made[0], "Two", carrying=())
    more = tuple(Paragraph("body", (Run(f"q{n} " + "dawn " * 30),)) for n in range(8))
    publication, other = pour(publication, two, more, "Dawn")
    publication = settled(publication)
    before = stands(publication, other)[0]
    joined = settled(join_with_previous(publication, two))
    check(joined)
    assert stands(joined, other)[0] == before
    assert words(joined, STORY) == said(joined, STORY)
    assert state(Composer().compose(joined), other).fits and page


def test_deleted_pages_of_a_section_leave_the_words():
    publication, two = start_section(BOOK, all_pages(BOOK)[6].id, "Two")
    gone = settled(delete_pages(publication, [p.id for p in publication.sections[1].pages[:3]]))
    assert words(gone, STORY) == said(gone, STORY) and two in [s.id for s in gone.sections]


def test_rules_and_lists_for_a_section_are_for_the_one_that_was_part_of_it():
    one = BOOK.sections[0].id
    publication, rule = add_rule(BOOK, style="heading", masters=(BOOK.masters[-1].id,),
                                 sections=(one,))  # fmt: skip
    contents = Contents(levels=(ListLevel("heading", "body"),), sections=(one,))
    frame = TextFrame(id="", x=0, y=0, width=200, height=200, contents=contents)
    publication, _ = add_item(publication, all_pages(publication)[0].id, frame)
    publication = settled(publication)
    listed = all_pages(publication)[0].items[0].text
    cut, two = start_section(publication, all_pages(publication)[6].id, "Two")
    cut = settled(cut)
    assert cut.rules[0].sections == (one, two) and rule == cut.rules[0].id
    assert [p.content for p in all_pages(cut)[0].items[0].text] == [p.content for p in listed]


def test_pages_that_wait_for_a_side_are_told_once_with_a_way_out():
    style = next(s for s in BOOK.paragraph_styles if s.id == "heading")
    sided = settled(put_paragraph_style(BOOK, replace(style, starts="left page")))
    (found,) = section_findings(Composer().compose(sided))
    assert found.kind == "waiting pages" and "“Heading” begins on another side" in found.sentence
    there, _ = stands(sided, STORY)
    assert list(found.pages) == [p.id for p in all_pages(sided) if p.id not in there]
    after = settled(found.fix(sided))
    assert list(section_findings(Composer().compose(after))) == []
    assert words(after, STORY) == said(after, STORY)
