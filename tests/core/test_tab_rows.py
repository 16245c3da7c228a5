"""Rows of cells divided by tabs: what is long wraps, what stands at a stop stays whole."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.typeset.fill import fill
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.line import TextLine
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.overflow import too_wide
from hidden_frame.typeset.paragraph import Dress, Drop, ParagraphSpec, Spacing, Span, Tab, words_in
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.shaping import setting_of
from hidden_frame.typeset.text import set_text

SETTING = setting_of(font_book().face("Spectral"), 10.0)
INK = (0.0,)
END = Tab(None, "right", " .")
WORDS = "night sky observatory parallax of the a long-period comet in and zenith".split()  # noqa: SIM905
TITLES = st.lists(st.sampled_from(WORDS), min_size=1, max_size=30).map(" ".join)
FOLIOS = st.sampled_from(["1", "123", "xxxviii", "1, 3–7, 12"])


def row(text: str, tabs: tuple[Tab, ...] = (END,), **said) -> ParagraphSpec:
    return ParagraphSpec((Span(text, SETTING, INK),), SETTING, 14.0, tabs=tabs, **said)


def bare(text: str) -> str:
    """Its letters alone, as they come in order."""
    return "".join(c for c in text if c not in " -\t\u2028")


def letters(lines) -> str:
    return bare("".join(line.text for line in lines))


def edges(line: TextLine) -> tuple[float, float]:
    return line.left, line.right


@settings(max_examples=300, deadline=None)
@given(
    TITLES, FOLIOS, st.floats(90, 300), st.booleans(), st.sampled_from(["left", "justified"]),
    st.sampled_from([0.0, 10.0]), st.booleans(),
)  # fmt: skip
def test_a_contents_line_keeps_its_folio_whole_at_its_stop(
    title, folio, measure, numbered, align, right, whole
):
    left = 24.0 if numbered else 0.0
    tabs = (Tab(24.0, "left"), END) if numbered else (END,)
    spec = row(
        ("1.2\t" if numbered else "") + title + "\t" + folio, tabs,
        left=left, first=-left, right=right, align=align, spacing=Spacing(whole),
    )  # fmt: skip
    lines = set_lines(spec, measure)
    assert letters(lines) == bare(words_in(spec))
    assert all(line.right <= measure - right + 0.05 for line in lines)
    assert lines[-1].right == pytest.approx(measure - right, abs=0.05)
    assert bare(lines[-1].text).endswith(bare(folio))
    for high in range(1, len(lines)):  # wherever it is parted between two frames
        head = fill([spec], Region(0, measure, 14.0 * high))
        foot = fill([spec], Region(0, measure, 900.0), head.rest)
        parts = [b.lines[b.first : b.last] for f in (head, foot) for b in f.blocks]
        assert [x.text for part in parts for x in part] == [x.text for x in lines]
        narrow = fill([spec], Region(0, measure * 0.9, 900.0), head.rest)
        there = [x for f in (head, narrow) for b in f.blocks for x in b.lines[b.first : b.last]]
        assert letters(there) == bare(words_in(spec))


ANY_TABS = st.lists(
    st.builds(
        Tab, st.one_of(st.none(), st.floats(0, 400)), st.sampled_from(["left", "right", "centre"]),
        st.sampled_from(["", "."]),
    ),
    max_size=4,
).map(tuple)  # fmt: skip
ANY_ROW = st.lists(
    st.text(st.sampled_from("ab  cde\t\t\u2028-\u00adא"), max_size=40), min_size=1, max_size=4
).map("\t".join)


@settings(max_examples=400, deadline=None)
@given(ANY_ROW, ANY_TABS, st.floats(1, 300), st.sampled_from(["left", "right", "centre",
       "justified"]), st.floats(0, 40), st.floats(-40, 40), st.integers(0, 3))  # fmt: skip
def test_any_row_is_set_whole_in_any_column(text, tabs, measure, align, left, first, drop):
    initials = Dress(drop=Drop(Span("Q", SETTING, INK), drop) if drop else None)
    spec = row(text, tabs, align=align, left=left, first=max(first, -left), dress=initials)
    lines = set_lines(spec, measure)
    shown = letters(lines).replace("\u00ad", "")
    assert sorted(shown) == sorted(bare(words_in(spec)).replace("\u00ad", ""))
    # The same, a frame of one line after the other.
    where, found = None, []
    for _ in range(len(lines) + 40):
        got = fill([spec], Region(0, measure, 14.0), *([where] if where else []))
        found += [x for b in got.blocks for x in b.lines[b.first : b.last]]
        where = got.rest
        if where is None:
            break
    assert where is None
    assert sorted(letters(found).replace("\u00ad", "")) == sorted(shown)


def test_initials_before_a_tab_are_printed():
    spec = row("oon\t12.30", dress=Dress(drop=Drop(Span("N", SETTING, INK), 2)))
    (line,) = set_lines(spec, 200.0)
    assert line.text == "Noon12.30" and line.left == 0.0
    long = row("oon " + "and what was seen then " * 6 + "\t12.30", dress=spec.dress)
    lines = set_lines(long, 200.0)
    assert lines[0].text.startswith("Noon") and lines[1].left > 5
    assert lines[2].left == 0.0 and lines[-1].right == pytest.approx(200.0)


def test_what_stands_at_the_end_stop_has_a_line_of_its_own_where_there_is_no_room():
    lines = set_lines(row("observatory\t" + "1, 3–7, 12"), 70.0)
    assert [line.text for line in lines] == ["observatory", "1, 3–7, 12"]
    assert lines[1].right == pytest.approx(70.0)


def test_two_ends_of_a_line_never_collide():
    left, right = "The Lamplighters of Harrow Tarn", "A chapter of no mean length"
    for measure in range(60, 400, 7):
        for line in set_lines(row(f"{left}\t{right}", (Tab(None, "right"),)), float(measure)):
            places = sorted((x, x + w.width) for run in line.runs
                            for w, x in zip(run.words, run.xs, strict=True))  # fmt: skip
            assert all(a[1] <= b[0] + 0.01 for a, b in pairwise(places))
            assert line.right <= measure + 0.05


def test_from_right_to_left_the_folio_stands_at_the_left_edge():
    spec = row("מצפה הכוכבים " * 8 + "\t123", align="right")
    lines = set_lines(spec, 150.0)
    assert len(lines) > 1
    assert lines[-1].left == pytest.approx(0.0, abs=0.01)
    assert all(line.right == pytest.approx(150.0, abs=0.05) for line in lines)
    kept = sum(w.width for w in lines[-1].runs[-1].words)
    assert all(line.left > kept for line in lines[:-1]) and letters(lines) == bare(words_in(spec))


def test_what_no_column_holds_is_told():
    text = set_text([row("a\txxxviii")], [Region(0.0, 5.0)])
    told = too_wide(text)
    assert told is not None and "wider than the 5 pt" in told.sentence
    assert too_wide(set_text([row("night\txxxviii")], [Region(0.0, 90.0)])) is None
    assert too_wide(set_text([row("ends with spaces" + " " * 30)], [Region(0.0, 90.0)])) is None
