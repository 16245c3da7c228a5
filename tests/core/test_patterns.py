"""Places to divide words at, looked up for many words at once, against pyphen, word by word."""

from __future__ import annotations

import random

import pyphen
import pytest
from benchmarks.natural import english, german
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.typeset import hyphenation
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.hyphenation import Division, divisions, divisions_all
from hidden_frame.typeset.patterns import Patterns, _is_whole
from hidden_frame.typeset.shaping import measure_all, setting_of

LANGUAGES = sorted(pyphen.LANGUAGES)
LETTERS = {
    "el": "αβγδεζηθικλμνξοπρστυφχψως", "ru": "абвгдеёжзийклмнопрстуфхцчшщъыьэюя",
    "uk": "абвгґдеєжзиіїйклмнопрстуфхцчшщьюя", "bg": "абвгдежзийклмнопрстуфхцчшщъьюя",
}  # fmt: skip
LATIN = "aaabcdeeefghiiijklmnooopqrsttuuuvwxyzäöüßéèêàçñåæøčšžőű"


@pytest.mark.parametrize("language", LANGUAGES)
def test_the_places_are_those_of_pyphen(language):
    draw = random.Random(language)
    letters = LETTERS.get(language[:2], LATIN)
    words = ["".join(draw.choices(letters, k=draw.randint(1, 22))) for _ in range(300)]
    if language[:2] in ("en", "de"):
        words += draw.sample(english() if language[:2] == "en" else german(), 400)
    patterns, oracle = Patterns.of(language), pyphen.Pyphen(lang=language, left=0, right=0)
    patterns.learn({word.lower() for word in words})
    for word in words:
        every = oracle.positions(word)
        assert patterns.positions(word) == [p for p in every if 0 < p < len(word)], word


@given(st.lists(st.text(max_size=20), max_size=12), st.sampled_from(["en_GB", "de_DE", "xx", "hu"]),
       st.integers(1, 8), st.integers(1, 5), st.integers(1, 5))  # fmt: skip
def test_many_words_are_divided_as_each_by_itself(words, language, letters, before, after):
    by = Division(language, letters, before, after)
    together = divisions_all(words, by)
    divisions.cache_clear()
    Patterns.of.cache_clear()
    assert together == [divisions(word, by) for word in words]


def test_what_is_kept_in_the_cache_is_read_again_and_rubbish_is_not(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path))
    Patterns.of.cache_clear()
    first = Patterns.of("en_GB").positions("observatory")
    (kept,) = (tmp_path / "hidden-frame" / "patterns").iterdir()
    for spoilt in (kept.read_bytes(), b"", b"PK rubbish", kept.read_bytes()[:500]):
        kept.write_bytes(spoilt)
        Patterns.of.cache_clear()
        assert Patterns.of("en_GB").positions("observatory") == first
        assert _is_whole(kept.read_bytes())


def test_a_language_without_patterns_divides_nothing():
    assert divisions("observatory", "xx") == () and divisions_all(["observatory"], "xx") == [()]
    assert hyphenation._patterns("xx") is None


@given(st.lists(st.text(st.characters(codec="utf-8"), min_size=1, max_size=12), max_size=20),
       st.booleans())  # fmt: skip
def test_widths_of_many_are_those_of_each(words, ligatures):
    face = font_book().face("Spectral")
    setting = setting_of(face, 10.0, 0.0 if ligatures else 20.0)
    assert setting.measured(words) == [setting.word(word).width for word in words]
    units, counts = measure_all(face, words, ligatures, setting.manner)
    assert len(units) == len(counts) == len(words)
