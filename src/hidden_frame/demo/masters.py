"""The almanac's masters: a base with the foot, and what builds on it."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.demo.style import SETUP
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.items.guides import fields
from hidden_frame.edit.masters.apply import add_master, rename_master, set_opens, set_page_layout
from hidden_frame.edit.masters.overrides import hide_here, override
from hidden_frame.model.canons import by_ninths
from hidden_frame.model.geometry import Columns, Grid, Guide
from hidden_frame.model.items import Item, Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.units import mm

W, H, B = SETUP.trim.width, SETUP.trim.height, SETUP.bleed
M = SETUP.margins
INNER = W - M.inside - M.outside
FOOT = H - mm(17)


class Masters(NamedTuple):
    """Ids of the masters, and of the items that pages override."""

    cover: str
    base: str
    text: str
    month: str
    opener: str
    notes: str
    seal: str
    back: str
    winter: str
    opener_panel: str
    opener_sky: str
    foot_rule: str
    head: str


def _put(publication: Publication, master: str, *items: Item) -> tuple[Publication, list[str]]:
    made = []
    for item in items:
        publication, item_id = add_item(publication, master, item)
        made.append(item_id)
    return publication, made


def build_masters(
    publication: Publication, logo: str, seal: str, sky: str
) -> tuple[Publication, Masters]:
    """All masters of the almanac; the publication's first master becomes the base."""
    base = publication.masters[0].id
    publication = rename_master(publication, base, "Almanac base")
    publication, made = _put(publication, base, *_base_items())
    rule = made[0]
    publication = set_page_layout(
        publication,
        base,
        margins=None,
        columns=None,
        guides=(Guide("horizontal", FOOT), Guide("horizontal", M.top, locked=True)),
    )
    publication, text = add_master(publication, "Text", base)
    publication, (head, _) = _put(publication, text, _head(), _margin_star())
    publication, month = add_master(publication, "Month table", text)
    publication = set_page_layout(publication, month, margins=None, columns=Columns(1), guides=None)
    publication, made_month = _put(publication, month, *_month_items())
    publication, winter = _winter(publication, month, made_month)
    publication, opener = add_master(publication, "Season opener", base)
    publication, made_opener = _put(publication, opener, *_opener_items(logo, sky))
    publication = hide_here(publication, opener, rule)
    publication = hide_here(publication, opener, made[2])
    publication, notes = add_master(publication, "Notes", base)
    publication, _ = _put(publication, notes, *_note_lines())
    # In another colour here, in the words of the base.
    publication = override(publication, notes, made[2], text_colour="winter")
    publication = set_page_layout(
        publication, notes, margins=None, columns=None, guides=None,
        grid=Grid(M.top + mm(14), mm(9)),
    )  # fmt: skip
    publication, cover = add_master(publication, "Cover")
    publication = set_page_layout(
        publication,
        cover,
        margins=by_ninths(SETUP.trim),
        columns=Columns(1),
        guides=(
            Guide("vertical", W / 2),
            *(Guide("horizontal", y) for y in fields(0.0, H, 3, 0.0)[1:-1]),
        ),
    )
    publication = set_opens(publication, cover, "recto")
    publication, made_cover = _put(publication, cover, *_cover_items(logo, sky))
    publication, back = add_master(publication, "Back cover", cover)
    publication = set_opens(publication, back, "verso")
    publication = hide_here(publication, back, made_cover[1])
    publication = hide_here(publication, back, made_cover[2])
    publication, seal_master = add_master(publication, "Members’ seal")
    publication, _ = _put(
        publication,
        seal_master,
        PictureFrame(
            id="", name="Seal", x=W - M.outside - mm(24), y=FOOT - mm(36), width=mm(24),
            height=mm(24), rotation=-12, opacity=0.55, picture=seal, layer="above",
        ),
    )  # fmt: skip
    return publication, Masters(
        cover,
        base,
        text,
        month,
        opener,
        notes,
        seal_master,
        back,
        winter,
        made_opener[0],
        made_opener[1],
        rule,
        head,
    )


def _winter(publication: Publication, month: str, made: list[str]) -> tuple[Publication, str]:
    """The month table in winter's blue, with a line of its own: all else follows."""
    publication, winter = add_master(publication, "Month table, winter", month)
    publication = override(publication, winter, made[0], fill=Fill("winter"))
    warning = TextFrame(
        id="", name="Winter line", x=M.inside, y=mm(201), width=INNER, height=32,
        vertical="middle",
        text=(Paragraph("table-row", (Run("Chains from the second gate; stove lit at six."),)),),
    )  # fmt: skip
    publication, _ = _put(publication, winter, warning)
    return publication, winter


def _margin_star() -> Shape:
    """A small star at the outer edge, on versos only."""
    return Shape(
        id="", name="Margin star", x=W - mm(9), y=mm(13.4), width=5, height=5, form="ellipse",
        face="verso", fill=Fill("gold"),
    )  # fmt: skip


def _base_items() -> list[Item]:
    """The foot, drawn once and mirrored: a rule, the folio outside, the title inside."""
    return [
        Line(
            id="", name="Foot rule", x=M.inside, y=FOOT - 6, width=INNER, height=0,
            stroke=Stroke(colour="gold", width=0.75),
        ),
        TextFrame(
            id="", name="Folio", x=W - M.outside - 90, y=FOOT, width=90, height=16,
            layer="above", on_dark="cream",
            text=(Paragraph("foot-folio", (Marker("folio"),)),),
        ),
        TextFrame(
            id="", name="Foot title", x=M.inside, y=FOOT, width=INNER - 100, height=16,
            text=(
                Paragraph(
                    "foot-inside",
                    (Marker("title"), Run(" · "), Marker("detail", "Edition year"),
                     Run(" · volume "), Marker("detail", "Volume")),
                ),
            ),
        ),
    ]  # fmt: skip


def _head() -> TextFrame:
    return TextFrame(
        id="", name="Running head", x=M.inside, y=mm(12), width=INNER, height=14,
        text=(
            Paragraph(
                "head",
                (Marker("section name"), Run("\tKestrel Ridge Observatory")),
            ),
        ),
    )  # fmt: skip


def _month_items() -> list[Item]:
    return [
        Shape(
            id="", name="Table head band", x=M.inside, y=mm(62), width=INNER, height=22,
            form="rounded", radius=4, fill=Fill("night"),
        ),
        TextFrame(
            id="", name="Table head", x=M.inside + 8, y=mm(62), width=INNER - 16, height=22,
            vertical="middle",
            text=(Paragraph("table-head", (Run("Day\tDark hours\tMoon\tLook for\tWalk"),)),),
        ),
    ]  # fmt: skip


def _opener_items(logo: str, sky: str) -> list[Item]:
    return [
        Shape(
            id="", name="Panel", x=-B, y=-B, width=W + 2 * B, height=H + 2 * B,
            layer="ground", placing="repeated", fill=Fill("dusk"),
        ),
        PictureFrame(
            id="", name="Sky", x=-B, y=-B, width=W + 2 * B, height=H * 0.54,
            layer="ground", placing="repeated", picture=sky, fit="fill",
        ),
        TextFrame(
            id="", name="Season name", x=M.inside, y=H * 0.56, width=INNER, height=84,
            text=(Paragraph("season", (Marker("section name"),)),),
        ),
        Line(
            id="", name="Season rule", x=M.inside, y=H * 0.56 + 92, width=INNER, height=0,
            stroke=Stroke(colour="gold", width=2),
        ),
        PictureFrame(
            id="", name="Logo", x=W - M.outside - mm(22), y=H - mm(42), width=mm(22),
            height=mm(18), picture=logo,
        ),
    ]  # fmt: skip


def _note_lines() -> list[Item]:
    lines: list[Item] = [
        TextFrame(
            id="",
            name="Notes title",
            x=M.inside,
            y=M.top - 22,
            width=INNER,
            height=30,
            text=(Paragraph("notes", (Run("Notes"),)),),
        )
    ]
    y = M.top + mm(14)
    while y < FOOT - 18:
        lines.append(
            Line(
                id="", name="Ruled line", x=M.inside, y=y, width=INNER, height=0,
                stroke=Stroke(colour="stone", width=0.4, tint=0.5),
            )
        )  # fmt: skip
        y += mm(9)
    return lines


def _cover_items(logo: str, sky: str) -> list[Item]:
    return [
        PictureFrame(
            id="", name="Cover sky", x=-B, y=-B, width=W + 2 * B, height=H + 2 * B,
            layer="ground", placing="repeated", picture=sky, fit="fill",
        ),
        TextFrame(
            id="", name="Cover title", x=mm(20), y=mm(30), width=W - mm(40), height=110,
            text=(Paragraph("cover-title", (Run("Night Sky\u2028Almanac"),)),),
        ),
        TextFrame(
            id="", name="Cover line", x=mm(20), y=mm(72), width=W - mm(40), height=44,
            text=(
                Paragraph("cover-line", (Run("Kestrel Ridge Observatory"),)),
                Paragraph(
                    "cover-line",
                    (Marker("detail", "Edition year"), Run(" · volume "),
                     Marker("detail", "Volume")),
                ),
            ),
        ),
        PictureFrame(
            id="", name="Cover logo", x=W / 2 - mm(15), y=H - mm(48), width=mm(30),
            height=mm(24), picture=logo,
        ),
    ]  # fmt: skip
