"""Which pages follow a master.

>>> [len(pages) for pages in followers(publication).values()]
[16]
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from itertools import compress
from typing import Any

from hidden_frame.model.lookup import orders
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.sparse import Projection


def followers(publication: Publication) -> dict[str, list[str]]:
    """For each master the pages that follow it, directly or through masters built on it."""
    return _followers(_parents(publication), *_follow(publication))


def follower_counts(publication: Publication) -> dict[str, int]:
    """For each master how many pages follow it: in a fifth of the time."""
    parents = dict(_parents(publication))
    result = dict.fromkeys(parents, 0)
    for section in publication.sections:
        automatic = publication.default_masters if section.masters is None else section.masters
        for own, count in Counter(_own_stacks(section.pages)).items():
            for master_id in _and_bases(automatic if own is None else own, parents):
                result[master_id] += count
    return result


def _parents(publication: Publication) -> tuple[tuple[str, str], ...]:
    return tuple((m.id, m.base or "") for m in publication.masters)


def direct_followers(publication: Publication) -> dict[str, list[str]]:
    """For each master the pages in whose stack it stands itself."""
    nobody = tuple((m.id, "") for m in publication.masters)
    return _followers(nobody, *_follow(publication))


_Stack = tuple[str, ...]
_own_stacks: Projection[Page, _Stack | None] = Projection(
    lambda page: page.ruled if page.masters is None else page.masters
)


def _follow(publication: Publication) -> list[object]:
    """Of each section in turn the stack of its pages, their ids, and their own stacks."""
    found: list[object] = []
    for section, order in zip(publication.sections, orders(publication), strict=True):
        automatic = publication.default_masters if section.masters is None else section.masters
        found += (automatic, order, _own_stacks(section.pages))
    return found


@remembered(by_value=("family",))
def _followers(family: tuple[tuple[str, str], ...], *follow: Any) -> dict[str, list[str]]:
    parents = dict(family)
    result: dict[str, list[str]] = {master_id: [] for master_id in parents}
    for automatic, pages, owns in zip(follow[::3], follow[1::3], follow[2::3], strict=True):
        # By master, not by page: there are thousands of pages and a few stacks.
        asking: dict[str, set[_Stack | None]] = {}
        for own in set(owns):
            for master_id in _and_bases(automatic if own is None else own, parents):
                asking.setdefault(master_id, set()).add(own)
        for master_id, those in asking.items():
            result[master_id] += compress(pages, map(those.__contains__, owns))
    return result


def _and_bases(stack: tuple[str, ...], parents: Mapping[str, str]) -> list[str]:
    seen: dict[str, None] = {}
    for at in stack:
        while at and at not in seen:
            seen[at] = None
            at = parents[at]
    return list(seen)
