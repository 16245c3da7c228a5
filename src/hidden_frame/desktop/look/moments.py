"""Moments as people say them."""

from __future__ import annotations

from datetime import datetime


def moment(seconds: float) -> str:
    """“14:02” of today, “26.11.2031, 14:02” of another day; seconds since 1970."""
    when = datetime.fromtimestamp(seconds)
    day = "" if when.date() == datetime.now().date() else f"{when:%d.%m.%Y}, "
    return f"{day}{when:%H:%M}"
