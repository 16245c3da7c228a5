"""How a section numbers its pages: the choice of figures, and the number it starts at."""

from __future__ import annotations

from hidden_frame.desktop.fields.fields import TextField
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import MAX_PAGES

STYLES = (
    ("1, 2, 3", "decimal"),
    ("i, ii, iii", "lower roman"),
    ("I, II, III", "upper roman"),
    ("a, b, c", "lower letters"),
    ("A, B, C", "upper letters"),
    ("none", "none"),
)


class PageCountField(TextField):
    """A number of pages."""

    def parse(self, text: str) -> int:
        clean = text.strip()
        if not clean.isdecimal() or not 1 <= int(clean) <= MAX_PAGES:
            raise Refusal(
                f"“{clean}” is not a number of pages; give a whole number from 1 to {MAX_PAGES}."
            )
        return int(clean)


class StartField(TextField):
    """The number a section starts at; empty carries on from the section before."""

    def parse(self, text: str) -> int | None:
        clean = text.strip()
        if not clean:
            return None
        if not clean.isdecimal() or not 1 <= int(clean) <= 1_000_000:
            raise Refusal(
                f"A section can’t start at “{clean}”; give a whole number from 1, or nothing to "
                "carry on."
            )
        return int(clean)
