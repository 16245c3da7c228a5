"""The almanac's page, colours and styles."""

from __future__ import annotations

from hidden_frame.model.geometry import Columns, Margins, Size
from hidden_frame.model.paint import Colour
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle
from hidden_frame.model.text import TabStop
from hidden_frame.model.units import mm

SETUP = Setup(
    trim=Size(mm(170), mm(240)),
    bleed=mm(3),
    margins=Margins(top=mm(24), bottom=mm(26), inside=mm(20), outside=mm(17)),
    columns=Columns(2, mm(6)),
    least_ppi=150,  # for a press that prints 75 lines to the inch
)


def _hex(text: str) -> tuple[float, ...]:
    return tuple(int(text[n : n + 2], 16) / 255 for n in (0, 2, 4))


COLOURS = (
    Colour(id="ink", name="Ink", space="cmyk", values=(0.0, 0.0, 0.0, 1.0)),
    Colour(id="night", name="Night", values=_hex("14213a")),
    Colour(id="dusk", name="Dusk", values=_hex("2e3a66")),
    Colour(id="gold", name="Star gold", values=_hex("e0b354")),
    Colour(id="cream", name="Cream", values=_hex("f4efe4")),
    Colour(id="spring", name="Spring", values=_hex("4f7d5c")),
    Colour(id="summer", name="Summer", values=_hex("b9722c")),
    Colour(id="autumn", name="Autumn", values=_hex("a8512f")),
    Colour(id="winter", name="Winter", values=_hex("3f6a92")),
    Colour(id="copper", name="Copper ink", space="spot", values=(0.05, 0.5, 0.7, 0.18)),
    Colour(id="stone", name="Stone", values=_hex("6d675f")),
)

SANS = "Alegreya Sans"

PARAGRAPHS = (
    ParagraphStyle(
        id="body", name="Body", size=10.6, leading=15.6, alignment="justified", hyphenate=True,
        figures="old style",
    ),
    ParagraphStyle(
        id="body-next", name="Body, indented", based_on="body", indent_first=14,
    ),
    ParagraphStyle(
        id="lead", name="Lead", size=13.5, leading=21, space_after=9, language="en_GB",
        hyphenate=True, figures="old style",
    ),
    ParagraphStyle(
        id="quotation", name="Quotation", size=11.5, leading=16, alignment="centre",
        colour="winter", keep_next=True,
    ),
    ParagraphStyle(
        id="anchored", name="Caption in the margin", family=SANS, size=7.4, leading=9,
        colour="stone",
    ),
    ParagraphStyle(
        id="heading", name="Heading", family=SANS, bold=True, size=23, leading=27,
        colour="night", on_dark="cream", space_after=10,
    ),
    ParagraphStyle(
        id="foot-folio", name="Foot folio", family=SANS, bold=True, size=10.5, leading=13,
        alignment="outside", colour="night",
    ),
    ParagraphStyle(
        id="folio-light", name="Folio on colour", based_on="foot-folio", colour="cream",
    ),
    ParagraphStyle(
        id="foot-inside", name="Foot, inside", based_on="foot-folio", bold=False, size=8.6,
        alignment="inside", colour="stone",
    ),
    ParagraphStyle(
        id="head", name="Running head", family=SANS, size=8.6, leading=12, tracking=60,
        colour="stone", alignment="inside", tabs=(TabStop(None, "right"),),
    ),
    ParagraphStyle(
        id="season", name="Season", family="Spectral", italic=True, size=62, leading=70,
        colour="cream",
    ),
    ParagraphStyle(
        id="opener-line", name="Opener line", family=SANS, size=15, leading=21, colour="cream",
    ),
    ParagraphStyle(
        id="cover-title", name="Cover title", size=46, leading=50, colour="cream", bold=True,
    ),
    ParagraphStyle(
        id="cover-line", name="Cover line", based_on="opener-line", size=14, leading=19,
        colour="gold", tracking=40,
    ),
    ParagraphStyle(
        id="month", name="Month", italic=True, size=34, leading=40, colour="night",
    ),
    ParagraphStyle(
        id="table-head", name="Table head", family=SANS, bold=True, size=9, leading=20,
        colour="cream", tracking=20,
        tabs=(TabStop(34), TabStop(136), TabStop(218), TabStop(None, "right")),
    ),
    ParagraphStyle(
        id="table-row", name="Table row", family=SANS, size=10.8, leading=30, figures="lining",
        figure_width="tabular",
        tabs=(TabStop(34), TabStop(136), TabStop(218), TabStop(None, "right")),
    ),
    ParagraphStyle(
        id="contents", name="Contents", size=12, leading=24, tabs=(TabStop(None, "right", " ."),),
    ),
    ParagraphStyle(
        id="contents-month", name="Contents, month", based_on="contents", size=10.6, leading=17,
        indent_left=16, colour="stone",
    ),
    ParagraphStyle(
        id="log", name="Log", family=SANS, size=10.6, leading=16, tabs=(TabStop(78),),
    ),
    ParagraphStyle(
        id="log-head", name="Log, head", based_on="log", bold=True, size=11.5, leading=20,
        colour="night",
    ),
    ParagraphStyle(
        id="label", name="Map label", family=SANS, bold=True, size=9, leading=12, colour="night",
    ),
    ParagraphStyle(
        id="notes", name="Notes title", italic=True, size=20, leading=26, colour="stone",
    ),
)  # fmt: skip

CHARACTERS = (
    CharacterStyle(id="emphasis", name="Emphasis", italic=True),
    CharacterStyle(id="strong", name="Strong", bold=True, colour="night"),
    CharacterStyle(id="key-word", name="Key word", based_on="strong", italic=True),
    CharacterStyle(id="small-capitals", name="Small capitals", case="small capitals", tracking=30),
    CharacterStyle(id="quiet", name="Quiet", bold=False, colour="stone", size=8.6),
)
