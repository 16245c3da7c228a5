"""The caret by characters and words against Unicode's own cases, and words moved within a text."""

from __future__ import annotations

import lzma
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.edit.text import steps
from hidden_frame.edit.text.move import moved_words
from hidden_frame.edit.text.write import cut_out, plain
from hidden_frame.model.text import Marker, Paragraph, Run

# The Unicode Consortium's own cases, Unicode 15.0 (Debian's package unicode-data).
DATA = Path(__file__).parent.parent / "data"
# `regex` has no U+2701 among the pictographs that a joiner joins.
NOT_JOINED = "\u200d\u2701"


def cases(name):
    with lzma.open(DATA / f"{name}.txt.xz", "rt", encoding="utf-8") as lines:
        for line in lines:
            case = line.split("#")[0].split()
            if case:
                string = "".join(chr(int(code, 16)) for code in case[1::2])
                yield string, [n for n, mark in enumerate(case[::2]) if mark == "÷"]


def text_of(*strings):
    return tuple(Paragraph("body", (Run(s),) if s else ()) for s in strings)


def test_words_are_those_of_unicodes_own_cases():
    count = 0
    for string, expected in cases("WordBreakTest"):
        if NOT_JOINED not in string:
            found = [start for start, _ in steps.parts(string, 0)]
            assert [*found, len(string)] == expected, repr(string)
            count += 1
    assert count == 1821


def test_the_caret_goes_by_the_characters_of_unicodes_own_cases():
    count = 0
    for string, expected in cases("GraphemeBreakTest"):
        if NOT_JOINED in string or "\r\n" in string:  # no paragraph has an end of line in it
            continue
        text, place, forth = text_of(string), (0, 0), [0]
        while place[1] < len(string):
            place = steps.after(text, place)
            forth.append(place[1])
        back = [place[1]]
        while place[1]:
            place = steps.before(text, place)
            back.append(place[1])
        assert forth == back[::-1] == expected, repr(string)
        count += 1
    assert count == 598


PIECES = st.lists(
    st.sampled_from(["word", "don’t", " ", "  ", ", ", "…", "-", "3.14", "é", "e\u0301", "🇩🇪",
                     "日本", "\t", "«", "a_b", "👩\u200d👧", "\u00a0", "שלום"]),
    max_size=9,
).map("".join)  # fmt: skip
TEXTS = st.lists(PIECES, min_size=1, max_size=4).map(lambda s: text_of(*s))


@given(PIECES, st.data())
def test_parts_are_the_same_from_wherever_one_looks(string, data):
    at = data.draw(st.integers(0, len(string)))
    whole = set(steps.parts(string, 0))
    assert {p for p in steps.parts(string, at) if p[1] > at and not string[p[0]].isspace()} == {
        p for p in whole if p[1] > at and not string[p[0]].isspace()
    }


@given(TEXTS, st.data())
def test_every_step_moves_on_and_ends_at_the_texts_ends(text, data):
    index = data.draw(st.integers(0, len(text) - 1))
    place = (index, data.draw(st.integers(0, steps.length(text[index]))))
    for forth, back in ((steps.after, steps.before), (steps.word_after, steps.word_before)):
        behind, ahead = forth(text, place), back(text, place)
        assert behind > place or place == steps.end_of(text)
        assert ahead < place or place == (0, 0)
        assert behind == place or ahead <= back(text, behind) < behind
        for there in (behind, ahead):
            assert 0 <= there[0] < len(text) and 0 <= there[1] <= steps.length(text[there[0]])
    first, last = steps.word_around(text, place)
    assert first <= place <= last and not any(c.isspace() for c in plain(text, first, last))
    assert steps.erased(text, place) <= place


@pytest.mark.parametrize(("string", "at", "start"), [
    ("cafe\u0301", 5, 4),  # the accent alone
    ("x👩\u200d👧", 4, 1),
    ("x🇩🇪", 3, 1),
    ("xy", 2, 1),
])  # fmt: skip
def test_backspace_takes_an_accent_but_a_whole_pictograph(string, at, start):
    assert steps.erased(text_of(string), (0, at)) == (0, start)


def test_a_marker_is_one_character_and_no_word():
    text = (Paragraph("body", (Run("on "), Marker("folio"), Run(" of"))),)
    assert steps.after(text, (0, 3)) == (0, 4)
    assert steps.word_after(text, (0, 0)) == (0, 3)
    assert steps.word_around(text, (0, 4)) == ((0, 4), (0, 4))


def flat(text):
    """A text as characters with their styles, and the ends of paragraphs."""
    return [(c, p.style) for p in text for c in (*steps.letters(p), "¶")]


@given(TEXTS, st.data())
def test_words_that_are_moved_are_neither_lost_nor_doubled(text, data):
    def place():
        index = data.draw(st.integers(0, len(text) - 1))
        return index, data.draw(st.integers(0, steps.length(text[index])))

    start, end = sorted((place(), place()))
    to = place()
    made, first, last = moved_words(text, start, end, to)

    # A naive model: a list of characters, cut and put in again.
    def at(where):
        return sum(steps.length(p) + 1 for p in text[: where[0]]) + where[1]

    line = "\n".join(map(steps.letters, text))
    taken = line[at(start) : at(end)]
    rest = line[: at(start)] + line[at(end) :]
    if start <= to <= end:
        expected = line
    else:
        spot = at(to) if to < start else at(to) - len(taken)
        expected = rest[:spot] + taken + rest[spot:]
    assert "\n".join(map(steps.letters, made)) == expected
    assert plain(cut_out(made, first, last)) == plain(cut_out(text, start, end))
