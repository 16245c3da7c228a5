"""Numbers as a place writes them: 1,234.5 in Great Britain, 1.234,5 in Germany.

What is shown is written so; files and scripts keep numbers, and sums take either sign.

>>> grouped(1234), decimal(12.50, 2), number_of("12,5")
('1,234', '12.5', 12.5)
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from functools import lru_cache

ENGLISH = "en_GB"
# Where nothing needs looking up, Babel is not loaded: the window would be there later by that.
_NO_PLACE = ("", "C", "POSIX", "en")
_AS_ENGLISH = (ENGLISH, "en_US")
_now = ENGLISH


def locale_of(environment: Mapping[str, str], category: str = "LC_NUMERIC") -> str:
    """The locale that an environment asks numbers (or times, by LC_TIME) to be written in (POSIX.1,
    8.2: LC_ALL before the category before LANG); `en_GB` for “C” and for one that has no data
    (CLDR, by Babel).

    >>> locale_of({"LANG": "de_AT.UTF-8"}), locale_of({"LANG": "de_DE", "LC_ALL": "C.UTF-8"})
    ('de_AT', 'en_GB')
    """
    asked = next((v for n in ("LC_ALL", category, "LANG") if (v := environment.get(n))), "")
    code = asked.split(".")[0].split("@")[0]
    if code in _NO_PLACE:
        return ENGLISH
    if code in _AS_ENGLISH:
        return code
    from babel import Locale, UnknownLocaleError  # needed late

    try:
        return str(Locale.parse(code))
    except (UnknownLocaleError, ValueError):
        return ENGLISH


def write_for(locale: str) -> None:
    """From here on all numbers of this process are written for a locale, as `locale_of` names
    it.  Called once, when the program begins."""
    global _now
    _now = locale


@contextmanager
def written_for(locale: str) -> Iterator[None]:
    """Numbers written for a locale for a while."""
    before = _now
    write_for(locale)
    try:
        yield
    finally:
        write_for(before)


def locale_now() -> str:
    """The locale that numbers are written for."""
    return _now


@lru_cache(maxsize=4)
def decimal_sign(locale: str) -> str:
    """What stands between a number and its decimals.

    >>> decimal_sign("en_GB"), decimal_sign("fr_FR")
    ('.', ',')
    """
    if locale in _AS_ENGLISH:
        return "."
    from babel.numbers import get_decimal_symbol  # needed late

    return str(get_decimal_symbol(locale))


def grouped(count: int) -> str:
    """A count, its thousands grouped.

    >>> with written_for("de_DE"):
    ...     grouped(59072)
    '59.072'
    """
    if _now in _AS_ENGLISH:
        return f"{count:,}"
    from babel.numbers import format_decimal  # needed late

    return str(format_decimal(count, locale=_now))


def decimal(value: float, places: int, *, trimmed: bool = True) -> str:
    """A number with so many decimals at most, or with just so many, without groups, so that it
    can be typed back.

    >>> with written_for("de_DE"):
    ...     decimal(127.160, 3), decimal(-0.001, 2), decimal(4, 1, trimmed=False)
    ('127,16', '0', '4,0')
    """
    number = f"{value:.{places}f}"
    if trimmed and places:
        number = number.rstrip("0").rstrip(".")
    if not number.strip("-0."):
        number = number.lstrip("-") or "0"
    return number.replace(".", decimal_sign(_now))


def figure(value: float) -> str:
    """A number of any size in six digits at most: `72`, `0.25`, `1e+30`."""
    return f"{value:g}".replace(".", decimal_sign(_now))


def number_of(text: str) -> float:
    """The number that somebody typed, with a point or a comma before its decimals, and with
    either sign for less than nothing.

    Raises `ValueError` where there is none.
    """
    return float(text.strip().replace(",", ".").replace("−", "-"))
