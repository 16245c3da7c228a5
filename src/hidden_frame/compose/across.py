"""Items that reach over the spine onto the page that faces theirs (R5).

An item belongs to one page.  Where it goes past the spine by more than the bleed, the page that
faces it shows it too, pushes its text aside for it, and paints it by layer and order as if it
stood there: within a layer masters' items lie below pages' own, and of two alike the one of the
page that is read first.
"""

from __future__ import annotations

from collections.abc import Mapping

from hidden_frame.compose.around import Obstacle
from hidden_frame.compose.cascade import Resolved, shown_on
from hidden_frame.compose.context import Context, standing
from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.scene import Home, Placed, Scene
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import Bounds, Box, bounds_of
from hidden_frame.model.plane.matrix import Matrix
from hidden_frame.model.publication import Master, Page, Publication, Setup

_LEAST = 0.01  # points past the bleed


def past_spine(bounds: Bounds, side: Side, setup: Setup) -> bool:
    """Whether something with these bounds on a page of this side reaches over the spine; what
    bleeds there, or lies wholly beyond it, does not."""
    if not setup.facing:
        return False
    out = setup.bleed + _LEAST
    if side == "verso":
        return bounds.left < setup.trim.width - _LEAST and bounds.right > setup.trim.width + out
    return bounds.right > _LEAST and bounds.left < -out


@remembered()
def across(items: tuple[Resolved, ...], side: Side, context: Context) -> tuple[Resolved, ...]:
    """Those of a page's items that reach over the spine; nothing on most pages."""
    return tuple(
        r for r in items
        if r.item.visible and r.item.layer not in context.hidden
        and past_spine(_bounds(r, side, context.setup), side, context.setup)
    )  # fmt: skip


def _bounds(resolved: Resolved, side: Side, setup: Setup) -> Bounds:
    i = shown_on(resolved, side, setup)
    return bounds_of(Box(i.x, i.y, i.width, i.height, i.rotation))


def partner_of(publication: Publication, facts: Mapping[str, PageFacts], page_id: str) -> str:
    """The page that faces a page; "" where none does."""
    setup = publication.setup
    if not setup.facing:
        return ""
    here, pages = facts[page_id].position, all_pages(publication)
    first = (here % 2 == 0) == (setup.opening == "recto")  # of its spread, as it is read
    other = here if first else here - 2
    return pages[other].id if 0 <= other < len(pages) else ""


def may_reach(publication: Publication, page: Page) -> bool:
    """Whether anything on a page may lie over the spine: for nearly all it is seen at once that
    nothing does."""
    setup = publication.setup
    return _masters_may(publication.masters, setup) or _page_may(page, setup)


@remembered()
def _masters_may(masters: tuple[Master, ...], setup: Setup) -> bool:
    return any(m.overrides or any(_wide(i, setup) for i in m.items) for m in masters)


@remembered()
def _page_may(page: Page, setup: Setup) -> bool:
    return bool(page.overrides) or any(_wide(i, setup) for i in page.items)


def _wide(item: Item, setup: Setup) -> bool:
    """Whether an item goes past either side by more than the bleed."""
    at = bounds_of(Box(item.x, item.y, item.width, item.height, item.rotation))
    return at.left < -setup.bleed or at.right > setup.trim.width + setup.bleed


def aside(side: Side, setup: Setup) -> float:
    """How far to the right (points) what stands on a page of this side is seen from the page
    that faces it."""
    return -setup.trim.width if side == "verso" else setup.trim.width


@remembered()
def standing_over(
    items: tuple[Resolved, ...], home: str, side: Side, context: Context
) -> tuple[Obstacle, ...]:
    """What of a page's items, which are those `across`, stands in the way of text on the page that
    faces it, in that page's points."""
    by = aside(side, context.setup)
    return tuple(
        Obstacle(f"{home} {o.item_id}", tuple((x + by, y) for x, y in o.outline), o.both)
        for o in standing(items, side, context)
    )


@remembered(by_value=("ids", "home"))
def visitors(scene: Scene, ids: frozenset[str], by: float, home: Home) -> tuple[Placed, ...]:
    """Some of what a page shows, as the page that faces it does."""
    return tuple(
        p._replace(matrix=_moved(p.matrix, by), home=home) for p in scene.placed if p.item_id in ids
    )


def _moved(matrix: Matrix, by: float) -> Matrix:
    return matrix._replace(e=matrix.e + by)


@remembered()
def joined(scene: Scene, over: tuple[Placed, ...], first: bool) -> Scene:
    """A scene with what reaches over onto it; `first` if that page is read first."""
    # Of the same rank, what comes from the page that is read first lies below.
    rows = [(p.rank, first, n, p) for n, p in enumerate(scene.placed)]
    rows += [(p.rank, not first, n, p) for n, p in enumerate(over)]
    return scene.with_painted(tuple(row[3] for row in sorted(rows, key=lambda row: row[:3])))
