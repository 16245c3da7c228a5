"""Quotes, dashes and apostrophes as one types, by the language."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.edit.text.typing import marks_of, typed


def type_out(words, language):
    """What comes of keys struck one after the other."""
    text = ""
    for key in words:
        gone, made = typed(text, key, language)
        text = text[: len(text) - gone] + made
    return text


@pytest.mark.parametrize(
    ("language", "keys", "expected"),
    [
        ("en_GB", """"Don't," she said. "It's 'odd'." """, "“Don’t,” she said. “It’s ‘odd’.” "),
        ("de", '"Ja", sagte er, "\'nein\'."', "„Ja“, sagte er, „‚nein‘.“"),
        ("fr", '"Oui", dit-il.', "«\u202fOui\u202f», dit-il."),
        ("sv", '"Ja", sa hon.', "”Ja”, sa hon."),
        ("pl", '("Tak")', "(„Tak”)"),
        ("it", "l'aria", "l’aria"),
        ("fr_CH", '"Oui"', "«\u202fOui\u202f»"),
        ("en", "1914--1918, so --- and...", "1914–1918, so — and…"),
        ("xx", '"?"', "“?”"),
    ],
)  # fmt: skip
def test_keys_become_the_marks_of_the_language(language, keys, expected):
    assert type_out(keys, language) == expected


def test_marks_are_those_of_the_unicode_consortiums_data():
    """CLDR 48.2: the table is made from it; these four are read off by eye."""
    assert marks_of("fr_CH") == ("«", "»", "‹", "›")
    assert marks_of("de_AT")[0] == "„" and marks_of("en_US") == marks_of("en")
    assert marks_of("ja") == ("「", "」", "『", "』")


@given(st.text("ab \"'-.(“", max_size=30), st.sampled_from(["en", "de", "fr", "he"]))
def test_other_characters_stay_and_straight_marks_never_do(keys, language):
    made = type_out(keys, language)
    assert '"' not in made and "'" not in made and "..." not in made
    assert [c for c in made if c in "ab("] == [c for c in keys if c in "ab("]
