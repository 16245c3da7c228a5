"""Dates as markers write them.

>>> from datetime import date
>>> [written(date(2031, 3, 9), form, "de") for form in ("day month year", "year-month-day")]
['9. März 2031', '2031-03-09']
"""

from __future__ import annotations

from datetime import date
from functools import cache

# How each form is written in a language is the Unicode Consortium's to say (CLDR, by Babel).
FORMS = {
    "day month year": "long",
    "weekday, day month year": "full",
    "day.month.year": "short",
    "month year": "yMMMM",
    "year": "y",
    "year-month-day": "yyyy-MM-dd",
}
_SKELETONS = ("yMMMM", "y")


@cache
def written(day: date, form: str, language: str) -> str:
    """A date in a form, in the words of a language (ISO 639, with a country where it matters);
    English for a language that has no words here."""
    from babel import Locale, UnknownLocaleError  # needed late
    from babel.dates import format_date, format_skeleton

    if form == "year-month-day":
        return day.isoformat()
    try:
        locale = Locale.parse(language)
    except (UnknownLocaleError, ValueError):
        locale = Locale.parse("en_GB")
    how = FORMS.get(form, "long")
    if how in _SKELETONS:
        return str(format_skeleton(how, day, locale=locale))
    return str(format_date(day, how, locale=locale))
