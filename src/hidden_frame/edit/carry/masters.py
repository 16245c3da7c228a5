"""Masters carried to another publication with their bases and all that they refer to (R24).

>>> parcel = masters_copied(publication, [master])
>>> other = hf.Document.new("Other", trim="A5").publication
>>> other, ids = masters_pasted(other, parcel)
>>> [m.name for m in other.masters]
['Base', 'Base 2']
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from hidden_frame.edit.carry.items import Clip, brought_in, clip_of
from hidden_frame.edit.change import new_ids
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.edit.masters.family import free_ribbon
from hidden_frame.model.lookup import base_chain, find_master
from hidden_frame.model.publication import Master, Publication


class MasterClip(Struct, frozen=True):
    """Masters, each behind its base, and a clip with what their items and overrides need."""

    masters: tuple[Master, ...]
    clip: Clip


def masters_copied(publication: Publication, master_ids: Iterable[str]) -> MasterClip:
    """Masters with their bases, and everything they refer to."""
    taken: dict[str, Master] = {}
    for master_id in master_ids:
        find_master(publication, master_id)
        for master in base_chain(publication, master_id):
            taken.setdefault(master.id, master)
    items = [i for m in taken.values() for i in m.items]
    overrides = [o for m in taken.values() for o in m.overrides]
    return MasterClip(tuple(taken.values()), clip_of(publication, items, overrides))


def masters_pasted(
    publication: Publication, parcel: MasterClip
) -> tuple[Publication, dict[str, str]]:
    """The publication with the masters, and the new id of each.

    One that is equal to a master that is there is that master; a clash of names is
    resolved by a new name.
    """
    publication, ids, _ = masters_pasted_with_items(publication, parcel)
    return publication, ids


class PastedMasters(NamedTuple):
    """The publication with masters brought in, and the new ids of them and of their items."""

    publication: Publication
    masters: dict[str, str]
    items: dict[str, str]


def masters_pasted_with_items(publication: Publication, parcel: MasterClip) -> PastedMasters:
    """The same, with the new id of each of their items besides."""
    publication, terms = brought_in(publication, parcel.clip)
    ids: dict[str, str] = {}
    item_ids: dict[str, str] = {}
    for old in parcel.masters:
        coming = replace(
            old,
            base=ids.get(old.base or ""),
            items=tuple(terms.item(i) for i in old.items),
            # One that sleeps names nothing here, whatever may have its item's id (R11).
            overrides=tuple(
                replace(terms.override(o), item=item_ids.get(o.item, "")) for o in old.overrides
            ),
        )
        same = next((m for m in publication.masters if _equal(publication, m, coming)), None)
        if same is None:
            publication, same = _added(publication, coming)
        ids[old.id] = same.id
        item_ids |= {o.id: n.id for o, n in zip(old.items, same.items, strict=True)}
    return PastedMasters(publication, ids, item_ids)


def _added(publication: Publication, coming: Master) -> tuple[Publication, Master]:
    publication, (master_id,) = new_ids(publication, "master", 1)
    publication, item_ids = new_ids(publication, "item", len(coming.items))
    groups: dict[str, str] = {}
    for group in dict.fromkeys(i.group for i in coming.items if i.group is not None):
        publication, (groups[group],) = new_ids(publication, "group", 1)
    sleeping = sum(not o.item for o in coming.overrides)
    publication, names = new_ids(publication, "item", sleeping)
    free = iter(names)
    made = replace(
        coming,
        overrides=tuple(o if o.item else replace(o, item=next(free)) for o in coming.overrides),
        id=master_id,
        name=free_name(coming.name, (m.name for m in publication.masters)),
        ribbon=free_ribbon(publication),
        items=tuple(
            replace(i, id=n, group=groups.get(i.group or ""))
            for i, n in zip(coming.items, item_ids, strict=True)
        ),
    )
    return replace(publication, masters=(*publication.masters, made)), made


def _equal(publication: Publication, there: Master, coming: Master) -> bool:
    """Whether two masters are the same but for ids, ribbon, and a number that a clash gave."""
    stem, _, number = there.name.rpartition(" ")
    named = there.name == coming.name or (stem == coming.name and number.isdecimal())
    awake = {i.id for m in publication.masters for i in m.items}
    return named and _bare(there, awake) == _bare(coming, awake)


def _bare(master: Master, awake: set[str]) -> Master:
    groups: dict[str, str] = {}
    items = []
    for item in master.items:
        group = item.group
        if group is not None:
            group = groups.setdefault(group, f"group {len(groups)}")
        items.append(replace(item, id="", group=group))
    named = (o if o.item in awake else replace(o, item="") for o in master.overrides)
    return replace(master, id="", name="-", ribbon=0, items=tuple(items), overrides=tuple(named))
