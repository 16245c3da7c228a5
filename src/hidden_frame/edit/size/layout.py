"""The margins, columns, guides and grids of a publication in another size."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec.structs import replace

from hidden_frame.edit.size.axis import Axis, MovedLine, axis, placed
from hidden_frame.model.canons import CANONS, Canon
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Columns, Grid, Guide, Margins, Side, Size
from hidden_frame.model.layouts import PageLayout, master_layout, page_layout
from hidden_frame.model.plane.mirror import guide_x
from hidden_frame.model.publication import Master, Page, Publication, Setup

KEPT = "kept"
"""In place of a construction's name: margins stay as wide as they are."""


def construction_of(trim: Size, margins: Margins) -> Canon | None:
    """The construction that these margins follow on this page, if any.

    >>> margins = Margins(top=70, bottom=140, inside=50, outside=100)
    >>> construction_of(Size(450.0, 630.0), margins).name
    'Ninths'
    """
    for canon in CANONS:
        made = canon.margins(trim)
        if all(abs(getattr(made, side) - getattr(margins, side)) < 0.005 for side in _SIDES):
            return canon
    return None


_SIDES = Margins.__struct_fields__


def margins_in(margins: Margins, old: Size, new: Size, wanted: str = "") -> Margins:
    """Margins on a page of another size: by the construction that they follow, or as they are.

    `wanted` is the name of another construction, or `KEPT`.
    """
    if wanted == KEPT:
        return margins
    if wanted:
        canon = next((c for c in CANONS if c.name == wanted), None)
        if canon is None:
            names = ", ".join(c.name for c in CANONS)
            raise Refusal(f"There is no construction of margins “{wanted}”; there are {names}.")
        return canon.margins(new)
    canon = construction_of(old, margins)
    if canon is None:
        return margins
    before, after = canon.margins(old), canon.margins(new)
    # What they differ by is kept, so that there and back is where they were.
    changed = {s: getattr(after, s) + getattr(margins, s) - getattr(before, s) for s in _SIDES}
    return Margins(**{side: max(value, 0.0) for side, value in changed.items()})


def axes(
    old: Setup, before: PageLayout, new: Setup, after: PageLayout, side: Side, guided: bool = True
) -> tuple[Axis, Axis]:
    """The lines across and down of a page of this side, as they were and as they will be."""
    bleed = MovedLine(old.bleed, new.bleed)
    across, down = (
        MovedLine(old.trim.width, new.trim.width),
        MovedLine(old.trim.height, new.trim.height),
    )
    left = MovedLine(before.margins.left(side), after.margins.left(side))
    right = MovedLine(before.margins.right(side), after.margins.right(side))
    top = MovedLine(before.margins.top, after.margins.top)
    bottom = MovedLine(before.margins.bottom, after.margins.bottom)
    columns = [
        MovedLine(a, b)
        for a, b in zip(
            _edges(before.columns, left.old, across.old - right.old),
            _edges(after.columns, left.new, across.new - right.new),
            strict=False,
        )
    ]
    standing: list[MovedLine] = []
    lying: list[MovedLine] = []
    if guided:
        for was, then in zip(before.guides, after.guides, strict=True):
            if was.axis == "horizontal":
                lying.append(MovedLine(was.position, then.position))
            else:
                xs = (
                    guide_x(was.position, side, across.old),
                    guide_x(then.position, side, across.new),
                )
                standing.append(MovedLine(*xs))
    facing = ("low" if side == "recto" else "high") if new.facing else ""
    return (
        axis(across, (left, right), bleed, (*columns, *standing), facing),
        axis(down, (top, bottom), bleed, lying),
    )


def _edges(columns: Columns, left: float, right: float) -> list[float]:
    """Where columns begin and end between two margins."""
    if columns.count == 1:
        return []
    width = (right - left - columns.gutter * (columns.count - 1)) / columns.count
    starts = [left + n * (width + columns.gutter) for n in range(columns.count)]
    return [x for start in starts for x in (start, start + width)]


def relaid(
    publication: Publication, setup: Setup, wanted: Mapping[str, str] | None = None
) -> Publication:
    """The publication with its layouts in another size: margins, guides and grids follow the
    edges; items stay.  `wanted` names a construction for the margins of the publication ("") or of
    masters by id, or `KEPT`."""
    wanted = wanted or {}
    old, trim = publication.setup, setup.trim
    setup = replace(setup, margins=margins_in(setup.margins, old.trim, trim, wanted.get("", "")))
    masters = tuple(
        _margins_of(m, old.trim, trim, wanted.get(m.id, "")) for m in publication.masters
    )
    bare = replace(publication, setup=setup, masters=masters)

    def master(new: Master) -> Master:
        if new.guides is None and new.grid is None:
            return new
        before, after = master_layout(publication, new.id), master_layout(bare, new.id)
        both = axes(old, before, setup, after, "recto", guided=False)
        guides = None if new.guides is None else tuple(_guide(g, both) for g in new.guides)
        grid = None if new.grid is None else _grid(new.grid, both)
        return replace(new, guides=guides, grid=grid)

    def page(new: Page) -> Page:
        if not new.guides:
            return new
        before, after = page_layout(publication, new), page_layout(bare, new)
        both = axes(old, before, setup, after, "recto", guided=False)
        return replace(new, guides=tuple(_guide(g, both) for g in new.guides))

    if setup.grid is not None:
        layout = PageLayout(old.margins, old.columns, (), old.grid)
        both = axes(old, layout, setup, layout._replace(margins=setup.margins), "recto")
        setup = replace(setup, grid=_grid(setup.grid, both))
    sections = tuple(
        replace(s, pages=tuple(page(p) for p in s.pages)) if any(p.guides for p in s.pages) else s
        for s in bare.sections
    )
    return replace(bare, setup=setup, masters=tuple(master(m) for m in masters), sections=sections)


def _margins_of(master: Master, old: Size, new: Size, wanted: str) -> Master:
    if master.margins is None:
        if wanted in ("", KEPT):
            return master
        return replace(master, margins=margins_in(Margins(), old, new, wanted))
    margins = margins_in(master.margins, old, new, wanted)
    return master if margins == master.margins else replace(master, margins=margins)


def _guide(guide: Guide, both: tuple[Axis, Axis]) -> Guide:
    along = both[guide.axis == "horizontal"]
    position, _ = placed(guide.position, guide.position, along)
    return replace(guide, position=position)


def _grid(grid: Grid, both: tuple[Axis, Axis]) -> Grid:
    start, _ = placed(grid.start, grid.start, both[1])
    return replace(grid, start=max(start, 0.0))
