"""Which pages follow a master.

>>> [len(pages) for pages in followers(publication).values()]
[16]
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.sparse import Projection


def followers(publication: Publication) -> dict[str, list[str]]:
    """For each master the pages that follow it, directly or through masters built on it."""
    parents = tuple((m.id, m.base or "") for m in publication.masters)
    return _followers(parents, *_follow(publication))


def direct_followers(publication: Publication) -> dict[str, list[str]]:
    """For each master the pages in whose stack it stands itself."""
    nobody = tuple((m.id, "") for m in publication.masters)
    return _followers(nobody, *_follow(publication))


_Follow = tuple[str, tuple[str, ...] | None]  # a page, and its own stack
_own_stacks: Projection[Page, _Follow] = Projection(
    lambda page: (page.id, page.ruled if page.masters is None else page.masters)
)


def _follow(publication: Publication) -> list[object]:
    """Of each section in turn the stack of its pages, and its pages with their own stacks."""
    found: list[object] = []
    for section in publication.sections:
        automatic = publication.default_masters if section.masters is None else section.masters
        found += (automatic, _own_stacks(section.pages))
    return found


@remembered(by_value=("family",))
def _followers(family: tuple[tuple[str, str], ...], *follow: Any) -> dict[str, list[str]]:
    parents = dict(family)
    result: dict[str, list[str]] = {master_id: [] for master_id in parents}
    for automatic, pages in zip(follow[::2], follow[1::2], strict=True):
        lines: dict[tuple[str, ...], list[list[str]]] = {}
        for page, own in pages:
            stack = automatic if own is None else own
            if stack not in lines:
                lines[stack] = [result[i] for i in _and_bases(stack, parents)]
            for line in lines[stack]:
                line.append(page)
    return result


def _and_bases(stack: tuple[str, ...], parents: Mapping[str, str]) -> list[str]:
    seen: dict[str, None] = {}
    for at in stack:
        while at and at not in seen:
            seen[at] = None
            at = parents[at]
    return list(seen)
