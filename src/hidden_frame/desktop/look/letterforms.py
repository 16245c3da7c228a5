"""What can be chosen of letters besides font and size, as the forms of text and styles show it."""

from __future__ import annotations

from typing import NamedTuple, get_args

from hidden_frame.model.text import Case, Figures, FigureWidth, Raised, Spelling


class Choosable(NamedTuple):
    """A property of letters by its label and its name in the model; `values` is None for one
    that is on or off."""

    label: str
    name: str
    values: tuple[str, ...] | None
    hint: str = ""


CHOOSABLE = (
    Choosable("Capitals", "case", get_args(Case)),
    Choosable("Figures", "figures", get_args(Figures), "Lining or old style, if the font has both"),
    Choosable("Figure width", "figure_width", get_args(FigureWidth),
              "Tabular figures are all equally wide"),
    Choosable("Super-/subscript", "raised", get_args(Raised),
              "Raised or lowered letters and figures"),
    Choosable("Underline", "underline", None),
    Choosable("Strike through", "strike", None),
    Choosable("Spelling", "spelling", get_args(Spelling),
              "By its name: checked, except in styles for names or code"),
    Choosable("Fractions", "fractions", None, "1/2 as one character, if the font has it"),
)  # fmt: skip
SHIFT_HINT = "Positive raises above the baseline, negative lowers"
