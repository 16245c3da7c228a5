"""The two faces of a master: where an item stands on each, split in two and joined again.

>>> publication, verso = split_faces(publication, master, item)
>>> [i.face for i in publication.masters[0].items]
['recto', 'verso']
"""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from hidden_frame.edit.change import change_every_holder, change_master, new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Faces, Item, Override, Placing, changed_properties
from hidden_frame.model.lookup import find_master
from hidden_frame.model.plane.mirror import mirrored
from hidden_frame.model.publication import Master, Page, Publication

_TOGETHER = 0.01  # points; two places nearer than this are one


def set_face(
    publication: Publication,
    master_id: str,
    item_id: str,
    face: Faces,
    placing: Placing,
    side: Side = "recto",
) -> Publication:
    """The faces on which a master item stands, and how it takes the other side (R3).

    On the face that is looked at (`side`) the item stays where it is.
    """
    width = publication.setup.trim.width

    def new(master: Master) -> Master:
        item = _item(master, item_id)
        changed = replace(item, face=face, placing=placing)
        if side == "verso" and placing != item.placing:
            changed = mirrored(changed, width)
        if changed == item:
            return master
        return replace(master, items=tuple(changed if i.id == item_id else i for i in master.items))

    return change_master(publication, master_id, new)


def _item(master: Master, item_id: str) -> Item:
    for item in master.items:
        if item.id == item_id:
            return item
    raise Refusal("This item does not stand on this master itself; go to the one that carries it.")


def split_faces(publication: Publication, master_id: str, item_id: str) -> tuple[Publication, str]:
    """An item that stands on both faces made two, one for each; and the verso one's id.

    Nothing moves: each stands where the one stood, and overrides hold for both.
    """
    item = _item(find_master(publication, master_id), item_id)
    if item.face != "both":
        raise Refusal(
            f"“{item.name}” stands on the {item.face} face only; there is nothing to split."
        )
    publication, (verso_id,) = new_ids(publication, "item", 1)
    recto = replace(item, face="recto")
    verso = replace(item, id=verso_id, face="verso")

    def new(master: Master) -> Master:
        at = next(n for n, i in enumerate(master.items) if i.id == item_id)
        return replace(master, items=(*master.items[:at], recto, verso, *master.items[at + 1 :]))

    publication = change_master(publication, master_id, new)
    return _overrides(publication, _doubled(item_id, verso_id)), verso_id


def _doubled(item_id: str, twin: str) -> Callable[[tuple[Override, ...]], tuple[Override, ...]]:
    def new(overrides: tuple[Override, ...]) -> tuple[Override, ...]:
        copies = tuple(replace(o, item=twin) for o in overrides if o.item == item_id)
        return overrides + copies

    return new


def join_faces(publication: Publication, master_id: str, first: str, second: str) -> Publication:
    """Two items, one on each face, made one that stands on both.

    The recto one stays; it is mirrored or repeated as the two stood to each other, and
    mirrored if they stood anyhow.  Overrides of the verso one go over to it.
    """
    master = find_master(publication, master_id)
    two = {item.face: item for item in (_item(master, first), _item(master, second))}
    if set(two) != {"recto", "verso"}:
        raise Refusal("Two items are joined if one stands on the verso and one on the recto face.")
    recto, verso = two["recto"], two["verso"]
    if type(recto) is not type(verso):
        raise Refusal(f"“{recto.name}” and “{verso.name}” are of two kinds and can't be one item.")
    width = publication.setup.trim.width
    seen = verso if verso.placing == "repeated" else mirrored(verso, width)
    repeated = abs(seen.x - recto.x) < _TOGETHER and abs(seen.rotation - recto.rotation) < 1e-6
    straight = abs(width - 2 * recto.x - recto.width) < _TOGETHER  # its own mirror image
    placing: Placing = "repeated" if repeated and not straight else "mirrored"
    joined = replace(recto, face="both", placing=placing)

    def new(owner: Master) -> Master:
        items = (joined if i.id == recto.id else i for i in owner.items if i.id != verso.id)
        return replace(owner, items=tuple(items))

    publication = change_master(publication, master_id, new)
    return _overrides(publication, _inherited(verso.id, recto.id))


def _inherited(gone: str, kept: str) -> Callable[[tuple[Override, ...]], tuple[Override, ...]]:
    """Overrides of an item that is gone, held by the one that stays where it has none itself."""

    def new(overrides: tuple[Override, ...]) -> tuple[Override, ...]:
        old = next((o for o in overrides if o.item == gone), None)
        if old is None:
            return overrides
        own = next((o for o in overrides if o.item == kept), Override(item=kept))
        merged = replace(own, **(changed_properties(old) | changed_properties(own)))
        rest = tuple(o for o in overrides if o.item not in (gone, kept))
        return (*rest, merged)

    return new


def _overrides(
    publication: Publication, new: Callable[[tuple[Override, ...]], tuple[Override, ...]]
) -> Publication:
    def changed(owner: Page | Master) -> Page | Master:
        overrides = new(owner.overrides)
        return owner if overrides == owner.overrides else replace(owner, overrides=overrides)

    return change_every_holder(publication, changed)
