"""Moments as people say them: in English, their figures as the reader's place orders them."""

from __future__ import annotations

import os
from datetime import date, datetime, time

from hidden_frame.model.number_format import ENGLISH, locale_of


def moment(seconds: float) -> str:
    """“14:02” of today, “26/11/2031, 14:02” of another day; seconds since 1970."""
    when = datetime.fromtimestamp(seconds)
    if when.date() == datetime.now().date():
        return clock(when.time())
    from babel.dates import format_skeleton  # needed late

    day = format_skeleton("yMd", when, locale=locale_of(os.environ, "LC_TIME"))
    return f"{day}, {clock(when.time())}"


def clock(of: time, *, seconds: bool = False) -> str:
    """The time of day: “14:02”, where twelve hours are counted “2:02 PM”."""
    from babel.dates import format_time  # needed late

    how = "medium" if seconds else "short"
    return str(format_time(of, how, locale=locale_of(os.environ, "LC_TIME")))


def day_in_words(day: date, *, weekday: bool = False) -> str:
    """“26 November 2031”, with its weekday where that is asked for."""
    from babel.dates import format_date  # needed late

    return str(format_date(day, "full" if weekday else "long", locale=ENGLISH))
