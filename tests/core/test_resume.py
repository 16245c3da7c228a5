"""A paragraph is broken behind a change only, and comes out as if it were broken anew."""

from __future__ import annotations

from itertools import pairwise
from unittest.mock import patch

from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.typeset.breaking import resume, total_fit
from hidden_frame.typeset.breaking.nodes import nodes_of
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.measures import fit_of
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.segments import segments
from hidden_frame.typeset.shaping import setting_of

FACES = [setting_of(font_book().face("Spectral"), size) for size in (10.0, 13.0)]
WORDS = "a of night walk constellation imagination corre\u00adspondence well-known and/or — autumn"
word = st.sampled_from(WORDS.split()) | st.text("abcé.-–—/’) \u00ad日本", max_size=6)
text = st.lists(word, min_size=4, max_size=40).map(" ".join)
# Where something is exchanged (a share of the text), how much of it, and for what.
change = st.tuples(st.floats(0, 1), st.integers(0, 8), word)
looks = st.sampled_from([(), (0.5,), (0.3, 0.6)])  # where another look begins


def spec(string, parts, align, language, first):
    cuts = [0, *(round(len(string) * p) for p in parts), len(string)]
    spans = tuple(
        Span(string[a:b], FACES[n % 2], (0.0, 0.0, 0.0), language=language if n < 2 else None)
        for n, (a, b) in enumerate(pairwise(cuts))
    )
    return ParagraphSpec(spans, FACES[0], 14.0, align, first=first)


def broken(paragraph, measure):
    """Where the lines of each segment end."""
    fit = fit_of(paragraph, measure)
    return [
        total_fit.best_breaks(segment, fit, paragraph.first)
        for segment in segments(paragraph) if segment.words
    ]  # fmt: skip


@given(
    text, st.lists(change, max_size=6), looks, st.sampled_from(["left", "justified"]),
    st.sampled_from([None, "en_GB", "de_DE"]), st.floats(60, 300), st.sampled_from([0.0, 12.0]),
)  # fmt: skip
def test_a_changed_paragraph_is_broken_as_if_it_were_new(
    string, changes, parts, align, language, measure, first
):
    resume.forget()
    with patch.object(resume, "LONG", 2):
        broken(spec(string, parts, align, language, first), measure)
        for share, gone, put in changes:
            at = round(len(string) * share)
            string = string[:at] + put + string[at + gone :]
            paragraph = spec(string, parts, align, language, first)
            after_a_change = broken(paragraph, measure)
            with patch.object(total_fit, "resumed", lambda *_: None):
                assert after_a_change == broken(paragraph, measure)


@given(text, st.sampled_from([None, "en_GB"]), st.floats(0, 12))
def test_words_with_a_space_between_any_two_are_looked_at_as_all_others(string, language, indent):
    """The quick way for most paragraphs gives what the general one gives."""
    paragraph = spec(string, (), "justified", language, 0.0)
    for segment in segments(paragraph):
        if segment.words:
            given_all = (segment, 0, None, indent, 200.0, True)
            everything = nodes_of(*given_all, until=len(segment.words))
            assert nodes_of(*given_all) == everything


def test_a_key_at_the_end_looks_at_the_last_words_alone():
    string = "a considerable night of a correspondence " * 40
    add, looked = total_fit.add_nodes, []
    resume.forget()
    with patch.object(total_fit, "add_nodes", lambda *given: looked.append(given) or add(*given)):
        for typed in (string + "b", string + "bc"):
            paragraph = spec(typed, (), "justified", "en_GB", 0.0)
            (segment,) = segments(paragraph)
            broken(paragraph, 260.0)
    begins = [given[3] for given in looked]
    assert begins and min(begins) == len(segment.words) - 2
