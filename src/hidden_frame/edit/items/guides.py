"""Guides of pages and masters: added, moved, locked, taken away.

A guide is named by its place in the holder's own tuple.  A master that has none of
its own takes over its base's when it gets the first (R6).
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Literal

from msgspec.structs import replace

from hidden_frame.edit.change import change_holder
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide
from hidden_frame.model.lookup import base_chain, holder, masters_by_id
from hidden_frame.model.number_format import figure
from hidden_frame.model.publication import Master, Page, Publication

_FIELDS = 200
_LIMIT = 14_400.0  # points; beyond it no page reaches


def own_guides(publication: Publication, holder_id: str) -> tuple[Guide, ...]:
    """The guides that can be changed on this page or master, its base's included if the
    master has none of its own."""
    if holder_id not in masters_by_id(publication):
        return holder(publication, holder_id).guides or ()
    for master in reversed(base_chain(publication, holder_id)):
        if master.guides is not None:
            return master.guides
    return ()


def add_guide(publication: Publication, holder_id: str, guide: Guide) -> Publication:
    """A guide more on a page or master.

    >>> own_guides(add_guide(publication, page, Guide("horizontal", 72.0)), page)[0].position
    72.0
    """
    return _changed(publication, holder_id, lambda guides: (*guides, _checked(guide)))


def add_guides(publication: Publication, holder_id: str, new: Iterable[Guide]) -> Publication:
    """Several guides at once; those that are there already are not doubled."""
    wanted = [_checked(guide) for guide in new]

    def joined(guides: tuple[Guide, ...]) -> tuple[Guide, ...]:
        return guides + tuple(g for g in wanted if not any(_same(g, old) for old in guides))

    return _changed(publication, holder_id, joined)


def _same(a: Guide, b: Guide) -> bool:
    return a.axis == b.axis and abs(a.position - b.position) < 0.005


def fields(start: float, length: float, count: int, gutter: float) -> list[float]:
    """The edges of `count` equal fields with gutters between them, from a start on.

    >>> fields(0.0, 100.0, 2, 10.0)
    [0.0, 45.0, 55.0, 100.0]

    Lengths in points.  Without gutter, an edge that two fields share is given once.
    """
    if not 1 <= count <= _FIELDS:
        raise Refusal(
            f"{count} fields can't be made; give a number from 1 to {_FIELDS}.", field="count"
        )
    size = (length - gutter * (count - 1)) / count
    if gutter < 0 or size <= 0:
        raise Refusal(
            "These gutters leave no room for the fields; make them smaller.", field="gutter"
        )
    edges: list[float] = []
    for number in range(count):
        begin = start + number * (size + gutter)
        if not edges or abs(edges[-1] - begin) > 1e-9:
            edges.append(begin)
        edges.append(begin + size)
    return edges


def at_intervals(
    axis: Literal["horizontal", "vertical"], first: float, step: float, count: int
) -> list[Guide]:
    """Guides repeated at an interval: `count` of them, `step` points apart."""
    if not 1 <= count <= _FIELDS:
        raise Refusal(
            f"{count} guides can't be made; give a number from 1 to {_FIELDS}.", field="count"
        )
    return [Guide(axis, first + n * step) for n in range(count)]


def move_guide(
    publication: Publication, holder_id: str, index: int, position: float
) -> Publication:
    """A guide at another position; a locked one is refused."""

    def new(guide: Guide) -> Guide:
        if guide.locked:
            raise Refusal("This guide is locked; unlock it to move it.")
        return _checked(replace(guide, position=position))

    return _one(publication, holder_id, index, new)


def lock_guide(publication: Publication, holder_id: str, index: int, locked: bool) -> Publication:
    return _one(publication, holder_id, index, lambda guide: replace(guide, locked=locked))


def lock_guides(publication: Publication, holder_id: str, locked: bool) -> Publication:
    """Every guide of a page or master locked, or free again."""
    return _changed(
        publication, holder_id, lambda guides: tuple(replace(g, locked=locked) for g in guides)
    )


def remove_guide(publication: Publication, holder_id: str, index: int) -> Publication:
    def new(guides: tuple[Guide, ...]) -> tuple[Guide, ...]:
        _there(guides, index)
        return guides[:index] + guides[index + 1 :]

    return _changed(publication, holder_id, new)


def remove_guides(publication: Publication, holder_id: str) -> Publication:
    """All guides of a page or master taken away, locked ones too."""
    return _changed(publication, holder_id, lambda _: ())


def _one(
    publication: Publication, holder_id: str, index: int, new: Callable[[Guide], Guide]
) -> Publication:
    def changed(guides: tuple[Guide, ...]) -> tuple[Guide, ...]:
        _there(guides, index)
        return (*guides[:index], new(guides[index]), *guides[index + 1 :])

    return _changed(publication, holder_id, changed)


def _changed(
    publication: Publication,
    holder_id: str,
    new: Callable[[tuple[Guide, ...]], tuple[Guide, ...]],
) -> Publication:
    before = own_guides(publication, holder_id)
    after = new(before)
    if after == before:
        return publication

    def with_guides(owner: Page | Master) -> Page | Master:
        return replace(owner, guides=after)

    return change_holder(publication, holder_id, with_guides)


def _there(guides: tuple[Guide, ...], index: int) -> None:
    if not 0 <= index < len(guides):
        raise Refusal("This guide is not there any more.")


def _checked(guide: Guide) -> Guide:
    if not abs(guide.position) <= _LIMIT:
        raise Refusal(
            f"A guide can't stand at {figure(guide.position)} pt; that is on no page.",
            field="position",
        )
    return guide
