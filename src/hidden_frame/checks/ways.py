"""Ways out of faults of items: each an edit, on the page where the fault shows or where the item is
kept.  All take the publication, the fault, the page or master to be changed, and its side."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from msgspec.structs import replace

from hidden_frame.checks.fault import Fault
from hidden_frame.checks.finding import Fix, Way
from hidden_frame.edit.items.draw import remove_items
from hidden_frame.edit.text.fonts import set_characters
from hidden_frame.edit.text.write import without_characters
from hidden_frame.interact.hands.shown import change_shown, shown_item
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import PICTURES, Around, Item, TextFrame
from hidden_frame.model.publication import Publication
from hidden_frame.model.units import round_distance
from hidden_frame.typeset.fonts import font_book

Changes = dict[str, Any]
ItemWays = Callable[[Publication, Fault, str, Side], tuple[Way, ...]]


def _changed(fault: Fault, at: str, side: Side, new: Callable[[Item], Changes]) -> Fix:
    def fix(publication: Publication) -> Publication:
        item = shown_item(publication, at, fault.item_id, side)
        if item is None:
            return publication
        return change_shown(publication, at, side, {fault.item_id: new(item)})

    return fix


def grow(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    return (Way("Let the frame grow", _changed(fault, at, side, lambda _: {"grows": True})),)


def emptied(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    def new(item: Item) -> Changes:
        """Without the picture that is missing; another one that the frame has stays."""
        return {name: None for name in PICTURES if getattr(item, name, None) == fault.needs}

    return (Way("Empty the frame", _changed(fault, at, side, new)),)


def spelt(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    def new(item: Item) -> Changes:
        assert isinstance(item, TextFrame) and isinstance(fault.needs, str)
        return {"text": without_characters(item.text, fault.needs)}

    gone = Way("Take them out", _changed(fault, at, side, new))
    return (*_in_another_font(fault), gone)


def _in_another_font(fault: Fault) -> Iterator[Way]:
    """One of the machine's fonts that has what is lacking, or the most of it."""
    assert isinstance(fault.needs, str)
    for family, there in font_book().having(fault.needs).items():
        those = "them" if there == fault.needs else " ".join(there[:5])

        def fix(publication: Publication, there: str = there, family: str = family) -> Publication:
            return set_characters(publication, there, family)

        yield Way(f"Set {those} in {family}", fix)
        return


def onto(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    trim = publication.setup.trim

    def new(item: Item) -> Changes:
        x = min(max(item.x, 0.0), max(trim.width - item.width, 0.0))
        y = min(max(item.y, 0.0), max(trim.height - item.height, 0.0))
        return {"x": x, "y": y}

    moved = Way("Move it onto the page", _changed(fault, at, side, new))
    return (moved, *removed(publication, fault, at, side))


def around(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    """The text runs around what hides it."""
    over = str(fault.needs)
    frame, item = (shown_item(publication, at, i, side) for i in (fault.item_id, over))
    if item is None or not (isinstance(frame, TextFrame) and frame.yields):
        return ()

    def fix(changed: Publication) -> Publication:
        around = Around(offset=round_distance(publication.setup.unit))
        return change_shown(changed, at, side, {over: {"around": around}})

    return (Way("Let the text run around it", fix),)


def bled(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    item = shown_item(publication, at, fault.item_id, side)
    if item is None or item.rotation or isinstance(fault.needs, str):
        return ()
    bleed, trim = publication.setup.bleed, publication.setup.trim
    left, top, right, bottom = (by > -1e8 for by in fault.needs)

    def new(now: Item) -> Changes:
        x1 = -bleed if left else now.x
        y1 = -bleed if top else now.y
        x2 = trim.width + bleed if right else now.x + now.width
        y2 = trim.height + bleed if bottom else now.y + now.height
        return {"x": x1, "y": y1, "width": x2 - x1, "height": y2 - y1}

    return (Way("Extend it into the bleed", _changed(fault, at, side, new)),)


def smaller(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    if isinstance(fault.needs, str):
        return ()
    share = fault.needs[0]

    def new(item: Item) -> Changes:
        w, h = item.width * share, item.height * share
        changes: Changes = {
            "x": item.x + (item.width - w) / 2, "y": item.y + (item.height - h) / 2,
            "width": w, "height": h,
        }  # fmt: skip
        crop = getattr(item, "crop", None)
        if crop is not None:
            scaled = replace(crop, x=crop.x * share, y=crop.y * share, scale=crop.scale * share)
            changes["crop"] = scaled
        return changes

    if share < 0.2:
        return ()
    return (Way(f"Make it smaller: {share:.0%}", _changed(fault, at, side, new)),)


def removed(publication: Publication, fault: Fault, at: str, side: Side) -> tuple[Way, ...]:
    if fault.carrier is not None and at != fault.carrier:
        return ()
    return (Way("Delete it", lambda p: remove_items(p, at, [fault.item_id])),)
