"""Numbers in a section's numbering style (R16).

>>> format_number(9, "lower roman"), format_number(28, "lower letters")
('ix', 'bb')
"""

from __future__ import annotations

from hidden_frame.model.numbering import NumberingStyle

MAX_ROMAN = 3999
# CSS Counter Styles Level 3, section 6.1: the additive symbols of upper-roman.
_ROMAN = (
    (1000, "M"), (900, "CM"), (500, "D"), (400, "CD"), (100, "C"), (90, "XC"),
    (50, "L"), (40, "XL"), (10, "X"), (9, "IX"), (5, "V"), (4, "IV"), (1, "I"),
)  # fmt: skip


def roman(number: int) -> str:
    """Upper-case roman numerals for 1 to 3999."""
    if not 1 <= number <= MAX_ROMAN:
        raise ValueError(f"{number} has no roman numeral")
    parts = []
    for value, symbol in _ROMAN:
        times, number = divmod(number, value)
        parts.append(symbol * times)
    return "".join(parts)


def letters(number: int) -> str:
    """a…z, then aa, bb … zz, aaa: ISO 32000-1, 12.4.2, table 159."""
    if number < 1:
        raise ValueError(f"{number} has no letter")
    times, index = divmod(number - 1, 26)
    return chr(ord("a") + index) * (times + 1)


def in_range(number: int, style: NumberingStyle) -> bool:
    """Whether the style can write this number; if not, it is written in decimal."""
    if "roman" in style:
        return 1 <= number <= MAX_ROMAN
    # 40 letters in a row can't be read; the PDF standard sets no limit.
    return "letters" not in style or 1 <= number <= 26 * 40


def format_number(number: int, style: NumberingStyle) -> str:
    """The number as printed, without prefix; "" for the style none."""
    if style == "none":
        return ""
    if style == "decimal" or not in_range(number, style):
        return str(number)
    text = roman(number) if "roman" in style else letters(number)
    return text.lower() if style.startswith("lower") else text.upper()
