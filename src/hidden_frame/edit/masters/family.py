"""Families of masters: copied, reordered, a base's look made a master's own.

>>> publication, copy = copy_master(publication, master, how="on the same base")
>>> [m.name for m in publication.masters]
['Base', 'Base 2']
"""

from __future__ import annotations

from typing import Literal

from msgspec.structs import replace

from hidden_frame.edit.change import change_master, new_ids
from hidden_frame.edit.masters.apply import RIBBONS, free_name
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, changed_properties
from hidden_frame.model.lookup import base_chain, find_master
from hidden_frame.model.publication import Master, Publication

How = Literal["on the same base", "without the base", "all as its own"]


def copy_master(
    publication: Publication, master_id: str, how: How = "on the same base"
) -> tuple[Publication, str]:
    """A copy of a master, behind it in the list, and its id.

    It keeps the base with what departs from it; or stands alone with the master's own
    items; or stands alone and looks the same, its bases' items being its own.
    """
    master = find_master(publication, master_id)
    publication, (copy_id,) = new_ids(publication, "master", 1)
    if how == "on the same base":
        copy = replace(master, id=copy_id)
    elif how == "without the base":
        copy = replace(master, id=copy_id, base=None, overrides=())
    else:
        copy = replace(_flat(base_chain(publication, master_id)), id=copy_id)
    publication, item_ids = new_ids(publication, "item", len(copy.items))
    items = tuple(replace(i, id=n) for i, n in zip(copy.items, item_ids, strict=True))
    copy = replace(
        copy,
        items=items,
        name=free_name(master.name, (m.name for m in publication.masters)),
        ribbon=free_ribbon(publication),
    )
    at = publication.masters.index(master) + 1
    masters = (*publication.masters[:at], copy, *publication.masters[at:])
    return replace(publication, masters=masters), copy_id


def free_ribbon(publication: Publication) -> int:
    """The first ribbon that no master has, or the next in turn."""
    used = {m.ribbon for m in publication.masters}
    return next((n for n in range(RIBBONS) if n not in used), len(publication.masters) % RIBBONS)


def _flat(chain: tuple[Master, ...]) -> Master:
    """A chain of bases, the most distant first, as one master that looks the same."""
    items: list[Item] = []
    flat = replace(chain[0], base=None)
    for master in chain:
        changes = {o.item: changed_properties(o) for o in master.overrides}
        items = [replace(i, **changes[i.id]) if i.id in changes else i for i in items]
        items += master.items
        own = {
            name: getattr(master, name)
            for name in ("margins", "columns", "guides", "grid")
            if getattr(master, name) is not None
        }
        flat = replace(flat, **own)
    last = chain[-1]
    return replace(
        flat, id=last.id, name=last.name, ribbon=last.ribbon, items=tuple(items), overrides=()
    )


def move_master(publication: Publication, master_id: str, before: str | None) -> Publication:
    """A master put before another in the list, or at its end; the order means nothing else."""
    moved = find_master(publication, master_id)
    rest = [m for m in publication.masters if m.id != master_id]
    at = next((n for n, m in enumerate(rest) if m.id == before), len(rest))
    masters = (*rest[:at], moved, *rest[at:])
    return publication if masters == publication.masters else replace(publication, masters=masters)


def set_ribbon(publication: Publication, master_id: str, ribbon: int) -> Publication:
    """The colour of a master's ribbon, 0 to 11."""
    if not 0 <= ribbon < RIBBONS:
        raise Refusal(
            f"There is no ribbon {ribbon + 1}; choose one from 1 to {RIBBONS}.", field="ribbon"
        )
    return change_master(
        publication, master_id, lambda m: m if m.ribbon == ribbon else replace(m, ribbon=ribbon)
    )
