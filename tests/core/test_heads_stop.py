"""Heads that stop at a higher heading, heads in the order of the story, headings that nobody sees,
first lines, numbers above their titles, and words at the ends of pages."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.contents import entries
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, set_default_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.interact.hands.likely import likely_title
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Contents, Head, ListLevel, Marker, Paragraph, Run
from hidden_frame.settle.settling import settled
from hidden_frame.typeset.spelled import spelled_places

LEVELS = Contents(levels=(ListLevel("chapter", "body"), ListLevel("section", "body")))


def book(rows, **body):
    """A book of small pages of one frame, of rows of a style and words each."""
    publication = new_publication("Stars", Setup(trim=Size(300, 220)), 1)
    for name, level in (("chapter", 1), ("section", 2)):
        style = ParagraphStyle(id=name, name=name, size=14, leading=20, level=level)
        publication = put_paragraph_style(publication, style)
    said = {"size": 10.0, "leading": 14.0, **body}
    publication = put_paragraph_style(publication, ParagraphStyle(id="body", name="Body", **said))
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=100, main=1)
    publication, _ = add_item(publication, master, frame)
    publication = set_default_masters(publication, (master,))
    text = tuple(Paragraph(style, (Run(words),) if words else ()) for style, words in rows)
    publication, story = pour(publication, publication.sections[0].id, text, "Stars")
    return settled(publication), story


def shown(publication, head):
    composition = Composer().compose(publication)
    marker = Marker("running head", head=head)
    return [composition.value(marker, p.id) for p in all_pages(publication)]


ROWS = st.lists(
    st.tuples(st.sampled_from(["body", "body", "body", "section", "chapter"]), st.integers(0, 60)),
    min_size=1, max_size=30,
)  # fmt: skip


def naive(publication, story, which, stops):
    """What is in force by reading all lines from the front, as one would with a pencil."""
    composition, text = Composer().compose(publication), find_story(publication, story).text
    flow = composition.flow(story)
    begun: dict[str, list[int]] = {p.id: [] for p in all_pages(publication)}
    for n in range(len(text)):
        at = flow.stop_of(n, 0)
        if at is not None:
            begun[flow.stops[at].page_id].append(n)
    found, now = [], ""
    for numbers in begun.values():
        here = [n for n in numbers if text[n].style in ("section", "chapter") and text[n].content]
        if not stops:
            here = [n for n in here if text[n].style == "section"]
        sections = [n for n in here if text[n].style == "section"]
        said = {n: text[n].content[0].text if text[n].style == "section" else "" for n in here}
        entered, now = now, said[here[-1]] if here else now
        if which == "first":
            found.append(said[sections[0]] if sections else "" if here else entered)
        else:
            found.append(now if which == "last" else entered)
    return found


@settings(max_examples=60, deadline=None)
@given(ROWS, st.sampled_from(["first", "last", "before"]), st.booleans())
def test_a_head_for_sections_stops_at_the_next_chapter(rows, which, stops):
    words = [(s, f"{s[0]}{n}" if s != "body" else "night " * n) for s, n in rows]
    publication, story = book([(s, f"{w}-{k}" if s != "body" else w)
                               for k, (s, w) in enumerate(words)])  # fmt: skip
    got = shown(publication, Head("section", which, stops=stops))
    assert got == naive(publication, story, which, stops)


def test_levels_come_from_a_contents_list_where_styles_say_none():
    night = ("body", "night " * 150)
    publication, _ = book(
        [("chapter", "One"), ("section", "Dusk"), night, ("chapter", "Two"), night]
    )
    styles = tuple(replace(s, level=0) if s.id in ("chapter", "section") else s
                   for s in publication.paragraph_styles)  # fmt: skip
    plain = replace(publication, paragraph_styles=styles)
    assert shown(plain, Head("section"))[-1] == "Dusk"
    frame = TextFrame(id="", x=0, y=0, width=100, height=10, contents=LEVELS)
    listed, _ = add_item(plain, all_pages(plain)[0].id, frame)
    assert shown(settled(listed), Head("section"))[-1] == ""


def test_a_heading_that_no_frame_has_room_for_is_in_no_list_and_no_head():
    publication, _ = book([("body", "night")])
    page = all_pages(publication)[0].id
    words = (Paragraph("body", (Run("above"),)), Paragraph("chapter", (Run("Hidden"),)))
    frame = TextFrame(id="", x=40, y=150, width=100, height=16, text=words)
    low, item = add_item(publication, page, frame)
    composition = Composer().compose(low)
    assert [e.text for e in entries(composition, LEVELS)] == []
    assert shown(low, Head("chapter")) == [""]
    assert any(p.drawing.overflow for p in composition.scene(page).placed)
    high = replace(frame, id=item, height=60.0)
    high, _ = add_item(publication, page, high)
    assert [e.text for e in entries(Composer().compose(high), LEVELS)] == ["Hidden"]


def two_frames(rows):
    """Main frames side by side, the left one first on the recto, mirrored on the verso."""
    publication, story = book(rows)
    publication, master = add_master(publication, "Two")
    for n, x in ((1, 40.0), (2, 160.0)):
        frame = TextFrame(id="", x=x, y=40, width=100, height=100, main=n)
        publication, _ = add_item(publication, master, frame)
    return settled(set_default_masters(publication, (master,))), story


def test_side_by_side_the_left_frame_is_read_first_on_either_page():
    rows = [("section", f"S{n}") if n % 3 == 0 else ("body", "night " * 25) for n in range(24)]
    publication, story = two_frames(rows)
    composition = Composer().compose(publication)
    flow = composition.flow(story)
    for stop in flow.stops:
        placed = composition.scene(stop.page_id).placed
        x = {p.item_id: p.matrix.apply(0, 0)[0] for p in placed}
        first, second = flow.frames[stop.page_id]
        assert x[first] < x[second]
    assert {s.side for s in flow.stops} == {"recto", "verso"}
    words = [f"S{n}" for n in range(0, 24, 3)]
    for page, (first, last) in zip(all_pages(publication), zip(
        shown(publication, Head("section")), shown(publication, Head("section", "last")),
        strict=True), strict=True):  # fmt: skip
        assert words.index(first) <= words.index(last), page.id


def test_a_book_from_right_to_left_reads_the_right_frame_first():
    publication, story = two_frames([("body", "night " * 200)])
    turned = replace(publication, setup=replace(publication.setup, direction="right to left"))
    master = turned.masters[-1]
    items = tuple(replace(i, main=3 - i.main) for i in master.items)  # the right one is first
    turned = replace(turned, masters=(*turned.masters[:-1], replace(master, items=items)))
    composition = Composer().compose(turned)
    flow = composition.flow(story)
    for page in {s.page_id for s in flow.stops}:
        placed = {p.item_id: p.matrix.apply(0, 0)[0] for p in composition.scene(page).placed}
        first, second = flow.frames[page]
        assert placed[first] > placed[second]


def test_first_lines_behind_what_is_no_text_are_not_indented():
    rows = [
        ("body", "begins"), ("body", "goes on"), ("chapter", "One"), ("body", "behind a heading"),
        ("body", "goes on"), ("body", "* * *"), ("body", "behind a break"), ("body", "goes on"),
        ("body", ""), ("body", "behind nothing"),
    ]  # fmt: skip
    publication, story = book(rows, indent_first=12.0, flush_after=True)

    def indents(of):
        specs = Composer().compose(of).flow(story).specs.recto
        return [s.first for s in specs if s.style_name == "Body"]

    assert indents(publication) == [0, 12, 0, 12, 12, 0, 12, 12, 0]
    composer = Composer()
    text = find_story(publication, story).text
    composer.compose(publication).flow(story)
    for edited in ((*text[:2], *text[3:]), text[3:], (*text[:5], text[2], *text[5:])):
        after = set_story_text(publication, story, edited)
        warm = composer.compose(after).flow(story).specs.recto
        assert [s.first for s in warm if s.style_name == "Body"] == indents(after)


def test_a_number_stands_above_its_title_and_is_never_parted_from_it():
    number = ListNumber(form="Chapter {1}", above=True)
    for lines in range(1, 9):
        rows = [("body", "night\u2028" * lines), ("chapter", "The long watch")]
        publication, story = book(rows)
        style = next(s for s in publication.paragraph_styles if s.id == "chapter")
        publication = settled(put_paragraph_style(publication, replace(style, number=number)))
        flow = Composer().compose(publication).flow(story)
        pages = [[line.text for line in part.text.lines] for part in flow.parts]
        assert sum(p.count("Chapter 1") for p in pages) == 1
        assert any(p[-2:] == ["Chapter 1", "The long watch"] for p in pages)
        assert shown(publication, Head("chapter", part="number and text"))[-1] == (
            "Chapter 1 The long watch"
        )


def test_a_space_at_the_end_of_a_number_parts_it_from_its_title():
    publication, story = book([("chapter", "Dusk")])
    style = next(s for s in publication.paragraph_styles if s.id == "chapter")
    number = ListNumber(form="Chapter {1}: ")
    publication = settled(put_paragraph_style(publication, replace(style, number=number)))
    composition = Composer().compose(publication)
    assert composition.flow(story).parts[0].text.lines[0].text == "Chapter 1: Dusk"
    assert shown(publication, Head("chapter", part="number and text")) == ["Chapter 1: Dusk"]


def test_the_title_of_a_list_counts_nothing():
    publication, _ = book([("chapter", "One"), ("body", "night"), ("chapter", "Two")])
    style = next(s for s in publication.paragraph_styles if s.id == "chapter")
    numbered = put_paragraph_style(publication, replace(style, number=ListNumber(), size=30.0))
    assert likely_title(publication) == "chapter" and likely_title(numbered) != "chapter"


LONG = "extraordinarily remarkable observatories circumnavigate hemispheres unquestionably "


@pytest.mark.parametrize("ends", ["anywhere", "not at rectos", "not at pages"])
@settings(max_examples=15, deadline=None)
@given(text=st.lists(st.sampled_from(LONG.split()), min_size=300, max_size=600), drop=st.booleans())
def test_pages_end_with_whole_words_where_the_style_wants_it(ends, text, drop):
    rows = [("body", " ".join(text[n : n + 90])) for n in range(0, len(text), 90)]
    said = {"hyphenate": True, "alignment": "justified", "hyphen_ends": ends}
    publication, story = book(rows, drop_lines=2 if drop else 0, **said)
    flow = Composer().compose(publication).flow(story)
    divided = {"recto": 0, "verso": 0}
    for stop, part in zip(flow.stops, flow.parts, strict=True):
        lines = part.text.lines
        divided[stop.side] += bool(lines) and lines[-1].line.divided
    assert ends == "anywhere" or not divided["recto"]
    assert ends != "not at pages" or not divided["verso"]
    said = "".join(line.text for part in flow.parts for line in part.text.lines)
    wanted = "".join(text)
    assert said.replace("-", "").replace(" ", "") == wanted
    cold = [[line.text for line in part.text.lines] for part in flow.parts]
    composer, words = Composer(), find_story(publication, story).text
    less = settled(set_story_text(publication, story, words[1:]), composer)
    again = settled(set_story_text(less, story, words), composer)
    warm = composer.compose(again).flow(story)
    assert [[line.text for line in part.text.lines] for part in warm.parts] == cold


def test_an_entry_of_a_list_without_a_word_is_looked_through_for_doubtful_ones():
    publication, story = book([("body", "night"), ("body", "")])
    style = next(s for s in publication.paragraph_styles if s.id == "body")
    listed = put_paragraph_style(publication, replace(style, number=ListNumber()))
    text = Composer().compose(listed).flow(story).parts[0].text
    assert [line.text for line in text.lines] == ["1. night", "2. "]
    for line in text.lines:
        spec = text.specs[line.paragraph]
        found = [
            list(spelled_places(line, spec, lambda words: words, alone=a)) for a in (True, False)
        ]
        assert len(found[0]) == len(found[1]) == (line.text == "1. night")
