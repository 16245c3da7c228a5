"""Lines chosen over whole paragraphs, and what styles ask of paragraphs on their pages."""

from __future__ import annotations

import io
import math
from itertools import pairwise
from random import Random

import pypdfium2 as pdfium
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.new import new_publication
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.typeset.breaking.demerits import (
    Fit,
    cost,
    fits,
    ratio,
    short_last,
)
from hidden_frame.typeset.breaking.first_fit import Breaker
from hidden_frame.typeset.breaking.nodes import nodes_of
from hidden_frame.typeset.breaking.through import path_through
from hidden_frame.typeset.breaking.total_fit import (
    POOR,
    WAYS,
    best_breaks,
    best_path,
    may_be_good,
)
from hidden_frame.typeset.fill import Opening, Where, fill
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.judged import line_faults, looseness
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.measures import fit_of
from hidden_frame.typeset.paragraph import (
    Border,
    Dress,
    Drop,
    Keeps,
    ParagraphSpec,
    Spacing,
    Span,
)
from hidden_frame.typeset.paragraphs import set_paragraph
from hidden_frame.typeset.region import Outline, Region
from hidden_frame.typeset.segments import segments
from hidden_frame.typeset.shaping import setting_of
from hidden_frame.typeset.text import SetText, set_text

BLACK = (0.0, 0.0, 0.0)
SETTING = setting_of(font_book().face("Spectral"), 10.0)
words = st.text("abcdefghijklmnoprstuvwyzäé,.-", min_size=1, max_size=12)
prose = st.lists(words, min_size=1, max_size=60).map(" ".join)
LONG = (
    "observation under the considerable night of a correspondence we walk on constellation "
    "autumn imagination in"
)
English = st.lists(st.sampled_from(LONG.split()), min_size=10, max_size=60).map(" ".join)


def spec(text, align="justified", language=None, **more):
    span = Span(text, SETTING, BLACK, language=language)
    return ParagraphSpec((span,), SETTING, 14.0, align, **more)


# -- lines --------------------------------------------------------------------------


def demerits(nodes, fit, a, b):
    """What the line from one node to another costs by itself."""
    room = fit.measure - (nodes.ends[b] - nodes.begins[a])
    gaps, last = nodes.end_gaps[b] - nodes.begin_gaps[a], b == len(nodes.ends) - 1
    by = ratio(fit, room, gaps)
    short = short_last(fit, fit.measure - room) if last else 0.0
    return (cost(min(by, 0.0) if last else by) if fits(fit, room, gaps) else 1e15) + short


@given(st.lists(words, min_size=4, max_size=14).map(" ".join), st.floats(50, 160),
       st.sampled_from([0.0, 12.0]))  # fmt: skip
def test_no_other_way_of_breaking_costs_less(text, measure, first):
    """Two oracles: every way there is, by counting through, and first fit. Neighbours of unlike
    tightness are left out of it, since one best way to each place is kept, not one a class."""
    paragraph = spec(text, first=first)
    (segment,) = segments(paragraph)
    fit = fit_of(paragraph, measure)
    nodes = nodes_of(segment, 0, None, first, fit.measure, False)
    count = len(nodes.ends)
    best = [0.0] + [math.inf] * (count - 1)
    for b in range(1, count):
        best[b] = min(best[a] + demerits(nodes, fit, a, b) for a in range(b))
    assume(best[-1] < 1e13)  # nothing is wider than a line
    path, _ = best_path(nodes, fit, 100)
    ours = sum(demerits(nodes, fit, a, b) for a, b in pairwise([0, *path]))
    assert ours <= best[-1] * (1 + 1e-6) + 10_000.0 * len(path)
    greedy = Breaker(segment, measure - max(first, 0.0), True).lines(measure - first, measure)
    ends = [next(n for n, b in enumerate(nodes.breaks) if b.token == c.last) for c in greedy]
    theirs = sum(demerits(nodes, fit, a, b) for a, b in pairwise([0, *ends]))
    assert ours <= theirs * (1 + 1e-6) + 10_000.0 * len(path)


@given(prose | English, st.floats(40, 420), st.sampled_from(["left", "justified", "right"]),
       st.floats(-9, 12), st.integers(1, 6))  # fmt: skip
def test_where_no_way_may_be_good_the_best_one_is_poor(text, measure, align, first, times):
    paragraph = spec(" ".join([text.strip() or "a"] * times), align=align, first=first)
    for segment in segments(paragraph):
        fit = fit_of(paragraph, measure)
        nodes = nodes_of(segment, 0, None, first, fit.measure, False)
        _, worst = best_path(nodes, fit, WAYS)
        if worst <= POOR:
            assert may_be_good(nodes, fit)
        if not may_be_good(nodes, fit):
            assert worst > POOR


@given(st.lists(prose | English, min_size=5, max_size=12), st.floats(60, 300),
       st.sampled_from(["left", "justified", "centre"]), st.sampled_from([None, "en_GB"]),
       st.sampled_from([0.0, 12.0, -9.0]), st.booleans())  # fmt: skip
def test_many_paragraphs_at_once_are_broken_as_each_by_itself(
    texts, measure, align, language, first, whole
):
    several = [spec(t, align, language, first=first, spacing=Spacing(whole=whole)) for t in texts]
    together = set_paragraph.each(several, measure)
    for one, done in zip(several, together, strict=True):
        lines = set_lines(one, measure)
        assert [done.place(n) for n in range(done.count)] == [line.place for line in lines]
        assert [line.text for line in done.lines] == [line.text for line in lines]
        assert done.line_at(lines[-1].place) == len(lines) - 1


@pytest.mark.parametrize("language", [None, "en_GB"])
@pytest.mark.parametrize("measure", [96.0, 150.0, 240.0])
def test_long_paragraphs_at_once_are_broken_as_each_by_itself(language, measure):
    """Where neighbours of unlike tightness and hyphens in a row decide."""
    rng = Random(7)
    vocabulary = LONG.split()
    texts = [" ".join(rng.choices(vocabulary, k=rng.randint(40, 120))) for _ in range(40)]
    several = [spec(t, language=language) for t in texts]
    for one, done in zip(several, set_paragraph.each(several, measure), strict=True):
        assert [x.text for x in done.lines] == [x.text for x in set_lines(one, measure)]


def test_a_paragraph_longer_than_any_is_set_line_by_line(monkeypatch):
    """By itself and among others: as first fit sets it, and so in no time."""
    monkeypatch.setattr("hidden_frame.typeset.lines.MOST_WHOLE", 60)
    monkeypatch.setattr("hidden_frame.typeset.paragraphs.MOST_WHOLE", 60)
    rng = Random(3)
    texts = [" ".join(rng.choices(LONG.split(), k=k)) for k in (40, 61, 90, 60, 200)]
    several = [spec(t, language="en_GB") for t in texts]
    for text, one, done in zip(texts, several, set_paragraph.each(several, 150.0), strict=True):
        long = len(text.split()) > 60
        alone = [line.text for line in set_lines(one, 150.0)]
        assert [line.text for line in done.lines] == alone
        plain = replace_spacing(one, whole=False)
        assert long == (alone == [line.text for line in set_lines(plain, 150.0)])


def replace_spacing(one, **changes):
    return one._replace(spacing=one.spacing._replace(**changes))


@given(English, st.floats(90, 260), st.sampled_from([0.0, 12.0]))
def test_lines_of_measures_of_their_own_are_chosen_as_those_of_one(text, measure, first):
    """Where all measures are the same it is the same choice, but for what a class a node costs."""
    paragraph = spec(text, first=first)
    (segment,) = segments(paragraph)
    fit = fit_of(paragraph, measure)
    nodes = nodes_of(segment, 0, None, first, fit.measure, False)
    assume(all(w.width + first < measure for w in segment.words))
    path, _ = best_path(nodes, fit, 100)
    through = path_through(nodes, fit, [fit.measure] * 3, 100)

    def total(nodes_of_path):
        lines = pairwise([0, *nodes_of_path])
        return sum(demerits(nodes, fit, a, b) for a, b in lines)

    assert through is not None
    assert total(through) <= total(path) * (1 + 1e-6) + 10_000.0 * len(path)


def test_lines_beside_a_picture_are_no_looser_than_line_by_line():
    rng = Random(3)
    corners = ((0.0, 28.0), (70.0, 28.0), (70.0, 112.0), (0.0, 112.0))
    region = Region(0.0, 220.0, outlines=(Outline(corners),))
    better = worse = 0
    for _ in range(30):
        text = " ".join(rng.choices(LONG.split(), k=60))

        def sum_of_cubes(whole, text=text):
            lines = set_text([spec(text, spacing=Spacing(whole=whole))], [region]).lines
            assert " ".join(line.text for line in lines) == text
            for line in lines:
                beside = line.top < 112.0 and line.bottom > 28.0
                assert line.left >= (70.0 if beside else 0.0) - 0.01 and line.right <= 220.01
            return sum(max(line.runs[0].extra, 0.0) ** 3 for line in lines[:-1])

        together, one_by_one = sum_of_cubes(True), sum_of_cubes(False)
        better, worse = better + (together < one_by_one), worse + (together > one_by_one)
    assert better > 3 * worse > -1 and better > 10


def test_words_are_divided_only_where_lines_would_be_poor():
    text = "observation " * 3 + "a quiet night " * 12
    paragraph = spec(text.strip(), language="en_GB")
    (segment,) = segments(paragraph)
    fit = fit_of(paragraph, 240.0)
    _, worst = best_path(nodes_of(segment, 0, None, 0.0, fit.measure, False), fit, 4)
    divided = any(b.used for b in best_breaks(segment, fit, 0.0))
    assert worst > POOR or not divided
    none = spec(text.strip(), language="en_GB", spacing=Spacing(hyphens=0))
    assert not any(line.text.endswith("-") for line in set_lines(none, 60.0))


def test_the_ratio_is_one_where_spaces_are_as_wide_as_the_style_likes():
    fit = Fit(100.0, 0.4, 1.25, True, 8.0, 0.0, 3)
    assert ratio(fit, 12.5, 10) == 1.0 and ratio(fit, -4.0, 10) == -1.0
    assert fits(fit, -4.0, 10) and not fits(fit, -4.1, 10)
    assert cost(0.0) == 100.0 and cost(1.0) == 110.0**2  # The TeXbook, chapter 14


@given(English, st.floats(80, 200))
def test_spaced_letters_fill_the_line_and_lose_no_word(text, measure):
    plain = set_lines(spec(text), measure)
    spaced = set_lines(spec(text, spacing=Spacing(letters=30.0)), measure)
    assert [x.text for x in spaced] == [x.text for x in plain]
    assert [(x.start, x.end) for x in spaced] == [(x.start, x.end) for x in plain]
    for before, now in zip(plain[:-1], spaced[:-1], strict=True):
        if " " in now.text:
            assert now.right == pytest.approx(measure, abs=0.01)
            assert now.runs[0].extra <= before.runs[0].extra + 1e-6
            last = now.runs[-1]
            assert last.xs[-1] + last.words[-1].width == pytest.approx(measure, abs=0.01)


def test_marks_hang_out_of_the_measure_on_either_side():
    text = "“Quiet autumn evenings” and, then. " * 6
    hung = set_lines(spec(text.strip(), spacing=Spacing(hangs=True)), 150.0)
    quote, stop = SETTING.word("“").width, SETTING.word(".").width
    assert hung[0].left == pytest.approx(-quote)
    ends = [line for line in hung[:-1] if line.text.endswith(".")]
    assert all(line.right == pytest.approx(150.0 + 0.8 * stop, abs=0.01) for line in ends)


def test_initials_stand_on_their_last_line_and_the_text_goes_around_them():
    large = setting_of(font_book().face("Spectral"), 40.0, 0.0, shift=-28.0)
    drop = Drop(Span("O", large, BLACK), 3)
    paragraph = spec("nce upon a quiet night " * 8, dress=Dress(drop=drop), first=20.0)
    lines = set_lines(paragraph, 160.0)
    width = large.word("O").width + 1.5
    assert lines[0].runs[0].text == "O" and lines[0].place == (0, 0) and lines[0].left == 0.0
    assert lines[0].runs[1].xs[0] == pytest.approx(width)
    assert [round(x.left, 2) for x in lines[1:4]] == [round(width, 2)] * 2 + [0.0]
    assert lines[1].start == 1 + len(lines[0].runs[1].text) + 1
    rest = "".join(line.text for line in lines).replace(" ", "")
    assert rest == ("O" + paragraph.spans[0].text).replace(" ", "")


@given(English, st.floats(60, 300), st.sampled_from(["left", "centre", "right"]))
def test_balanced_lines_are_no_more_and_no_less_even(text, measure, align):
    plain = set_lines(spec(text, align), measure)
    even = set_lines(spec(text, align, spacing=Spacing(balanced=True)), measure)

    assert len(even) <= len(plain)
    assert [w for x in even for w in x.text.split()] == [w for x in plain for w in x.text.split()]
    widest = [max(line.right - line.left for line in lines) for lines in (even, plain)]
    assert widest[0] <= widest[1] + 0.01
    for line in even:
        middle = (line.left + line.right) / 2
        if align == "centre":
            assert middle == pytest.approx(measure / 2, abs=0.3)
        assert line.left >= -0.01 and line.right <= measure + 0.01


# -- what stays together ---------------------------------------------------------------


def lines_of(number):
    return spec("\u2028".join(f"line {n}" for n in range(number)), "left")


def placed(specs, heights):
    """The lines of each paragraph in regions that are as high as so many lines."""
    found, where = [], Where()
    for height in heights:
        here = fill(specs, Region(0.0, 200.0, height * 14.0), where, spaced=False)
        found.append([(b.paragraph, b.last - b.first) for b in here.blocks])
        where = here.rest
        if where is None:
            break
    return found, where


@pytest.mark.parametrize(
    ("keeps", "expected"),
    [
        (Keeps(), [[(0, 3), (1, 1)], [(1, 4)]]),
        (Keeps(foot=2), [[(0, 3)], [(1, 5)]]),
        (Keeps(head=5), [[(0, 3)], [(1, 5)]]),
        (Keeps(together=True), [[(0, 3)], [(1, 5)]]),
    ],
)
def test_lines_that_may_not_be_parted(keeps, expected):
    assert placed([lines_of(3), lines_of(5)._replace(keeps=keeps)], [4, 9])[0] == expected


def test_fewest_lines_at_the_head_are_taken_from_the_foot():
    two = Keeps(foot=2, head=2)
    assert placed([lines_of(5)._replace(keeps=two)], [4, 9])[0] == [[(0, 3)], [(0, 2)]]
    assert placed([lines_of(3)._replace(keeps=two)], [2, 9])[0] == [[(0, 2)], [(0, 1)]]


def test_a_heading_goes_with_what_it_heads_and_headings_with_each_other():
    heading = lines_of(1)._replace(keeps=Keeps(next=True))
    text = lines_of(4)._replace(keeps=Keeps(foot=2))
    found, _ = placed([lines_of(3), heading, heading, text], [6, 9])
    assert found == [[(0, 3)], [(1, 1), (2, 1), (3, 4)]]
    # All of it is to stay together, and there is no room: it is set as it comes.
    found, rest = placed([heading] * 5, [2, 2, 2])
    assert [n for page in found for n, _ in page] == [0, 1, 2, 3, 4] and rest is None


@given(
    st.lists(
        st.tuples(
            st.integers(1, 7),
            st.builds(Keeps, st.booleans(), st.booleans(), st.integers(1, 4), st.integers(1, 4)),
        ), min_size=1, max_size=8,
    ),
    st.integers(1, 9),
)  # fmt: skip
def test_whatever_is_kept_together_every_line_stands_once_and_nothing_hangs(several, height):
    specs = [lines_of(n)._replace(keeps=keeps) for n, keeps in several]
    found, rest = placed(specs, [height] * 60)
    assert rest is None
    counts = [0] * len(specs)
    order = [n for page in found for n, _ in page]
    for page in found:
        assert page and sum(c for _, c in page) <= height
        for n, count in page:
            counts[n] += count
    assert counts == [n for n, _ in several] and order == sorted(order)


def test_a_paragraph_that_starts_on_a_page_waits_for_one():
    chapter = lines_of(1)._replace(keeps=Keeps(starts="right page"))
    region = Region(0.0, 200.0, 100.0)
    left = Opening(True, True, "verso")
    assert fill([chapter], region, opening=left).rest == Where(0)
    assert fill([chapter], region, opening=Opening(True, True, "recto")).rest is None
    assert fill([chapter], region, opening=Opening(True, False, "recto")).rest == Where(0)
    assert fill([lines_of(2), chapter], region, opening=left).rest == Where(1)
    frame = lines_of(1)._replace(keeps=Keeps(starts="frame"))
    assert fill([frame], region, opening=Opening(False, False)).rest == Where(0)


@given(st.lists(st.tuples(st.integers(1, 4), st.floats(8, 20), st.floats(0, 9)), min_size=1,
                max_size=6), st.floats(6, 24), st.floats(0, 30))  # fmt: skip
def test_baselines_stand_on_the_grid(several, step, first):
    specs = [
        lines_of(n)._replace(leading=leading, before=before, dress=Dress(on_grid=True))
        for n, leading, before in several
    ]
    text = set_text(specs, [Region(0.0, 200.0, grid=(first, step))])
    for line in text.lines:
        off = (line.baseline - first) % step
        assert min(off, step - off) < 0.002
    for above, below in pairwise(text.lines):
        assert below.top >= above.bottom - 0.002 or below.paragraph == above.paragraph
    assert len(text.lines) == sum(n for n, _, _ in several)


def test_rules_stand_above_the_first_line_and_below_the_last():
    from hidden_frame.typeset.decoration import borders

    dress = Dress(Border(0.5, 2.0, True), Border(1.0, 3.0, False))
    text = set_text([lines_of(3)._replace(dress=dress, left=10.0)], [Region(0.0, 200.0)])
    above, below = borders(text, 3)
    assert (above.x, above.y, above.width, above.height) == (10.0, -2.5, 190.0, 0.5)
    last = text.lines[-1]
    assert (below.x, below.y, below.height) == (last.left, 42.0 + 3.0, 1.0)
    assert below.width == pytest.approx(last.right - last.left)
    assert len(borders(text, 2)) == 1  # the last line is not shown, nor is what stands below it


# -- what a typographer would mend --------------------------------------------------------


def faults(text, width, align="justified", language=None, height=math.inf, **more):
    done = set_text([spec(text, align, language, **more)], [Region(0.0, width, height)])
    return {f.kind for f in line_faults(done)}, done


def test_each_fault_of_lines_is_told_and_none_where_there_is_none():
    assert faults("a quiet night", 200.0)[0] == set()
    assert "loose line" in faults("a considerable " * 4 + "night", 76.0)[0]
    kinds, _ = faults("the stars are out\u2028the sea is calm\u2028the end", 200.0, "left")
    assert kinds == {"same word"}
    lines = "\u2028".join(["night-"] * 4 + ["end"])
    assert "hyphen ladder" in faults(lines, 200.0, "left")[0]
    text = "a quiet night sky over the sea\u2028i"
    assert "short last line" in faults(text, 300.0, "left", first=24.0)[0]
    river = faults("aaaa aaaa aaaa\u2028" * 4 + "aaaa", 100.0, spacing=Spacing(most=9.0))
    assert "river" not in river[0]  # natural spaces, since each line is a paragraph's last


@given(English, st.floats(60, 200))
def test_lines_are_judged_as_their_spaces_are(text, width):
    kinds, done = faults(text, width)
    by = [looseness(line, done.specs[0]) for line in done.lines]
    assert ("loose line" in kinds or "looser" in kinds) == any(b > 1.02 for b in by)
    # Twice as wide as the style likes: 3 spaces, four halves more than the one that is natural.
    assert ("loose line" in kinds) == any(b > 4.0 for b in by)
    assert ("tight line" in kinds) == any(b < -1.02 for b in by)
    for line, value in zip(done.lines, by, strict=True):
        extra = line.runs[0].extra if line.runs else 0.0
        assert value == pytest.approx(
            extra / SETTING.space / (0.5 if extra > 0 else 0.15), rel=1e-3
        )


def test_widows_and_orphans_that_could_not_be_helped_are_told():
    two = Keeps(foot=2, head=2)
    kinds = []
    text = lines_of(3)._replace(keeps=two)
    where = Where()
    for _ in range(2):
        region = Region(0.0, 200.0, 28.0)
        here = fill([text], region, where, spaced=False)
        done = SetText((here,), ((0.0, 200.0),), (text,))
        kinds.append({f.kind for f in line_faults(done)})
        where = here.rest
    assert kinds == [set(), {"widow"}]


def test_a_gap_that_runs_through_four_lines_is_a_river():
    wide = spec(" ".join(["mmmm"] * 40), spacing=Spacing(whole=False))
    done = set_text([wide], [Region(0.0, SETTING.word("mmmm").width * 4 + 20.0)])
    assert "river" in {f.kind for f in line_faults(done)}


# -- glyphs a little wider or narrower ---------------------------------------------------


def spaces_of(line):
    return [run.extra for run in line.runs if len(run.words) > 1]


@given(English, st.floats(70, 160), st.sampled_from([0.0, 30.0]), st.floats(0.005, 0.05))
def test_glyphs_are_scaled_within_the_limit_and_lines_come_nearer_to_their_style(
    text, measure, letters, share
):
    """Against the same lines without: each ends at the edge, and no space is worse."""
    plain = set_lines(spec(text, spacing=Spacing(letters=letters)), measure)
    scaled = set_lines(spec(text, spacing=Spacing(letters=letters, glyphs=share)), measure)
    space = SETTING.space
    assert [x.text for x in plain] == [x.text for x in scaled]
    for before, after in zip(plain[:-1], scaled[:-1], strict=True):
        assert after.right == pytest.approx(before.right, abs=0.01)
        for run in after.runs:
            assert abs(run.words[0].setting.stretch - 1) <= share + 1e-9
            one = run.words[0].setting.across * 1000
            assert one == pytest.approx(SETTING.scale * run.words[0].setting.stretch * 1000)
        worst = [max([0.0, *(e - space * 0.5 for e in spaces_of(x))]) for x in (before, after)]
        assert worst[1] <= worst[0] + 0.01


@pytest.mark.parametrize(("share", "letters"), [(4.0, 0.0), (0.0, 60.0), (3.0, 30.0)])
def test_spaced_and_scaled_letters_are_printed_where_they_are_measured(share, letters):
    """The exported PDF, read by PDFium: every letter begins where its line says."""
    publication = new_publication("Scaled", Setup(trim=Size(300, 400)), 1)
    style = ParagraphStyle(id="s", name="S", alignment="justified", glyph_scale=share,
                           letter_space=letters)  # fmt: skip
    publication = put_paragraph_style(publication, style)
    text = (Paragraph("s", (Run("considerable correspondence under constellation night " * 6),)),)
    page = all_pages(publication)[0].id
    frame = TextFrame(id="", x=20, y=20, width=105, height=360, text=text)
    publication, item = add_item(publication, page, frame)
    composition = Composer().compose(publication)
    placed = next(p for p in composition.scene(page).placed if p.item_id == item)
    lines = placed.drawing.text.text.lines
    assert any(run.setting.stretch != 1 for line in lines for run in line.runs) == (share > 0)
    assert any(run.setting.tracking for line in lines for run in line.runs) == (letters > 0)
    words = pdfium.PdfDocument(io.BytesIO(pdf_bytes(composition, {})))[0].get_textpage()
    said, at = words.get_text_range(), 0
    for line in lines:
        for run in line.runs:
            for word, x in zip(run.words, run.xs, strict=True):
                at = said.find(word.text, at)
                assert at >= 0
                for n, stop in enumerate(word.stops()[:-1]):
                    left, *_ = words.get_charbox(at + n, loose=True)
                    assert left == pytest.approx(20 + line.x + x + stop, abs=0.3), word.text


def with_initials(text, high, whole):
    drop = Drop(Span("W", setting_of(font_book().face("Spectral"), 10.0 + 10 * high), BLACK), high)
    return spec(text, spacing=Spacing(whole=whole), dress=Dress(drop=drop))


@given(English, st.floats(110, 220), st.integers(2, 4))
def test_lines_beside_initials_leave_them_room_and_no_word_out(text, measure, high):
    lines = set_lines(with_initials(text, high, True), measure)
    assert " ".join(line.text for line in lines).replace("W", "", 1).split() == text.split()
    beside = lines[0].runs[0].words[0].width
    assert all(line.left > beside for line in lines[1:high])
    assert all(line.left == pytest.approx(0, abs=0.01) for line in lines[high:])
    assert all(line.right <= measure + 0.01 for line in lines if len(line.runs[-1].words) > 1)


def test_lines_beside_initials_are_chosen_together():
    """Among many paragraphs they are better than line by line, and so are all lines."""
    rng, worst = Random(5), {True: [], False: []}
    for _ in range(80):
        text = " ".join(rng.choices(LONG.split(), k=60))
        for whole, found in worst.items():
            lines = set_lines(with_initials(text, 3, whole), 170.0)[:-1]
            for line in lines:
                extra = line.runs[-1].extra / SETTING.space
                found.append(cost(extra / 0.5 if extra > 0 else extra / 0.15))
    assert sum(worst[True]) < 0.8 * sum(worst[False])
