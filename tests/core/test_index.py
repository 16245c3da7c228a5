"""The index against naive readings of the pages: folios, ranges, order."""

from __future__ import annotations

import unicodedata
from functools import cache
from itertools import groupby

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from pyuca import Collator

from hidden_frame.checks.terms import term_findings
from hidden_frame.compose.collation import initial, sort_key
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.index import IndexEntry, entries, folios, index_text, marked
from hidden_frame.demo.driven import driven_book
from hidden_frame.edit.about import set_about
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import delete_paragraph_style
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.edit.text.index import change_marks, mark_all, rename_term
from hidden_frame.edit.text.listing import set_list
from hidden_frame.edit.text.steps import length
from hidden_frame.edit.text.write import insert, insert_marker, plain
from hidden_frame.interact.finds.indexing import marked_everywhere, places_of, terms
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.text import Index, IndexMark, Paragraph, Run
from hidden_frame.model.usage import texts_of
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes
from hidden_frame.typeset.fill import Where

TERMS = ["Vega", "Altair", "épée", "Zenith", "moon"]


def book(words=600):
    """Roman pages i to iii and arabic ones from 1, through which a story flows."""
    publication = new_publication("Index", Setup(trim=Size(300, 260)), 9)
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=120, main=1)
    publication, _ = add_item(publication, master, frame)
    publication = replace(publication, default_masters=(master,))
    publication, body = start_section(publication, all_pages(publication)[3].id, "Body",
                                      Numbering(start=1))  # fmt: skip
    front, rest = publication.sections
    front = replace(front, numbering=Numbering(style="lower roman"))
    publication = replace(publication, sections=(front, rest))
    text = tuple(Paragraph("body", (Run("night " * 50),)) for _ in range(words // 50))
    publication, story = pour(publication, body, text, "Story")
    page = all_pages(publication)[0].id
    publication, item = add_item(
        publication, page, TextFrame(id="", x=10, y=10, width=120, height=200)
    )
    listing = Index(shown="body", letters="body")
    return set_list(publication, page, item, listing), story, page, item


def with_mark(publication, story, at, mark):
    text = find_story(publication, story).text
    text, _ = insert_marker(text, at, mark)
    return set_story_text(publication, story, text)


def lines(publication, page, item):
    frame = next(i for i in find_page(publication, page).items if i.id == item)
    return ["".join(c.text for c in p.content) for p in frame.text]


@cache
def unicode_order():
    """Unicode's own table of the order of characters, which takes half a second to be read."""
    return Collator()


marks = st.lists(
    st.tuples(st.integers(0, 11), st.integers(0, 290), st.sampled_from(TERMS)), min_size=1,
    max_size=12,
)  # fmt: skip


@settings(max_examples=40)
@given(marks)
def test_each_term_has_the_folios_of_its_pages_merged_into_ranges(marks):
    """Positions are read from where each page begins; ranges are made by a walk over numbers."""
    publication, story, page, item = book()
    text = find_story(publication, story).text
    for at, offset, term in marks:
        text, _ = insert_marker(text, (at, min(offset, length(text[at]))), IndexMark(term))
    publication = settled(set_story_text(publication, story, text))
    composition = Composer().compose(publication)
    flow = composition.flow(story)
    pages: dict[str, set[int]] = {}
    for number, paragraph in enumerate(text):
        at = 0
        for piece in paragraph.content:
            if isinstance(piece, IndexMark):
                here = [n for n, start in enumerate(flow.starts)
                        if (start.paragraph, start.place.offset) <= (number, at)]  # fmt: skip
                stands = max(here)
                ends = flow.starts[stands + 1] if stands + 1 < len(flow.starts) else flow.rest
                if ends is None or ends > Where(number, (at, 0)) or stands + 1 < len(flow.starts):
                    facts = composition.facts[flow.stops[stands].page_id]
                    pages.setdefault(piece.term, set()).add(facts.number)
            at += len(piece.text) if isinstance(piece, Run) else 1
    expected = []
    for term, numbers in pages.items():
        runs = []
        for _, run in groupby(enumerate(sorted(numbers)), key=lambda row: row[1] - row[0]):
            run = [n for _, n in run]
            runs.append(f"{run[0]}–{run[-1]}" if len(run) > 1 else f"{run[0]}")
        expected.append(f"{term}, {', '.join(runs)}")
    told = [line for line in lines(publication, page, item) if "," in line]
    assert sorted(told) == sorted(expected)
    order = [line.split(",")[0] for line in told]
    assert order == sorted(order, key=unicode_order().sort_key)
    assert settled(publication) is publication


def test_a_range_from_begin_to_end_see_and_see_also_and_sub_terms():
    publication, story, page, item = book()
    for at, mark in (
        ((0, 0), IndexMark("Stars", reach="begins")), ((9, 5), IndexMark("Stars", reach="ends")),
        ((0, 0), IndexMark("Suns", see="Stars")), ((1, 0), IndexMark("Stars", "double")),
        ((1, 0), IndexMark("Moon", see_also="Tides")),
    ):  # fmt: skip
        publication = with_mark(publication, story, at, mark)
    publication = settled(publication)
    facts = Composer().compose(publication).facts
    told = lines(publication, page, item)
    assert told[0] == "M" and told[1].startswith("Moon, ") and told[1].endswith("see also Tides")
    assert told[2] == "S" and told[3].startswith("Stars, 1–") and told[4].startswith("double, ")
    assert told[5] == "Suns, see Stars" and facts
    run_in = settled(set_list(publication, page, item, Index(shown="body", run_in=True)))
    assert any(line.startswith("Stars, 1–") and "; double, " in line
               for line in lines(run_in, page, item))  # fmt: skip


def test_roman_before_arabic_and_ranges_end_where_numbers_begin_anew():
    publication, *_ = book()
    facts = list(page_facts(publication).values())
    assert folios(((1, 1), (2, 5), (7, 7)), facts) == "i, ii–iii, 1–2, 4"
    assert folios(((3, 4),), facts) == "iii, 1"
    assert folios((), facts) == ""


@pytest.mark.parametrize(
    ("words", "expected"),
    [
        (["Zebra", "äpfel", "Apfel", "Éclair", "eclipse", "ångström"],
         ["ångström", "Apfel", "äpfel", "Éclair", "eclipse", "Zebra"]),
        (["“Ghost” signal", "Gas", "Halo", "10 Lacertae"],
         ["10 Lacertae", "Gas", "“Ghost” signal", "Halo"]),
    ],
)  # fmt: skip
def test_terms_stand_where_a_reader_looks_for_them(words, expected):
    """The default order of the Unicode Collation Algorithm; marks before a word don't count."""
    assert sorted(words, key=sort_key) == expected
    letters = [p.content[0].text for p in index_text(
        Index(shown="body", letters="body"), [IndexEntry(w, (), (), ()) for w in expected], []
    ) if len(p.content[0].text) == 1]  # fmt: skip
    assert letters == list(dict.fromkeys(letters))
    assert all(unicodedata.combining(c) == 0 for c in letters)


def test_marking_all_marks_whole_words_once():
    text = (Paragraph("body", (Run("Vega, vega and Vegas; Vega"),)),)
    done, count = mark_all(text, "Vega", IndexMark("Vega"))
    assert count == 3 and plain(done) == plain(text)
    assert mark_all(done, "vega", IndexMark("Vega"))[1] == 0
    again, more = mark_all(done, "Vega", IndexMark("Stars", "Vega"))
    assert more == 3 and len(again[0].content) > len(done[0].content)


def test_marks_take_no_room_and_words_stay_together():
    publication, story, *_ = book()
    before = Composer().compose(publication).flow(story)
    text = find_story(publication, story).text
    for n in range(0, 280, 7):
        text, _ = insert_marker(text, (2, n), IndexMark("Vega"))
    after = Composer().compose(set_story_text(publication, story, text)).flow(story)
    assert [p.lines for p in before.parts] == [p.lines for p in after.parts]
    shown = [[line.text for line in part.text.lines] for part in after.parts]
    assert shown == [[line.text for line in part.text.lines] for part in before.parts]
    typed, _ = insert(text, (2, 0), "x")
    assert len(plain(typed)) == len(plain(text)) + 1


def test_terms_are_renamed_and_taken_out_everywhere():
    publication, story, page, item = book()
    publication = with_mark(publication, story, (0, 3), IndexMark("Vega"))
    publication = with_mark(publication, story, (1, 3), IndexMark("Mira"))
    renamed = settled(change_marks(
        publication, lambda m: replace(m, term="Lyrae") if m.term == "Vega" else m
    ))  # fmt: skip
    assert any(line.startswith("Lyrae, 1") for line in lines(renamed, page, item))
    gone = settled(change_marks(renamed, lambda m: None if m.term == "Lyrae" else m))
    assert not any("Lyrae" in line for line in lines(gone, page, item))
    assert [e.term for e in entries(marked(Composer().compose(gone)))] == ["Mira"]


def test_an_index_is_saved_and_outlives_its_styles():
    publication, story, page, item = book()
    publication = check(settled(with_mark(publication, story, (0, 3), IndexMark("Vega", "blue"))))
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication
    other = publication.paragraph_styles[-1].id
    styled = set_list(publication, page, item, Index(shown=other, letters=other))
    gone = settled(delete_paragraph_style(styled, other, "body"))
    assert not problems(gone) and lines(gone, page, item)
    assert sum(isinstance(c, IndexMark) for _, t in texts_of(gone) for p in t for c in p.content)


def test_a_word_with_several_marks_is_marked_once_with_each():
    text = (Paragraph("body", (Run("Vega, then Vega."),)),)
    first, second = IndexMark("Vega"), IndexMark("Stars", "Vega")
    for mark, count in ((first, 2), (second, 2), (first, 0), (second, 0)):
        text, made = mark_all(text, "Vega", mark)
        assert made == count


def test_lists_are_never_marked():
    """What a list says comes from elsewhere: it is no place where a word stands."""
    book = settled(driven_book(chapters=2))
    with pytest.raises(Refusal, match="was not found"):
        marked_everywhere(book, "Contents", IndexMark("contents"))
    changed, count = marked_everywhere(book, "The Breakwater", IndexMark("breakwater"))
    assert count == len(places_of(Composer().compose(settled(changed)), "breakwater", "")) > 1


@pytest.mark.parametrize(
    ("language", "words"),
    [
        ("sv_SE", ["apa", "zebra", "ångström", "ärla", "öga"]),
        ("da", ["abe", "zebra", "æble", "øje", "ål"]),
        ("es", ["nube", "nzz", "ñandú", "oso"]),
        ("cs", ["cukr", "čas", "hora", "chata", "zima", "žena"]),
        ("hu", ["cukor", "csillag", "dal"]),
        ("de", ["Apfel", "Äpfel", "Ofen", "Öfen", "Zebra"]),
    ],
)  # fmt: skip
def test_the_language_of_a_publication_orders_its_index(language, words):
    """CLDR's standard collations, as far as they add letters; from memory, as the table is."""
    for mixed in (words[::-1], sorted(words)):
        found = sorted(mixed, key=lambda word: sort_key(word, language))
        assert found == words
    initials = [initial(word, language) for word in words]
    assert len(set(initials)) == len(list(groupby(initials)))  # no letter stands twice
    publication = new_publication("P", Setup(trim=Size(200, 200)), 2)
    text = tuple(Paragraph("body", (Run(w), IndexMark(w))) for w in words[::-1])
    frame = TextFrame(id="", x=0, y=0, width=200, height=190, text=text)
    publication, _ = add_item(publication, all_pages(publication)[0].id, frame)
    publication = set_about(publication, language=language)
    told = [t.term for t in terms(Composer().compose(publication))]
    assert told == sorted(words, key=lambda word: sort_key(word, language))


def indexed(*marks):
    """A story whose paragraphs have a mark each."""
    publication, story, _, _ = book()
    text = tuple(
        insert_marker((Paragraph("body", (Run("words"),)),), (0, 5), mark)[0][0] for mark in marks
    )
    return settled(set_story_text(publication, story, text))


def test_a_renamed_term_is_renamed_where_others_send_to_it():
    publication = indexed(
        IndexMark("Lamp"), IndexMark("Lamp", "oil"), IndexMark("Light", see="Lamp"),
        IndexMark("Wick", see_also="Lamp"), IndexMark("Oil", see="Lamp, oil"),
        IndexMark("Lamplighter"), IndexMark("Post", see_also="Lamplighter"),
    )  # fmt: skip
    done = rename_term(publication, "Lamp", "", "Lantern")
    told = [
        (m.mark.term, m.mark.sub, m.mark.see, m.mark.see_also)
        for m in marked(Composer().compose(done))
    ]
    assert told == [
        ("Lantern", "", "", ""), ("Lantern", "oil", "", ""), ("Light", "", "Lantern", ""),
        ("Wick", "", "", "Lantern"), ("Oil", "", "Lantern, oil", ""),
        ("Lamplighter", "", "", ""), ("Post", "", "", "Lamplighter"),
    ]  # fmt: skip
    done = rename_term(done, "Lantern", "oil", "tallow")
    assert [m.mark.see for m in marked(Composer().compose(done))][4] == "Lantern, tallow"
    assert list(term_findings(Composer().compose(done))) == []


def test_what_sends_to_no_entry_is_told_and_taken_out():
    publication = indexed(
        IndexMark("Lamp"), IndexMark("Light", see="Lamps"), IndexMark("Wick", see_also="Light"),
        IndexMark("Oil", see_also="Lamp"),
    )  # fmt: skip
    found = list(term_findings(Composer().compose(publication)))
    assert [f.sentence.partition(";")[0] for f in found] == [
        "The index says “Light, see Lamps”, but “Lamps” has no entry",
        "The index says “Wick, see also Light”, but “Light” has no entry",
    ]
    for finding in found:
        publication = finding.fix(publication)
    assert list(term_findings(Composer().compose(publication))) == []
    assert [m.mark.term for m in marked(Composer().compose(publication))] == ["Lamp", "Wick", "Oil"]
