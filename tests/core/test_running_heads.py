"""Running heads and the other markers that depend on texts, against naive oracles."""

from __future__ import annotations

from datetime import date

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.checks.names import head_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.given import Given
from hidden_frame.edit.carry.items import clip_of, pasted
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import (
    delete_paragraph_style,
    put_character_style,
    put_paragraph_style,
)
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle
from hidden_frame.model.text import Head, Marker, Paragraph, Run
from hidden_frame.storage.format import from_bytes
from hidden_frame.typeset.segments import TextOffset

WHICH = ["first", "last", "at the top", "before"]
WORDS = st.integers(0, 120).map(lambda n: "night " * n)


def book(pages=6, heads=(), width=220.0, facing=True):
    """Pages with a main frame, and a frame that shows running heads; heading and entry styles."""
    setup = Setup(trim=Size(300, 260), facing=facing)
    publication = new_publication("Heads", setup, pages)
    body = replace(publication.paragraph_styles[0], least_foot=1, least_head=1)
    publication = put_paragraph_style(publication, body)
    publication = put_paragraph_style(
        publication, ParagraphStyle(id="title", name="Chapter title", size=14, leading=18,
                                    number=ListNumber(form="{1}")),
    )  # fmt: skip
    publication = put_character_style(publication, CharacterStyle(id="entry", name="Entry"))
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=width, height=150, main=1)
    publication, item = add_item(publication, master, frame)
    content = []
    for n, head in enumerate(heads):
        content += [Run(" – ")] if n else []
        content.append(Marker("running head", head=head) if isinstance(head, Head) else head)
    shown = TextFrame(id="", name="Head", x=40, y=10, width=width, height=14,
                      text=(Paragraph("body", tuple(content)),))  # fmt: skip
    publication, _ = add_item(publication, master, shown)
    return replace(publication, default_masters=(master,)), item


def shown(publication, page=None):
    """What the head's frame says on every page, or on one."""
    composition = Composer().compose(check(publication))
    found = []
    for each in all_pages(publication):
        scene = composition.scene(each.id)
        placed = next((p for p in scene.placed if p.name == "Head"), None)
        text = placed.drawing.text.text if placed is not None else None
        found.append(" ".join(line.text for line in text.lines) if text is not None else "")
    return found if page is None else found[page]


def par(style, text, **more):
    return Paragraph(style, (Run(text),) if text else (), **more)


texts = st.lists(
    st.tuples(st.sampled_from(["body", "body", "title"]), WORDS), min_size=1, max_size=14
).map(
    lambda rows: tuple(
        par(style, f"Title {n}" if style == "title" else words)
        for n, (style, words) in enumerate(rows)
    )
)
owns = st.dictionaries(st.integers(0, 5), st.sampled_from([20.0, 210.0]), max_size=3)


@settings(max_examples=60)
@given(texts, owns, st.sampled_from(WHICH), st.sampled_from(["page", "spread", "facing page"]))
def test_running_heads_are_those_of_a_naive_reading(text, owns, which, over):
    """Every page is read from its top, by what its parts show; then it is simple."""
    publication, item = book(heads=(Head("title", which=which, over=over),))
    for page, y in owns.items():
        frame = TextFrame(id="", x=40, y=y, width=200, height=24,
                          text=(par("title", f"Own {page}"),))  # fmt: skip
        publication, _ = add_item(publication, all_pages(publication)[page].id, frame)
    publication, story = pour(publication, publication.sections[0].id, text, "Story")
    composition = Composer().compose(publication)
    flow = composition.flow(story)
    begun: list[list[tuple[float, str, bool]]] = []  # down, what it says, is it the page's first
    for n, page in enumerate(all_pages(publication)):
        here: list[tuple[float, int, str, bool]] = []
        at = flow.index[page.id, item]
        part, start = flow.parts[at], flow.starts[at]
        stands = 40.0 if part.lines else None
        for fragment in part.text.fragments:
            for k, block in enumerate(fragment.blocks):
                number = start.paragraph + block.paragraph
                whole = block.first == 0 and block.set.place(0) == TextOffset()
                if whole and text[number].style == "title":
                    here.append((40.0, k, text[number].content[0].text, k == 0))
        if n in owns:
            here.append((owns[n], 0, f"Own {n}", True))
        tops = [y for y in (stands, owns.get(n)) if y is not None]
        begun.append([
            (down, words, opens and down == min(tops))
            for down, _, words, opens in sorted(here, key=lambda row: row[:2])
        ])  # fmt: skip
    expected = []
    facts = list(composition.facts.values())
    for n in range(len(begun)):
        spread = [k for k in range(len(begun)) if facts[k].spread == facts[n].spread]
        pages = {"page": [n], "spread": spread, "facing page": [k for k in spread if k != n]}[over]
        if not pages:
            expected.append("")
            continue
        earlier = [words for rows in begun[: pages[0]] for _, words, _ in rows]
        here = [words for k in pages for _, words, _ in begun[k]]
        before = earlier[-1] if earlier else ""
        if which == "before":
            expected.append(before)
        elif which == "at the top":
            rows = begun[pages[0]]
            expected.append(rows[0][1] if rows and rows[0][2] else before)
        else:
            expected.append((here[0] if which == "first" else here[-1]) if here else before)
    assert shown(publication) == expected


@given(texts, st.data())
@settings(max_examples=25)
def test_after_an_edit_heads_are_as_if_composed_cold(text, data):
    publication, _ = book(heads=(Head("title"), Head("title", which="last", part="number")))
    publication, story = pour(publication, publication.sections[0].id, text, "Story")
    composer = Composer()
    for _ in range(4):
        now = find_story(publication, story).text
        at = data.draw(st.integers(0, len(now) - 1))
        new = (*now[:at], par("title", data.draw(st.sampled_from(["A", "Bee", ""]))), *now[at:])
        if data.draw(st.booleans()):
            new = (*now[:at], *now[at + 1 :]) or now
        publication = set_story_text(publication, story, new)
        warm = composer.compose(publication)
        for page in all_pages(publication):
            assert warm.scene(page.id).text_of() == (
                Composer().compose(publication).scene(page.id).text_of()
            )


def told(publication, *paragraphs):
    return pour(publication, publication.sections[0].id, tuple(paragraphs), "The Story")


def test_number_text_and_words_between():
    for part, words in (("text", "Winter"), ("number", "1"), ("number and text", "1 · Winter")):
        publication, _ = book(heads=(Head("title", part=part, between=" · "),))
        publication, _ = told(publication, par("title", "Winter"), par("body", "night"))
        assert shown(publication, 0) == words


def test_first_and_last_entry_of_a_page_by_a_character_style():
    publication, _ = book(heads=(Head("entry"), Head("entry", which="last")))
    entries = [
        Paragraph("body", (Run(name, "entry"), Run(" a star. " * 12)))
        for name in ("Altair", "Antares", "Capella", "Deneb", "Mira", "Rigel", "Spica", "Vega")
    ]
    publication, _ = told(publication, *entries)
    found = [row.split(" – ") for row in shown(publication)]
    assert found[0][0] == "Altair" and found[0] != found[1]
    firsts = [row[0] for row in found]
    assert firsts == sorted(firsts) and found[-1][1] == "Vega"


def test_a_head_that_is_too_long_is_cut_at_a_word_or_takes_the_short_title():
    long = "The long and winding account of what the observers saw in the winter sky"
    publication, _ = book(heads=(Head("title"),), width=150.0)
    publication, story = told(publication, par("title", long), par("body", "night"))
    said = shown(publication, 0)
    assert said.endswith("…") and long.startswith(said[:-1]) and long[len(said) - 1] == " "
    wider, _ = book(heads=(Head("title"),), width=150.0)
    text = (par("title", long, short="What they saw"), par("body", "night"))
    assert shown(set_story_text(publication, story, text), 0) == "What they saw"
    brief = (par("title", "Brief", short="unused"), par("body", "night"))
    assert shown(set_story_text(publication, story, brief), 0) == "Brief"
    assert wider


@pytest.mark.parametrize(
    ("marker", "words"),
    [
        (Marker("previous section"), ""), (Marker("next section"), "Two"),
        (Marker("story name"), "The Story"), (Marker("facing folio"), "3"),
        (Marker("continued on"), "3"), (Marker("continued from"), "1"),
        (Marker("file name"), "almanac"),
        (Marker("date", form="day month year"), "9 December 2031"),
        (Marker("date", form="year-month-day"), "2031-12-09"),
    ],
)  # fmt: skip
def test_what_else_a_page_can_say(marker, words):
    publication, _ = book(heads=(marker,))
    publication, _ = start_section(publication, all_pages(publication)[3].id, "Two",
                                   Numbering(start=4))  # fmt: skip
    publication, _ = told(publication, par("body", "night " * 200))
    composer = Composer()
    composer.given = Given("almanac", date(2031, 12, 9))
    composition = composer.compose(publication)
    assert composition.value(marker, all_pages(publication)[1].id) == words
    last = all_pages(publication)[5].id
    if marker.shows in ("next section", "continued on"):
        assert composition.value(marker, last) == ""


def test_a_head_of_a_style_that_no_page_uses_is_told():
    publication, _ = book(heads=(Head("title"), Head("gone")))
    sentences = [f.sentence for f in head_findings(publication)]
    assert len(sentences) == 2 and "“Chapter title”" in sentences[0]
    assert "does not exist" in sentences[1]
    publication, _ = told(publication, par("title", "Winter"))
    assert len(list(head_findings(publication))) == 1


def test_a_deleted_style_is_replaced_in_heads_and_carried_with_them():
    publication, _ = book(heads=(Head("title"),))
    gone = delete_paragraph_style(publication, "title", "body")
    marker = gone.masters[-1].items[-1].text[0].content[0]
    assert marker.head.style == "body"
    other = new_publication("Other", Setup(trim=Size(300, 260)), 1)
    frame = publication.masters[-1].items[-1]
    made, _ = pasted(other, all_pages(other)[0].id, clip_of(publication, [frame]))
    name = {s.id: s.name for s in made.paragraph_styles}
    carried = all_pages(made)[0].items[0].text[0].content[0]
    assert name[carried.head.style] == "Chapter title"


def test_heads_are_saved_and_opened():
    publication, _ = book(heads=(Head("title", which="last", part="number", between=" | ",
                                      over="spread"), Marker("date", form="year")))  # fmt: skip
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication


@pytest.mark.parametrize("language", ["en_GB", "de", "fr", "xx", "pt_BR"])
def test_dates_in_every_form_and_language_say_the_year(language):
    from hidden_frame.compose.dates import FORMS, written

    for form in (*FORMS, "something else"):
        assert "31" in written(date(2031, 3, 9), form, language)
