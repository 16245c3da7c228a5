"""Lines beside those of others: first fit, a plain whole-paragraph fit, Pango's; and in columns
that are narrower than their words."""

from __future__ import annotations

import io
import math
import re
import subprocess
import sys
from html import escape
from itertools import pairwise

import pdfplumber
import pytest
from benchmarks.lines import INDENT, first_fit, ours, plain, quality, spec_of
from benchmarks.passages import PASSAGES, paragraphs
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.resources import FONTS
from hidden_frame.typeset.breaking.demerits import FORBIDDEN, cost, fits, ratio, tightness
from hidden_frame.typeset.breaking.ladders import path_by_rows
from hidden_frame.typeset.breaking.nodes import nodes_of
from hidden_frame.typeset.breaking.total_fit import ladder
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.hyphenation import divisions
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.measures import fit_of
from hidden_frame.typeset.paragraph import ParagraphSpec, Spacing, Span
from hidden_frame.typeset.segments import segments
from hidden_frame.typeset.shaping import setting_of

SETTING = setting_of(font_book().face("Spectral"), 10.5)
MM = 72 / 25.4


@pytest.mark.parametrize("language", PASSAGES)
@pytest.mark.parametrize("mm", [65, 90])
def test_fewer_lines_are_too_loose_than_by_a_plain_fit_and_no_ladder_is_built(language, mm):
    """Knuth and Plass (1981), `benchmarks.plain_fit`; the whole of it is `./bench lines`."""
    texts = paragraphs(language, 4_000, seed=3)
    mine, theirs, greedy = (
        quality(texts, language, mm * MM, way) for way in (ours, plain, first_fit)
    )
    assert mine.beyond < theirs.beyond
    assert mine.ninth < greedy.ninth
    assert mine.ladder <= 3
    assert mine.short == 0


RENDER = "import sys, weasyprint; weasyprint.HTML(sys.stdin.buffer).write_pdf(sys.stdout.buffer)"


@pytest.mark.parametrize("language", PASSAGES)
def test_lines_are_better_than_those_that_pango_justifies(language):
    """Pango's lines, by CSS, with the words divided by the same patterns (pyphen)."""
    texts, measure = paragraphs(language, 1_500, seed=5), 90 * MM
    font = (FONTS / "Spectral-Regular.ttf").as_uri()
    page = (
        f"<!doctype html><meta charset=utf-8><style>@font-face{{font-family:S;src:url({font})}}"
        f"@page{{size:{measure}pt 9000pt;margin:0}}body{{margin:0}}"
        f"p{{margin:0;font:10.5pt/14pt S;text-align:justify;text-indent:{INDENT}pt;hyphens:auto;"
        "hyphenate-limit-chars:5 2 2}</style>"
        f"<html lang={language[:2]}>" + "".join(f"<p>{escape(t)}</p>" for t in texts)
    )
    done = subprocess.run(
        [sys.executable, "-c", RENDER], input=page.encode(), capture_output=True, check=True
    )
    theirs = []
    with pdfplumber.open(io.BytesIO(done.stdout)) as pdf:
        for line in pdf.pages[0].extract_text_lines(x_tolerance=1.2):
            if line["x1"] > measure - 1.0:  # not a paragraph's last one
                theirs.append(space(line["text"], line["x1"] - line["x0"]))
    mine = [
        space(line.text, line.right - line.left)
        for text in texts
        for line in set_lines(spec_of(text, language), measure)[:-1]
    ]
    assert len(mine) == pytest.approx(len(theirs), rel=0.05)
    assert sum(s > 1.5 for s in mine) / len(mine) < sum(s > 1.5 for s in theirs) / len(theirs)
    for share in (0.5, 0.75, 0.9, 0.95):
        assert sorted(mine)[int(share * len(mine))] < sorted(theirs)[int(share * len(theirs))]


def space(text, width):
    """The word space of a line, of the natural one."""
    words = text.split()
    gaps = max(len(words) - 1, 0.25)
    return (width - sum(SETTING.word(w).width for w in words)) / gaps / SETTING.space


def justified(text, language=None, **more):
    span = Span(text, SETTING, (0.0,), language=language)
    return ParagraphSpec((span,), SETTING, 14.0, "justified", **more)


LONG = [
    "observation",
    "considerable",
    "constellation",
    "imagination",
    "extraordinary",
    "a",
    "of",
    "the",
    "night",
]


@given(st.lists(st.sampled_from(LONG), min_size=4, max_size=9).map(" ".join),
       st.floats(60, 130), st.integers(1, 2))  # fmt: skip
def test_the_best_way_with_so_many_hyphens_in_a_row_is_found(text, measure, most):
    """Against every way there is, counted through."""
    spec = justified(text, "en_GB", spacing=Spacing(hyphens=most))
    fit = fit_of(spec, measure)
    nodes = nodes_of(segments(spec)[0], 0, None, 0.0, fit.measure, True)
    last = len(nodes.ends) - 1

    def line(k, n, kind, row):
        gaps = nodes.end_gaps[n] - nodes.begin_gaps[k]
        room = fit.measure - (nodes.ends[n] - nodes.begins[k])
        by = min(ratio(fit, room, gaps), 0.0) if n == last else ratio(fit, room, gaps)
        hyphen, now = nodes.hyphens[n], tightness(by)
        demerits = cost(by) if fits(fit, room, gaps) else 1e15
        demerits += 2_500 * hyphen + 10_000 * (abs(now - kind) > 1)
        demerits += (10_000 if row < most else FORBIDDEN) * (hyphen and row > 0)
        demerits += 5_000 * (n == last and row > 0)
        if n == last and nodes.ends[n] - nodes.begins[k] < fit.short:
            demerits += 3_000
        return demerits, now, min(row + 1, most) if hyphen else 0

    ways = [{} for _ in nodes.ends]
    ways[0][1, 0] = 0.0
    for n in range(1, last + 1):
        for k in range(n):
            for (kind, row), before in ways[k].items():
                more, now, after = line(k, n, kind, row)
                ways[n][now, after] = min(ways[n].get((now, after), math.inf), before + more)
    best = min(ways[last].values())
    path = path_by_rows(nodes, fit, 100)
    total, kind, row = 0.0, 1, 0
    for k, n in pairwise([0, *path]):
        more, kind, row = line(k, n, kind, row)
        total += more
    # One way is kept for all classes of tightness: it may cost what unlike neighbours do.
    assert best - 1e-3 <= total * (1 + 1e-9) and total <= best * (1 + 1e-9) + 10_000 * len(path)
    assert ladder(nodes, path) <= most or best >= FORBIDDEN


def test_no_last_line_is_shorter_than_the_indent_while_it_can_be_longer():
    """Every measure there is: at some of them the last word would stand alone."""
    text = "the lantern was lit and the night over the harbour was as quiet as it is in"
    alone = 0
    for measure in range(60, 240):
        for spec in (
            justified(text, first=12.0),
            justified(text, first=12.0)._replace(align="left"),
        ):
            lines = set_lines(spec, float(measure))
            if len(lines) > 1:
                assert lines[-1].right - lines[-1].left >= 12.0
            greedy = set_lines(spec._replace(spacing=Spacing(whole=False)), float(measure))
            alone += greedy[-1].text == "in"
    assert alone > 3


# -- columns narrower than a word ------------------------------------------------------

LONG_WORDS = st.lists(
    st.sampled_from(["Donaudampfschifffahrt", "„Unwahrscheinlichkeiten“", "l’inquiétude", "über",
                     "Auto\u00admobil\u00adfabrik", "http://example.org/a", "1234567890123",
                     "قرأت", "夜の港に", "e\u0301te\u0301s", "MMMMMMMM", "-", "a"]),
    min_size=1, max_size=8,
).map(" ".join)  # fmt: skip


@given(LONG_WORDS, st.floats(24, 90), st.sampled_from([None, "de_DE"]), st.booleans(),
       st.sampled_from([0.0, 8.0]), st.sampled_from([0, 2]))  # fmt: skip
def test_words_wider_than_their_column_are_divided_and_whole(
    text, measure, language, whole, first, hyphens
):
    spec = justified(text, language, first=first, spacing=Spacing(whole=whole, hyphens=hyphens))
    lines = set_lines(spec, measure)
    offsets = [(line.start, line.end) for line in lines]
    assert offsets[0][0] == 0 and offsets[-1][1] == len(text)
    told = ""
    for (start, end), (begin, _) in pairwise([*offsets, (len(text), 0)]):
        assert start <= end <= begin and not text[end:begin].strip()
        told += text[start:begin]
    assert told == text
    for line in lines:
        assert line.right <= measure + 0.01
        shown = line.text.replace("\u00ad", "")
        source = text[line.start : line.end].strip().replace("\u00ad", "")
        cut = line.end < len(text) and text[line.end] != " "
        if shown != source and not any(ord(c) > 0x590 for c in source):
            assert cut and shown == source + "-"
        inside = cut and line.end and text[line.end - 1].isalpha() and text[line.end].isalpha()
        if inside and text[line.end] < "\u0590" and "//" not in text:
            assert shown.endswith("-")


@pytest.mark.parametrize("whole", [True, False])
def test_a_word_is_cut_at_a_syllable_where_one_fits(whole):
    word = "Donaudampfschifffahrtsgesellschaft"
    syllables = {0, *divisions(word, "de_DE"), len(word)}
    for measure in range(34, 150):
        spec = justified(word, "de_DE", spacing=Spacing(whole=whole))
        lines = set_lines(spec, float(measure))
        assert {line.end for line in lines} <= syllables
        assert len(lines) > 1
    narrow = set_lines(justified(word, "de_DE", spacing=Spacing(whole=whole)), 14.0)
    assert all(re.fullmatch(r".+-", line.text) for line in narrow[:-1])


@pytest.mark.parametrize("whole", [True, False])
@pytest.mark.parametrize("language", ["en_GB", None])
@given(measure=st.floats(34, 120))
def test_where_a_soft_hyphen_divides_a_word_a_hyphen_is_printed(whole, language, measure):
    """In a style that divides no words, too: it was typed to be used."""
    text = "the ob\u00adser\u00advatory of so\u00adli\u00adtude"
    spacing = Spacing(whole=whole, hyphens=3 if language else 0)
    lines = set_lines(justified(text, language, spacing=spacing), measure)
    for line in lines[:-1]:
        within = text[line.end : line.end + 1] != " "
        assert line.text.endswith("-") == within
        assert not within or text[line.end - 1] == "\u00ad"
    assert len(lines) > 2 or measure > 70
