"""Numbers as printed, sides, spreads, and ranges as people type them."""

from __future__ import annotations

import pytest
import roman as independent
from hypothesis import given
from hypothesis import strategies as st
from tests.pairing import spreads

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.numerals import format_number
from hidden_frame.compose.ranges import echo, pages_in_range
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import change_numbering, start_section
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.sides import side_of
from hidden_frame.model.trims import TRIMS


def test_roman_agrees_with_an_independent_library():
    for number in range(1, 4000):
        assert format_number(number, "upper roman") == independent.toRoman(number)
        assert format_number(number, "lower roman") == independent.toRoman(number).lower()


def test_roman_examples_of_css_counter_styles_3():
    # CSS Counter Styles Level 3, section 6.1: range 1 to 3999, else the fallback, decimal.
    assert format_number(49, "lower roman") == "xlix"
    assert format_number(4000, "lower roman") == "4000"


def test_letters_as_in_pdf_page_labels():
    # ISO 32000-1, 12.4.2, table 159: A to Z for the first 26 pages, AA to ZZ for the next 26.
    assert [format_number(n, "lower letters") for n in (1, 26, 27, 52, 53)] == [
        "a", "z", "aa", "zz", "aaa",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("style", "printed"),
    [("lower roman", "xiv"), ("upper roman", "XIV"), ("lower letters", "n"),
     ("upper letters", "N"), ("decimal", "14"), ("none", "")],
)  # fmt: skip
def test_the_case_of_a_folio_is_its_styles(style, printed):
    assert format_number(14, style) == printed


@given(st.lists(st.integers(1, 6), min_size=1, max_size=5), st.integers(1, 40))
def test_the_last_folio_of_a_section_is_that_of_its_last_page(lengths, start):
    publication = new_publication("L", Setup(trim=TRIMS["A5"]), sum(lengths))
    ids, at, sections = [p.id for p in all_pages(publication)], 0, []
    for n, length in enumerate(lengths):
        numbering = Numbering(start=start) if n == 0 else Numbering(style="lower roman")
        publication, _ = start_section(publication, ids[at], f"S{n}", numbering)
        sections.append(ids[at : at + length])
        at += length
    facts = page_facts(publication)
    for pages in sections:
        assert {facts[p].section_last_folio for p in pages} == {facts[pages[-1]].folio}
        assert {facts[p].section_pages for p in pages} == {len(pages)}


def test_sides_and_spreads_against_pairing_by_hand():
    for count in range(1, 60):
        for opening in ("recto", "verso"):
            pages = list(range(1, count + 1))
            expected = [(pages.pop(0),)] if opening == "recto" else []
            while pages:
                expected.append(tuple(pages[:2]))
                pages = pages[2:]
            setup = Setup(trim=TRIMS["A5"], opening=opening)
            assert spreads(count, setup) == expected
            for pair in expected:
                sides = [side_of(p, setup) for p in pair]
                assert sides == ["verso", "recto"][: len(pair)] or sides == ["recto"]


def sectioned():
    """12 pages: cover none, front matter i–iv, body from 1."""
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 12)
    ids = [p.id for p in all_pages(publication)]
    publication, _ = start_section(publication, ids[0], "Cover", Numbering(style="none"))
    roman = Numbering(style="lower roman", start=1)
    publication, _ = start_section(publication, ids[1], "Front", roman)
    publication, body = start_section(publication, ids[5], "Body", Numbering(start=1))
    return publication, ids, body


def test_folios_of_sections():
    publication, _, body = sectioned()
    folios = [f.folio for f in page_facts(publication).values()]
    assert folios == ["", "i", "ii", "iii", "iv", "1", "2", "3", "4", "5", "6", "7"]
    carried = change_numbering(publication, body, Numbering(prefix="B-"))
    assert [f.folio for f in page_facts(carried).values()][5:7] == ["B-5", "B-6"]


@pytest.mark.parametrize(("counted", "expected"), [(False, "1"), (True, "2")])
def test_a_section_without_numbers_is_counted_only_if_it_says_so(counted, expected):
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 3)
    ids = [p.id for p in all_pages(publication)]
    none = Numbering(style="none", counted=counted)
    publication, _ = start_section(publication, ids[0], "Cover", none)
    publication, _ = start_section(publication, ids[1], "Body", Numbering())
    assert page_facts(publication)[ids[1]].folio == expected


@pytest.mark.parametrize(
    ("text", "positions"),
    [
        ("all", range(1, 13)),
        ("iii", [4]),
        ("ii–iv", [3, 4, 5]),
        ("3, 5-7", [8, 10, 11, 12]),
        ("#1, #5-#6", [1, 5, 6]),
        ("12", [12]),  # no folio 12: the position
        ("odd", [1, 2, 4, 6, 8, 10, 12]),
    ],
)
def test_ranges(text, positions):
    publication, ids, _ = sectioned()
    assert pages_in_range(publication, text) == [ids[p - 1] for p in positions]


@pytest.mark.parametrize("text", ["", ",", "99", "7-3", "x-ix", "#0", "3-", "two"])
def test_a_range_that_means_nothing_says_which_part(text):
    publication, _, _ = sectioned()
    with pytest.raises(Refusal):
        pages_in_range(publication, text)


@given(st.sets(st.integers(1, 12), min_size=1))
def test_positions_name_themselves_and_the_echo_counts_them(positions):
    publication, ids, _ = sectioned()
    text = ", ".join(f"#{p}" for p in positions)
    pages = pages_in_range(publication, text)
    assert pages == [ids[p - 1] for p in sorted(positions)]
    assert f": {len(positions)} page" in echo(publication, pages)


def test_an_ambiguous_folio_is_not_guessed():
    publication, _, body = sectioned()
    same = change_numbering(publication, body, Numbering(style="lower roman", start=1))
    with pytest.raises(Refusal, match="2 pages"):
        pages_in_range(same, "ii")


numberings = st.builds(
    Numbering,
    style=st.sampled_from(["decimal", "lower roman", "upper roman", "lower letters", "none"]),
    prefix=st.sampled_from(["", "A-", "1"]),
    start=st.none() | st.integers(1, 12),
)


@given(st.lists(st.tuples(st.integers(1, 5), numberings), min_size=1, max_size=5))
def test_folios_that_are_there_twice_are_those_of_several_pages(sections):
    publication = new_publication("B", Setup(trim=TRIMS["A5"]), sum(n for n, _ in sections))
    ids, at = [p.id for p in all_pages(publication)], 0
    for length, numbering in sections:
        publication, _ = start_section(publication, ids[at], "", numbering)
        at += length
    facts = page_facts(publication)
    folios = [f.folio for f in facts.values()]
    assert facts.twice() == [p for p, f in facts.items() if f.folio and folios.count(f.folio) > 1]
