"""Lengths and trim sizes against published values."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.model.errors import Refusal
from hidden_frame.model.trims import TRIMS, iso_216
from hidden_frame.model.units import UNITS, format_length, parse_length

# Exact points per unit: the inch is 25.4 mm (ISO 80000-3), 72 points (PostScript), 6 picas
# and 96 pixels (CSS Values and Units 4, section 6.2).
EXACT = {
    "mm": Fraction(720, 254), "cm": Fraction(7200, 254), "in": Fraction(72), "pt": Fraction(1),
    "p": Fraction(12), "px": Fraction(3, 4),
}  # fmt: skip
terms = st.tuples(
    st.sampled_from(["+", "-"]),
    st.decimals(0, 900, places=3),
    st.sampled_from(UNITS),
)


@given(st.lists(terms, min_size=1, max_size=5))
def test_sums_agree_with_exact_fractions(parts):
    text = " ".join(f"{sign} {number}{unit}" for sign, number, unit in parts)
    exact = sum((1 if s == "+" else -1) * Fraction(n) * EXACT[u] for s, n, u in parts)
    assert parse_length(text, "mm") == pytest.approx(float(exact), abs=1e-9)


@given(st.floats(-5000, 5000), st.sampled_from(UNITS))
def test_what_is_shown_is_right_to_a_hundredth_of_a_point(points, unit):
    assert parse_length(format_length(points, unit), unit) == pytest.approx(points, abs=0.01)


@pytest.mark.parametrize("text", ["", "12m + x", "mm", "1 2", "3 furlong", "4/0", "1e999", "+"])
def test_nonsense_is_refused_in_one_sentence(text):
    with pytest.raises(Refusal) as refused:
        parse_length(text, "mm")
    assert str(refused.value).count(". ") == 0


def test_iso_216_tables():
    # ISO 216:2007, tables 1 and 2 (from memory): main series A, auxiliary series B, in mm.
    a = [(841, 1189), (594, 841), (420, 594), (297, 420), (210, 297), (148, 210), (105, 148)]
    b = [(1000, 1414), (707, 1000), (500, 707), (353, 500), (250, 353), (176, 250), (125, 176)]
    assert [iso_216("A", n) for n in range(7)] == a
    assert [iso_216("B", n) for n in range(7)] == b


def test_trims_in_points():
    a4, letter = TRIMS["A4"], TRIMS["US Letter"]
    assert (round(a4.width, 2), round(a4.height, 2)) == (595.28, 841.89)
    # ANSI/ASME Y14.1 size A is 8.5 × 11 in.
    assert (letter.width, letter.height) == (8.5 * 72, 11 * 72)
