"""What markers show that no publication knows: the name of its file, and the day."""

from __future__ import annotations

from datetime import date
from typing import NamedTuple


class Given(NamedTuple):
    """`file` is the name without its ending; `day` is None for today."""

    file: str = ""
    day: date | None = None

    @property
    def today(self) -> date:
        return self.day or date.today()
