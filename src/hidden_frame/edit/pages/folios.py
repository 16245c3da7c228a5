"""Folios placed on masters, found again, changed, left out and removed.

>>> from hidden_frame.model.text import Run
>>> content = (Run("Page "), Marker("folio"))
>>> plan = FolioPlan(edge="foot", place="outside", content=content, style="folio")
>>> publication = place_folios(publication, [master], plan)
>>> plan_of(publication, master, FolioPlan()).content == content
True
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from msgspec import UNSET, Struct, UnsetType
from msgspec.structs import replace

from hidden_frame.edit.change import change_pages, change_section
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.looks.colours import check_dark
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.masters.overrides import follow, override
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins
from hidden_frame.model.items import Item, TextFrame
from hidden_frame.model.lookup import base_chain, find_section, holder, holders, masters_by_id
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.styles import computed_style
from hidden_frame.model.text import Alignment, Marker, Paragraph, Piece, Text

PageEdge = Literal["head", "foot"]
FolioPlace = Literal["outside", "centre", "inside", "point", "kept"]
NAME = "Folio"
_POINT_WIDTH = 120.0  # points; room for a long folio around the point that was clicked


class FolioPlan(Struct, frozen=True):
    """Where and how folios stand; x and y (of a recto, in points) count for "point" only.

    "kept" leaves a folio that is there already where it is.  On dark ground it takes the colour
    `on_dark`, if that is one.
    """

    edge: PageEdge = "foot"
    place: FolioPlace = "outside"
    content: tuple[Piece, ...] = (Marker("folio"),)
    style: str = "folio"
    x: float = 0.0
    y: float = 0.0
    on_dark: str | None = None


def folio_paragraph(plan: FolioPlan) -> Paragraph:
    """The paragraph of a plan; refuses one without a folio."""
    if not _has_folio(plan.content):
        raise Refusal(
            "This shows no folio; insert the marker Folio where it should go.", field="content"
        )
    return Paragraph(plan.style, plan.content, _alignment(plan.place))


def _has_folio(content: Iterable[Piece]) -> bool:
    return any(isinstance(c, Marker) and c.shows == "folio" for c in content)


def _alignment(place: FolioPlace) -> Alignment | None:
    if place == "kept":
        return None
    return "centre" if place == "point" else place


def _highest(publication: Publication) -> str:
    """The topmost layer that is seen and printed."""
    seen = [x.id for x in publication.layers if x.visible and x.printing]
    return seen[-1] if seen else publication.layers[-1].id


def shows_folio(item: Item) -> bool:
    """Whether an item is a text frame with a folio marker."""
    return isinstance(item, TextFrame) and any(_has_folio(p.content) for p in item.text)


def _with_folio(text: Text) -> int:
    """The number of the paragraph in which a text shows its folio."""
    return next(n for n, paragraph in enumerate(text) if _has_folio(paragraph.content))


def folio_of(publication: Publication, master_id: str) -> tuple[Master, TextFrame] | None:
    """The folio that a master shows, its own before its bases', and who carries it."""
    for master in reversed(base_chain(publication, master_id)):
        for item in reversed(master.items):
            if isinstance(item, TextFrame) and shows_folio(item):
                return master, item
    return None


def plan_of(publication: Publication, master_id: str, otherwise: FolioPlan) -> FolioPlan:
    """The plan that a master's folio would have been made by, for changing it."""
    found = folio_of(publication, master_id)
    if found is None:
        return otherwise
    master, item = found
    trim = publication.setup.trim
    edge: PageEdge = "head" if item.y + item.height / 2 < trim.height / 2 else "foot"
    first = item.text[_with_folio(item.text)]
    alignment = (
        first.alignment or computed_style(publication.paragraph_styles, first.style).alignment
    )
    place: FolioPlace = "kept"
    for possible in ("outside", "centre", "inside"):
        plan = FolioPlan(edge, possible, first.content, first.style)
        x, y, width, _ = _box(publication, master.id, plan)
        near = abs(item.x - x) < 0.5 and abs(item.y - y) < 0.5 and abs(item.width - width) < 0.5
        if near and alignment == possible:
            place = possible
    return FolioPlan(edge, place, first.content, first.style, on_dark=item.on_dark)


def _margins(publication: Publication, master_id: str) -> Margins:
    margins = publication.setup.margins
    for master in base_chain(publication, master_id):
        margins = master.margins or margins
    return margins


def _box(
    publication: Publication, master_id: str, plan: FolioPlan
) -> tuple[float, float, float, float]:
    """x, y, width and height on a recto: within the margin at head or foot."""
    trim, margins = publication.setup.trim, _margins(publication, master_id)
    height = computed_style(publication.paragraph_styles, plan.style).leading + 1.0
    if plan.place == "point":
        return plan.x - _POINT_WIDTH / 2, plan.y - height / 2, _POINT_WIDTH, height
    width = trim.width - margins.inside - margins.outside
    room = margins.top if plan.edge == "head" else margins.bottom
    y = max((room - height) / 2, 0.0)
    if plan.edge == "foot":
        y = trim.height - y - height
    return margins.inside, y, width, height


def place_folios(
    publication: Publication,
    master_ids: Iterable[str],
    plan: FolioPlan,
    also: Iterable[Departing] = (),
) -> Publication:
    """One mirrored item on each of these masters, or on the base that they share it from.

    A folio that is there already is changed, wherever its master carries it, and seen again if it
    was put away; what else its frame says stays.  What departs from it on pages and derived masters
    stays as it is, but for those that are to change `also`: their words follow again, in the colour
    that they have.
    """
    chosen = set(master_ids)
    colour = computed_style(publication.paragraph_styles, plan.style).colour
    check_dark(publication, colour, plan.on_dark)
    if not chosen:
        raise Refusal(
            "No master is chosen; choose the masters that should carry the folio.", field="masters"
        )
    paragraph = folio_paragraph(plan)
    changed: set[str] = set()
    for master_id in _bases_first(publication, chosen):
        found = folio_of(publication, master_id)
        target = found[0].id if found is not None else master_id
        x, y, width, height = _box(publication, target, plan)
        place: dict[str, object] = {"x": x, "y": y, "width": width, "height": height}
        if found is None:
            layer = _highest(publication)
            item = TextFrame(
                id="", name=NAME, text=(paragraph,), layer=layer, on_dark=plan.on_dark,
                **place,  # type: ignore[arg-type]
            )  # fmt: skip
            publication, _ = add_item(publication, master_id, item)
        elif found[1].id not in changed:
            changed.add(found[1].id)
            kept = plan.place == "kept"
            values: dict[str, object] = {
                "text": _said_anew(found[1].text, paragraph, kept),
                "on_dark": plan.on_dark, "visible": True,
            }  # fmt: skip
            values |= {} if kept else {**place, "rotation": 0.0}
            publication = change_items(publication, target, {found[1].id: values})
    for departing in also:
        publication = _followed(publication, departing, paragraph)
    return publication


def _said_anew(text: Text, paragraph: Paragraph, kept: bool = True) -> Text:
    """A text whose folio is said in other words; the rest of it stays."""
    at = _with_folio(text)
    new = replace(paragraph, tabs=text[at].tabs)
    new = replace(new, alignment=text[at].alignment) if kept else new
    return (*text[:at], new, *text[at + 1 :])


class Departing(Struct, frozen=True):
    """A page or derived master (`holder`) on which a folio says something of its own: by an
    override of a master's item, or by an `own` item of the page."""

    holder: str
    item: str
    own: bool = False


def departing_folios(publication: Publication) -> list[Departing]:
    """Where folios don't follow their masters in what they say, masters first."""
    folios = {i.id for m in publication.masters for i in m.items if shows_folio(i)}
    found = []
    for owner in holders(publication):
        found += [
            Departing(owner.id, o.item)
            for o in owner.overrides
            if o.item in folios and not isinstance(o.text, UnsetType)
        ]
        if isinstance(owner, Page):
            found += [Departing(owner.id, i.id, True) for i in owner.items if shows_folio(i)]
    return found


def _followed(publication: Publication, departing: Departing, paragraph: Paragraph) -> Publication:
    """What departs says the same as its master again; one colour of all its words stays."""
    holder_id, item_id = departing.holder, departing.item
    if departing.own:
        frame = next(i for i in holder(publication, holder_id).items if i.id == item_id)
        assert isinstance(frame, TextFrame)
        said = _said_anew(frame.text, paragraph)
        colour = one_colour(frame.text) or frame.text_colour
        return change_items(
            publication, holder_id, {item_id: {"text": said, "text_colour": colour}}
        )
    owner = holder(publication, holder_id)
    text = next((o.text for o in owner.overrides if o.item == item_id), UNSET)
    if isinstance(text, UnsetType):
        return publication
    publication = follow(publication, holder_id, item_id, "text")
    colour = one_colour(text)
    if colour is None:
        return publication
    return override(publication, holder_id, item_id, text_colour=colour)


def one_colour(text: Text) -> str | None:
    """The colour that all the words of a text have of their own, beside their styles."""
    looks = [piece.look for paragraph in text for piece in paragraph.content]
    colours = {look.colour if look is not None else None for look in looks}
    return colours.pop() if len(colours) == 1 else None


def _bases_first(publication: Publication, chosen: set[str]) -> list[str]:
    return sorted(
        (m.id for m in publication.masters if m.id in chosen),
        key=lambda master_id: len(base_chain(publication, master_id)),
    )


def place_section_folios(publication: Publication, section_id: str, plan: FolioPlan) -> Publication:
    """Folios on one section's pages only, by a master of its own on top of their stacks."""
    section = find_section(publication, section_id)
    name = f"Folios · {section.name or 'Section'}"
    known = next((m.id for m in publication.masters if m.name == name), None)
    if known is None:
        publication, known = add_master(publication, name)
    publication = place_folios(publication, [known], plan)
    default = publication.default_masters if section.masters is None else section.masters
    if known not in default:
        stack = (*default, known)
        publication = change_section(publication, section_id, lambda s: replace(s, masters=stack))
    by_hand = {p.id for p in section.pages if p.masters is not None and known not in p.masters}
    return change_pages(
        publication, by_hand, lambda p: replace(p, masters=(*(p.masters or ()), known))
    )


def leave_out(
    publication: Publication, page_ids: Iterable[str], among: Iterable[str]
) -> Publication:
    """Of the pages `among`, exactly these are blind: counted, without a printed folio (R18)."""
    blind = set(page_ids)
    return change_pages(
        publication,
        set(among),
        lambda p: p if p.blind == (p.id in blind) else replace(p, blind=p.id in blind),
    )


def first_pages(publication: Publication) -> list[str]:
    """The first page of each section."""
    return [section.pages[0].id for section in publication.sections]


def masters_with_folio(publication: Publication) -> list[str]:
    """The masters that carry a folio themselves, which is seen."""
    return [m.id for m in publication.masters if any(shows_folio(i) and i.visible for i in m.items)]


def put_away(publication: Publication) -> list[str]:
    """The masters that carry a folio which was put away: `place_folios` shows it again."""
    there = set(masters_with_folio(publication))
    return [
        m.id for m in publication.masters
        if m.id not in there and any(shows_folio(i) for i in m.items)
    ]  # fmt: skip


def remove_folios(publication: Publication) -> Publication:
    """Every item that shows a folio put away on all masters: it is not seen any more, and comes
    back as it was, with all that departs from it."""
    masters = masters_by_id(publication)
    for master_id in masters_with_folio(publication):
        gone = [i.id for i in masters[master_id].items if shows_folio(i)]
        publication = change_items(
            publication, master_id, {item: {"visible": False} for item in gone}
        )
    return publication
