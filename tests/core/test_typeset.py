"""Set text against fontTools' reading of the fonts, pyphen, and properties any line has."""

from __future__ import annotations

from itertools import pairwise

import pyphen
import pytest
from fontTools.ttLib import TTFont
from hypothesis import assume, given
from hypothesis import strategies as st

from hidden_frame.resources import FONTS
from hidden_frame.typeset import text as typeset_text
from hidden_frame.typeset.caret import caret_at, place_at, stops
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.hyphenation import divisions
from hidden_frame.typeset.overflow import explain
from hidden_frame.typeset.paragraph import ParagraphSpec, Spacing, Span, Tab
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.shaping import setting_of, shape

BLACK = (0.0, 0.0, 0.0)
SETTING = setting_of(font_book().face("Alegreya Sans"), 10.0)
words = st.text("abcdefghijklmnoprstuvwyzäé,.-", min_size=1, max_size=14)
texts = st.lists(words, min_size=1, max_size=60).map(" ".join)


def set_text(specs, width):
    """In one free column."""
    return typeset_text.set_text(specs, (Region(0.0, width),))


def spec(text, **more):
    language = more.pop("language", None)
    more = {"leading": 14.0, **more}
    spans = text if isinstance(text, tuple) else (Span(text, SETTING, BLACK, language=language),)
    return ParagraphSpec(spans, SETTING, **more)


def pair_kerning(font, left, right):
    """Horizontal kerning of two glyphs by GPOS pair adjustment, as fontTools reads it."""
    gpos = font["GPOS"].table
    records = [f.Feature for f in gpos.FeatureList.FeatureRecord if f.FeatureTag == "kern"]
    indexes = sorted({i for feature in records[:1] for i in feature.LookupListIndex})
    for index in indexes:
        for table in gpos.LookupList.Lookup[index].SubTable:
            table = getattr(table, "ExtSubTable", table)
            if table.LookupType != 2 or left not in table.Coverage.glyphs:
                continue
            if table.Format == 1:
                pairs = table.PairSet[table.Coverage.glyphs.index(left)].PairValueRecord
                for pair in pairs:
                    if pair.SecondGlyph == right:
                        return pair.Value1.XAdvance if pair.Value1 else 0
            else:
                first = table.ClassDef1.classDefs.get(left, 0)
                second = table.ClassDef2.classDefs.get(right, 0)
                value = table.Class1Record[first].Class2Record[second].Value1
                return getattr(value, "XAdvance", 0) if value else 0
    return 0


@pytest.mark.parametrize("text", ["AVATAR", "Towel", "Yes", "Kestrel", "LTVA", "wavy"])
def test_advances_against_hmtx_and_kerning_as_fonttools_reads_them(text):
    # Alegreya Sans has no contextual rules for these letters: advance + pair kerning is all.
    face = font_book().face("Alegreya Sans")
    font = TTFont(FONTS / "AlegreyaSans-Regular.ttf")
    names = [font.getBestCmap()[ord(c)] for c in text]
    advances = [font["hmtx"][n][0] for n in names]
    kerning = [pair_kerning(font, a, b) for a, b in pairwise(names)]
    assert shape(face, text).width == sum(advances) + sum(kerning)
    assert any(kerning) or text not in ("AVATAR", "LTVA")


def test_ligatures_stand_unless_letters_are_spaced():
    face = font_book().face("Spectral")
    assert len(shape(face, "office").glyphs) < len("office")
    assert len(shape(face, "office", ligatures=False).glyphs) == len("office")


@given(st.text("abcdefghijklmnopqrstuvwxyz", min_size=1, max_size=18))
def test_divisions_are_pyphens(word):
    expected = tuple(pyphen.Pyphen(lang="en_GB").positions(word)) if len(word) >= 5 else ()
    assert divisions(word, "en_GB") == expected


@given(texts, st.floats(30, 400), st.sampled_from(["left", "right", "centre", "justified"]))
def test_every_line_fits_and_no_character_is_lost(text, width, align):
    set_ = set_text([spec(text, align=align, language="en_GB")], width)
    lines = set_.lines
    for line in lines:
        assert line.left >= -0.01
        assert line.right <= width + 0.01 or len(line.text.replace(" ", "")) <= 2
    kept = "".join("".join(r.text for r in line.runs) for line in lines)
    assert len(kept.replace(" ", "").replace("-", "")) == len(
        text.replace(" ", "").replace("-", "")
    )
    assert [line.start for line in lines] == sorted({line.start for line in lines})
    assert lines[0].start == 0 and lines[-1].end == len(text)


@given(st.lists(words, min_size=12, max_size=60).map(" ".join), st.floats(80, 200))
def test_justified_lines_reach_the_edge_but_the_last_one(text, width):
    set_ = set_text([spec(text, align="justified")], width)
    lines = set_.lines
    assume(len(lines) > 1)
    for line in lines[:-1]:
        if " " in line.text:
            assert line.right == pytest.approx(width, abs=0.02)
    # Common practice of the trade: the last line of a justified paragraph keeps its spaces, or
    # has them a little narrower.
    assert all(-0.15 * SETTING.space - 0.001 <= run.extra <= 0.0 for run in lines[-1].runs)


LONG = ("observation", "understanding", "correspondence", "independently", "administration",
        "recommendation", "constellation", "considerable", "imagination")  # fmt: skip


@given(
    st.lists(st.sampled_from(LONG), min_size=20, max_size=50).map(" ".join),
    st.floats(44, 130),
    st.sampled_from(["left", "justified"]),
)
def test_no_more_than_three_lines_in_a_row_end_in_a_hyphen(text, width, align):
    # Common practice of the trade, as the rule of `breaking` says.
    set_ = set_text([spec(text, align=align, language="en_GB")], width)
    ends = ["-" if line.text.endswith("-") else " " for line in set_.lines]
    assert "-" * 4 not in "".join(ends)


def test_narrow_columns_do_take_three_hyphens_in_a_row():
    found = set()
    for width in range(44, 120):
        set_ = set_text([spec(" ".join(LONG * 4), align="justified", language="en_GB")], width)
        ends = "".join("-" if line.text.endswith("-") else " " for line in set_.lines)
        found |= {len(run) for run in ends.split()}
    assert max(found) == 3


@given(
    st.lists(
        st.sampled_from((*LONG, "a", "the", "of", "night", "under")), min_size=20, max_size=60
    ).map(" ".join),
    st.floats(90, 260),
)
def test_a_justified_line_is_loose_only_where_no_division_helps(text, width):
    """Half as wide again is felt as loose (common practice of the trade): such a line's next
    word can't be divided so that a part of it fits, by pyphen, or three hyphens stand above."""
    one_by_one = spec(text, align="justified", language="en_GB", spacing=Spacing(whole=False))
    set_ = set_text([one_by_one], width)
    lines, space = set_.lines, SETTING.space
    hyphens = 0
    for line, after in pairwise(lines):
        ended = line.text.endswith("-")
        extra = line.runs[0].extra
        if not ended and hyphens < 3 and extra > 0.5 * space + 0.001 and " " in line.text:
            word = after.text.split(" ")[0].rstrip("-")
            whole = text[after.start :].split(" ")[0]
            natural = line.right - line.left - extra * line.text.count(" ")
            positions = pyphen.Pyphen(lang="en_GB").positions(whole) if len(whole) >= 5 else ()
            fits = [
                p for p in positions
                if natural + space + SETTING.word(whole[:p] + "-").width <= width + 0.005
            ]  # fmt: skip
            assert not fits, (line.text, word, fits)
        hyphens = hyphens + 1 if ended else 0


@given(st.integers(1, 8), st.floats(0.05, 6))
def test_a_frame_too_low_by_little_overflows_all_the_same(count, lacking):
    set_ = set_text([spec("\u2028".join(["word"] * count))], 200)
    assert explain(set_, set_.lines[-1].bottom) is None
    assert explain(set_, set_.lines[-1].bottom - lacking) is not None


@given(
    st.lists(words, min_size=2, max_size=60), st.floats(60, 300),
    st.sampled_from(["left", "justified"]), st.data(),
)  # fmt: skip
def test_spans_change_nothing_when_their_look_is_the_same(parts, width, align, data):
    """The quick way for one look and the general way for many must set alike; they part at a
    space, since a word divided between spans is shaped in two parts."""
    text, first = " ".join(parts), data.draw(st.integers(1, len(parts) - 1))
    cut = len(" ".join(parts[:first])) + data.draw(st.integers(0, 1))
    spans = (Span(text[:cut], SETTING, BLACK), Span(text[cut:], SETTING, BLACK))
    one = set_text([spec(text, align=align)], width).lines
    two = set_text([spec(spans, align=align)], width).lines
    assert [line.text for line in one] == [line.text for line in two]
    assert [line.right for line in one] == pytest.approx([line.right for line in two])


@given(texts, st.floats(60, 300))
def test_caret_and_pointer_agree(text, width):
    set_ = set_text([spec(text)], width)
    for line in set_.lines:
        for offset, x in stops(line):
            caret = caret_at(set_, 0, offset)
            if set_.lines[caret.line] is line:
                assert caret.x == pytest.approx(x)
                found = place_at(set_, x, line.top + 1)
                assert caret_at(set_, *found).x == pytest.approx(x, abs=0.01)


def test_a_right_aligned_tab_sets_text_at_both_ends_of_the_line():
    tabs = (Tab(None, "right"),)
    line = set_text([spec("Spring\tKestrel Ridge", tabs=tabs)], 300).lines[0]
    assert line.x + line.runs[0].xs[0] == 0
    assert line.right == pytest.approx(300)


def test_a_marker_is_one_character_however_much_it_shows():
    spans = (Span("No ", SETTING, BLACK), Span("a long value", SETTING, BLACK, True))
    line = set_text([spec(spans)], 300).lines[0]
    assert (line.start, line.end) == (0, 4)
    assert [offset for offset, _ in stops(line)] == [0, 1, 2, 3, 4]


def test_why_a_text_does_not_show():
    opener = spec("Spring", before=72.0, leading=12.0, style_name="Opener")
    found = explain(set_text([opener], 200), 24.0)
    assert found.sentence == (
        "The first line needs 12 pt and its style “Opener” asks for 72 pt above it; the frame is "
        "24 pt high."
    )
    several = explain(set_text([spec("one\u2028two\u2028three")], 200), 30.0)
    assert (several.shown, several.hidden, several.words) == (2, 1, 1)
    assert explain(set_text([spec("one")], 200), 14.0) is None


def test_leading_space_and_baselines():
    set_ = set_text([spec("a", before=5, after=7), spec("b")], 100)
    a, b = set_.lines
    assert (a.top, b.top, set_.height) == (5, 26, 40)
    face = SETTING.face
    half = (14 - (face.ascent + face.descent) * 10) / 2  # CSS Inline 3, 4.1: half-leading
    assert a.baseline == pytest.approx(5 + half + face.ascent * 10)
