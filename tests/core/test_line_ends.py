"""Where a line may end, by Unicode's own cases, and as the program uses it."""

from __future__ import annotations

import lzma
import re
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Look, Note, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.typeset.breaking.opportunities import (
    all_whole,
    keeps,
    may_part,
    may_turn,
    opportunities,
    parts,
)
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.paragraph import ParagraphSpec, Spacing, Span
from hidden_frame.typeset.shaping import setting_of

BARE = new_publication("Ends", Setup(trim=TRIMS["A5"]), 1)
# The Unicode Consortium's own cases, Unicode 15.0 (Debian's package unicode-data).
CASES = Path(__file__).parent.parent / "data" / "LineBreakTest.txt.xz"


def test_lines_may_end_where_unicodes_own_cases_say():
    count = 0
    with lzma.open(CASES, "rt", encoding="utf-8") as lines:
        for line in lines:
            case = line.split("#")[0].split()
            if not case:
                continue
            text = "".join(chr(int(code, 16)) for code in case[1::2])
            expected = [n for n, mark in enumerate(case[2::2], 1) if mark == "÷"][:-1]
            assert opportunities(text) == expected, line
            count += 1
    assert count == 7654


WORDS = st.text("ab1.,:;!?)(«»“”—–-/%€夜", min_size=1, max_size=3)


@given(WORDS, WORDS)
def test_at_a_space_a_line_ends_only_where_unicode_lets_it(before, behind):
    """Against `opportunities`, which the cases above hold: we are at least as strict, but for what
    begins with a decimal mark (LB15c of Unicode 16)."""
    allowed = len(before) + 1 in opportunities(f"{before} {behind}")
    if may_turn(before, behind):
        assert allowed or re.match(r"[.,:;]\d", behind)
    elif allowed:
        dash = behind in ("—", "–")
        assert dash or before == "«" or re.fullmatch("»[.,;:!?]*", behind)
    if not may_turn(before, behind):
        assert keeps(f"x {before} {behind} x")


@pytest.mark.parametrize("whole", [True, False])
@pytest.mark.parametrize("language", [None, "fr_FR"])
@given(
    st.lists(
        st.sampled_from(["nuit", "observation", "—", ":", "«", "»", "mot", "!", "et", "(", ")"]),
        min_size=4,
        max_size=30,
    ).map(lambda w: " ".join(["Elle", *w])),
    st.floats(110, 240),
)
def test_no_line_begins_with_a_mark_that_keeps_to_its_word(whole, language, text, measure):
    setting = setting_of(font_book().face("Spectral"), 10.0)
    span = Span(text, setting, (0.0,), language=language)
    spec = ParagraphSpec((span,), setting, 14.0, "justified", spacing=Spacing(whole=whole))
    lines = set_lines(spec, measure)
    assert " ".join(line.text for line in lines).replace("- ", "").replace(" ", "") == (
        text.replace(" ", "")
    )
    stretches = re.split(r" (?![—:»!)]( |$))(?<![«(] )", text)
    if max(setting.word(s or "").width for s in stretches if s) < measure * 0.9:
        for line in lines[1:]:
            assert line.text.split(" ")[0] not in ("—", ":", "»", "!", ")")
        for line in lines[:-1]:
            assert line.text.split(" ")[-1] not in ("«", "(")


@pytest.mark.parametrize(
    ("word", "expected"),
    [
        ("well-known", ("well-", "known")), ("and/or", ("and/", "or")), ("1/2", ("1/2",)),
        ("-5", ("-5",)), ("2010–2020", ("2010–", "2020")), ("night—then", ("night—", "then")),
        ("l’année", ("l’année",)), ("10\u00a0pt", ("10\u00a0pt",)),
        ("夜空です", ("夜", "空", "で", "す")),
        ("zero\u200bwidth", ("zero\u200b", "width")), ("(word)", ("(word)",)),
    ],
)  # fmt: skip
def test_words_come_apart_where_a_line_may_end(word, expected):
    assert parts(word) == expected
    assert all_whole([word]) == (len(expected) == 1)
    for before, behind in pairwise(expected):
        assert may_part(before, behind)


@pytest.mark.parametrize("alignment", ["left", "justified"])
@pytest.mark.parametrize("end", [".", "!", "?", ",", ")", "”", "-", "–", "%"])
def test_no_line_begins_with_a_raised_number(end, alignment):
    """Common practice of the trade; Unicode knows nothing of what is raised."""
    for raised in (Note((Run("Said there."),), "1"), Run("1", look=Look(raised="superior"))):
        text = (Run(f"mended beyond this harbour{end}"), raised, Run(" Their workshop did not"))
        for width in range(60, 200, 2):
            frame = TextFrame(
                id="", x=0, y=0, width=width, height=300,
                text=(Paragraph("body", text, alignment=alignment),),
            )  # fmt: skip
            publication, _ = add_item(BARE, BARE.sections[0].pages[0].id, frame)
            composition = Composer().compose(publication)
            (placed,) = composition.scene(publication.sections[0].pages[0].id).placed
            assert placed.drawing.text is not None
            lines = [line.text for line in placed.drawing.text.text.lines]
            assert not any(line.startswith("1") for line in lines), lines
