"""Another trim: what is there follows the edges, is scaled, or stays (R30)."""

from __future__ import annotations

import itertools

import pytest
from hypothesis import Phase, assume, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.checks.resized import came_of, telling
from hidden_frame.compose.cascade import Resolved, shown_on
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.size.axis import Axis, hold
from hidden_frame.edit.size.follow import clusters, place_of, rows
from hidden_frame.edit.size.layout import axes, construction_of, relaid
from hidden_frame.edit.size.resize import NewSize, resize, resize_pages
from hidden_frame.model.canons import by_ninths
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Columns, Grid, Guide, Margins, Size
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import (
    Line,
    Override,
    PictureFrame,
    Shape,
    TextFrame,
    changed_properties,
)
from hidden_frame.model.layouts import master_layout, page_layout
from hidden_frame.model.lookup import all_pages, find_page, positions
from hidden_frame.model.paint import Stroke
from hidden_frame.model.plane.box import Box, bounds_of
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.sides import side_of
from hidden_frame.model.styles import computed_paragraphs
from hidden_frame.model.text import Look, Paragraph, Run

QUICK = (Phase.explicit, Phase.reuse, Phase.generate)
W, H, BLEED = 420.0, 600.0, 8.5
MARGINS = Margins(top=50.0, bottom=70.0, inside=40.0, outside=60.0)
SETUP = Setup(trim=Size(W, H), bleed=BLEED, margins=MARGINS, columns=Columns(2, 20.0))


def plain(**changes: object) -> Publication:
    return new_publication("Plain", replace(SETUP, **changes), 4)


def with_items(publication: Publication, *items: object, page: int = 0) -> Publication:
    section = publication.sections[0]
    pages = list(section.pages)
    pages[page] = replace(pages[page], items=(*pages[page].items, *items))
    return replace(publication, next_id=1000, sections=(replace(section, pages=tuple(pages)),))


def box(publication: Publication, page: int = 0, n: int = 0) -> tuple[float, ...]:
    item = all_pages(publication)[page].items[n]
    return tuple(round(v, 3) for v in (item.x, item.y, item.width, item.height))


def shape(x: float, y: float, width: float, height: float, **more: object) -> Shape:
    return Shape(id=f"item-{900 + int(x) % 90}", x=x, y=y, width=width, height=height, **more)


# -- one thing at a time ---------------------------------------------------------------------


@pytest.mark.parametrize(
    ("item", "there"),
    [
        # x, y, width, height on 420 × 600, then on 480 × 660; margins 40 and 60, 50 and 70
        ((40, 50, 320, 480), (40, 50, 380, 540), ),  # from margin to margin, both ways
        ((-8.5, -8.5, 437, 617), (-8.5, -8.5, 497, 677)),  # full bleed
        ((0, 0, 420, 100), (0, 0, 480, 100)),  # a band at the head, from edge to edge
        ((40, 560, 320, 12), (40, 620, 380, 12)),  # a folio in the foot
        ((210, 50, 150, 480), (240, 50, 180, 540)),  # the second column
        ((40, 250, 100, 80), (40, 280, 100, 80)),  # in the middle of the page, at the inside margin
        ((260, 100, 100, 80), (320, 100, 100, 80)),  # at the outside margin
        ((160, 60, 100, 30), (190, 60, 100, 30)),  # in the middle across, a little below the margin
        ((372, 10, 40, 20), (432, 10, 40, 20)),  # a logo in the corner
    ],
)  # fmt: skip
def test_a_thing_follows_what_it_lies_on(item, there):
    before = with_items(plain(), shape(*item))
    after = resize(before, trim=Size(480.0, 660.0))
    assert box(after) == pytest.approx(there, abs=1e-3)


def test_what_stands_on_a_verso_goes_as_its_mirror_image():
    left = with_items(plain(), shape(W - 40 - 100, 90, 100, 80), page=1)
    assert box(resize(left, trim=Size(500.0, H)), 1)[0] == pytest.approx(500 - 40 - 100)


def test_a_caption_stays_with_its_picture():
    both = with_items(plain(), shape(40, 200, 150, 90), shape(42, 294, 140, 20))
    after = resize(both, trim=Size(W, 480.0))
    picture, caption = box(after), box(after, n=1)
    assert caption[1] - picture[1] == pytest.approx(94.0)
    assert picture[1] < 200


def test_a_row_that_is_evenly_spaced_stays_so_and_a_text_follows_its_head():
    """As a month of the almanac: discs in a row, the head of a table, and the table."""
    row = [Shape(id=f"item-{800 + n}", x=70.0 + 35 * n, y=80, width=20, height=20, form="ellipse")
           for n in range(8)]  # fmt: skip
    head = Shape(id="item-820", x=40, y=120, width=320, height=20)
    table = TextFrame(id="item-821", x=46, y=146, width=308, height=330)
    publication = with_items(plain(columns=Columns()), *row, head, table)
    for trim in (Size(300.0, 430.0), Size(560.0, 800.0)):
        after = [box(resize(publication, trim=trim), n=n) for n in range(10)]
        steps = {round(b[0] - a[0], 2) for a, b in itertools.pairwise(after[:8])}
        assert len(steps) == 1 and {r[2:] for r in after[:8]} == {(20.0, 20.0)}
        assert after[0][0] >= 40 and after[7][0] + 20 <= trim.width - 60
        assert after[9][1] - after[8][1] == pytest.approx(26.0)  # it stays below its head
        assert after[9][1] + after[9][3] <= trim.height - 70 + 1e-6
        assert after[8][2] == trim.width - 100 and after[9][2] == trim.width - 112


def test_a_picture_over_the_spine_goes_on_to_the_same_margin():
    wide = with_items(plain(), shape(-360, 100, 720, 90), page=2)  # from margin to margin
    x, _, width, _ = box(resize(wide, trim=Size(500.0, H)), 2)
    assert (x, x + width) == pytest.approx((-440.0, 440.0))


def test_a_line_from_corner_to_corner_goes_on_to_be_one():
    length, angle = (W * W + H * H) ** 0.5, 55.00797980144134
    line = Line(id="item-900", x=(W - length) / 2, y=H / 2, width=length, height=0, rotation=angle,
                stroke=Stroke(colour="ink"))  # fmt: skip
    after = all_pages(resize(with_items(plain(), line), trim=Size(300.0, 300.0)))[0].items[0]
    bounds = bounds_of(Box(after.x, after.y, after.width, after.height, after.rotation))
    assert tuple(bounds) == pytest.approx((0, 0, 300, 300), abs=1e-6)
    assert after.rotation == pytest.approx(45.0)


def test_a_larger_bleed_is_filled_by_what_bleeds():
    band = with_items(plain(), shape(-BLEED, -BLEED, 100 + BLEED, 100 + BLEED))
    assert box(resize(band, bleed=14.0)) == pytest.approx((-14, -14, 114, 114))
    assert resize(resize(band, bleed=14.0), bleed=BLEED) == band


def test_ninths_stay_ninths_and_guides_columns_and_grid_follow():
    ninths = by_ninths(Size(W, H))
    publication = plain(margins=ninths, grid=Grid(ninths.top, 12.0))
    master = replace(
        publication.masters[0],
        margins=Margins(top=30, bottom=30, inside=30, outside=30),
        guides=(Guide("vertical", 30.0), Guide("horizontal", H / 2), Guide("vertical", 382.0)),
    )
    publication = replace(publication, masters=(master,))
    after = resize(publication, trim=Size(480.0, 660.0))
    assert construction_of(after.setup.trim, after.setup.margins).name == "Ninths"
    assert after.setup.grid == Grid(660 / 9, 12.0)
    assert [g.position for g in after.masters[0].guides] == pytest.approx([30, 330, 442])
    assert after.masters[0].margins == master.margins
    kept = resize(publication, trim=Size(480.0, 660.0), margins={"": "kept", master.id: "Ninths"})
    assert kept.setup.margins == ninths
    assert kept.masters[0].margins == by_ninths(Size(480.0, 660.0))


def test_scaled_type_and_all():
    text = (Paragraph("body", (Run("Large ", look=Look(size=20.0, shift=2.0)), Run("and not"))),)
    frame = TextFrame(id="item-900", x=100, y=100, width=80, height=40, text=text, inset=4.0,
                      stroke=Stroke(colour="ink", width=2.0))  # fmt: skip
    publication = with_items(plain(), frame)
    half = resize(publication, trim=Size(W / 2, H / 2), items="scale", type_too=True)
    new = all_pages(half)[0].items[0]
    assert (new.x, new.y, new.width, new.height, new.inset) == pytest.approx((50, 50, 40, 20, 2))
    assert new.stroke.width == 1.0
    assert new.text[0].content[0].look == Look(size=10.0, shift=1.0)
    styles = computed_paragraphs(half.paragraph_styles)
    assert (styles["body"].size, styles["body"].leading) == (5.0, 7.0)
    assert half.setup.margins == Margins(top=25.0, bottom=35.0, inside=20.0, outside=30.0)
    bare = resize(publication, trim=Size(W / 2, H / 2), items="scale")
    assert bare.paragraph_styles == publication.paragraph_styles
    assert all_pages(bare)[0].items[0].text == text


def test_they_stay_at_the_spine_and_the_head():
    both = with_items(with_items(plain(), shape(40, 50, 90, 90)), shape(300, 50, 80, 90), page=1)
    after = resize(both, trim=Size(400.0, H), items="stay")
    assert box(after)[0] == 40 and box(after, 1)[0] == 280
    assert after.setup.margins == MARGINS


# -- bad input -------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"trim": Size(0.0, 300.0)}, "Width 0 mm"),
        ({"trim": Size(300.0, 28_346.0)}, "Height 9999.839 mm"),
        ({"trim": Size(90.0, 300.0)}, "leave no room"),
        ({"trim": Size(float("nan"), 300.0)}, "Width"),
        ({"bleed": 3000.0}, "Bleed"),
        ({"bleed": -1.0}, "Bleed"),
        ({"trim": Size(500.0, 300.0), "items": "melt"}, "melt"),
        ({"trim": Size(500.0, 300.0), "margins": {"": "Elevenths"}}, "Elevenths"),
        ({"trim": Size(500.0, 300.0), "items": "scale", "factor": 0.0}, "factor"),
    ],
)
def test_what_can_not_be_is_refused(changes, said):
    with pytest.raises(Refusal, match=said):
        resize(plain(), **changes)


# -- against a naive oracle, on random publications -------------------------------------------

places = st.floats(-40, 640).map(lambda v: round(v, 2))
sizes = st.one_of(
    st.floats(0, 500).map(lambda v: round(v, 2)), st.sampled_from([320.0, 150.0, 420.0, 437.0])
)
xs = st.one_of(places, st.sampled_from([0.0, 40.0, -BLEED, 210.0, 360.0, 46.0]))


@st.composite
def things(draw, number: int):
    kind = draw(st.sampled_from([Shape, TextFrame, PictureFrame, Line]))
    turned = draw(st.sampled_from([0.0, 0.0, 0.0, 90.0, 180.0, 17.0, -90.0]))
    x, y, width = draw(xs), draw(xs), draw(sizes)
    height = 0.0 if kind is Line else draw(sizes)
    return kind(
        id=f"item-{number}", x=x, y=y, width=width, height=height, rotation=turned,
        face=draw(st.sampled_from(["both", "both", "verso", "recto"])),
        placing=draw(st.sampled_from(["mirrored", "mirrored", "repeated"])),
        group=draw(st.sampled_from([None, None, "group-1"])),
    )  # fmt: skip


@st.composite
def changed(draw, ids: list[str]):
    item = draw(st.sampled_from(ids))
    made = {}
    for name, values in (("x", xs), ("y", xs), ("width", sizes), ("opacity", st.just(0.5))):
        if draw(st.booleans()):
            made[name] = draw(values)
    return Override(item=item, **made)


@st.composite
def publications(draw):
    setup = replace(SETUP, facing=draw(st.booleans()), columns=Columns(draw(st.integers(1, 3)), 20))
    made = new_publication("Random", setup, 4)
    made, derived = add_master(made, "Derived", made.masters[0].id)
    numbers = iter(range(700, 900))
    on_base = [draw(things(next(numbers))) for _ in range(draw(st.integers(0, 2)))]
    on_derived = [draw(things(next(numbers))) for _ in range(draw(st.integers(0, 1)))]
    guides = tuple(
        Guide(draw(st.sampled_from(["vertical", "horizontal"])), draw(places))
        for _ in range(draw(st.integers(0, 2)))
    )
    base = replace(made.masters[0], items=tuple(on_base))
    own = tuple([draw(changed([i.id for i in on_base]))] if on_base and draw(st.booleans()) else [])
    second = replace(
        made.masters[1], items=tuple(on_derived), overrides=own, guides=guides or None,
        margins=draw(st.sampled_from([None, Margins(top=20, bottom=33, inside=25, outside=61)])),
    )  # fmt: skip
    made = replace(made, masters=(base, second), next_id=1000)
    made = apply_masters(made, [p.id for p in all_pages(made)[1:4]], (derived,), "replace")
    ids = [i.id for i in (*on_base, *on_derived)]
    pages = []
    for page in made.sections[0].pages:
        items = tuple(draw(things(next(numbers))) for _ in range(draw(st.integers(0, 1))))
        over = (draw(changed(ids)),) if ids and draw(st.booleans()) else ()
        pages.append(replace(page, items=items, overrides=over))
    return check(replace(made, sections=(replace(made.sections[0], pages=tuple(pages)),)))


alike = st.builds(
    lambda f, g: Size(round(W * f), round(H * f * g)), st.floats(0.5, 2), st.floats(0.97, 1.03)
)
trims = st.builds(Size, st.integers(180, 900).map(float), st.integers(180, 900).map(float))


def geometry(publication: Publication) -> dict[str, tuple[float, ...]]:
    """Everything that lies anywhere, by what it is."""
    found = {}
    for holder in (*publication.masters, *all_pages(publication)):
        for item in holder.items:
            found[item.id] = (item.x, item.y, item.width, item.height, item.rotation)
        for n, guide in enumerate(getattr(holder, "guides", None) or ()):
            found[f"{holder.id} guide {n}"] = (guide.position,)
        for o in holder.overrides:
            said = (o.x, o.y, o.width, o.height)
            found[f"{holder.id} {o.item}"] = tuple(v for v in said if isinstance(v, float))
        margins = getattr(holder, "margins", None)
        if margins is not None:
            found[f"{holder.id} margins"] = tuple(
                getattr(margins, n) for n in margins.__struct_fields__
            )
    return found  # fmt: skip


def told(publication: Publication) -> object:
    """What must not change: masters, stacks, order, what overrides name, everything but place."""
    return [
        (h.id, [i.id for i in h.items], [(o.item, o.opacity) for o in h.overrides],
         getattr(h, "masters", None), getattr(h, "base", None))
        for h in (*publication.masters, *all_pages(publication))
    ]  # fmt: skip


def overridden(publication: Publication, holder: object, override: Override):
    """The item as an override leaves it, whether it is seen there or sleeps."""
    known = {i.id: i for m in publication.masters for i in m.items}
    item = known[override.item]
    derived = publication.masters[1]
    if holder is not derived and derived.id in (getattr(holder, "masters", None) or ()):
        for other in derived.overrides:
            if other.item == item.id:
                item = replace(item, **changed_properties(other))
    return replace(item, **changed_properties(override))


def holds_of(before: Publication, after: Publication) -> list[object]:
    """By which lines everything is held, as the size changes from one to the other: which lines
    by their number, and what stands together."""

    laid = relaid(before, after.setup)
    found: list[object] = []

    def number(along: Axis, line: object) -> int | None:
        return None if line is None else along.lines.index(line)

    def look(items, both):
        bounds = [bounds_of(Box(i.x, i.y, i.width, i.height, i.rotation)) for i in items]
        for n in (0, 1):
            for b in bounds:
                ends = (b.left, b.right) if n == 0 else (b.top, b.bottom)
                held = hold(*ends, both[n])
                room = [
                    low.old - 0.01 <= ends[0] and ends[1] <= high.old + 0.01
                    for low, high in itertools.pairwise(both[n].stops)
                ]
                found.append((number(both[n], held.low), number(both[n], held.high),
                              held.centre is None, room))  # fmt: skip
            places = [place_of(item, b, both[n], n) for item, b in zip(items, bounds, strict=True)]
            found.append([(p.goes, p.gives) for p in places])
            for row in rows(items, places, n):
                found.append(row)
                ends = places[row[0]].low, places[row[-1]].high
                held = hold(*ends, both[n])
                found.append((number(both[n], held.low), number(both[n], held.high)))
                for k in row:
                    places[k] = places[k]._replace(goes="")
            together = [c for c in clusters(items, bounds, places, n) if len(c) > 1]
            found.append(sorted(map(sorted, together)))
            for c in together:
                low = min(places[k].ends[0] for k in c)
                high = max(places[k].ends[1] for k in c)
                held = hold(low, high, both[n])
                found.append((number(both[n], held.low), number(both[n], held.high),
                              held.centre is None))  # fmt: skip

    for master in before.masters:
        pair = master_layout(before, master.id), master_layout(laid, master.id)
        for side in ("recto", "verso"):
            look(master.items, axes(before.setup, pair[0], after.setup, pair[1], side))
    for page in all_pages(before):
        pair = page_layout(before, page), page_layout(laid, page)
        side = side_of(positions(before)[page.id], before.setup)
        look(page.items, axes(before.setup, pair[0], after.setup, pair[1], side))
        for o in page.overrides:
            look(
                [overridden(before, page, o)],
                axes(before.setup, pair[0], after.setup, pair[1], "recto"),
            )
    for master in before.masters:
        pair = master_layout(before, master.id), master_layout(laid, master.id)
        bare = axes(before.setup, pair[0], after.setup, pair[1], "recto", guided=False)
        for guide in master.guides or ():
            along = bare[guide.axis == "horizontal"]
            held = hold(guide.position, guide.position, along)
            found.append((number(along, held.low), number(along, held.high), held.centre is None))
        for o in master.overrides:
            look(
                [overridden(before, master, o)],
                axes(before.setup, pair[0], after.setup, pair[1], "recto"),
            )
    return found


@settings(max_examples=80, deadline=None, phases=QUICK)
@given(publications(), trims, st.sampled_from(["follow", "scale", "stay"]), st.booleans())
def test_nothing_changes_but_where_it_lies(publication, trim, how, type_too):
    try:
        after = resize(publication, trim=trim, items=how, type_too=type_too)
    except Refusal:
        assume(False)
    size = NewSize(trim, None, how, None, type_too)
    some = resize_pages(publication, size, ["page-3", "page-4"])
    assert some.masters == after.masters and all_pages(some)[:2] == all_pages(after)[:2]
    assert told(after) == told(publication) and problems(after) == []
    was = replace(publication.setup, trim=trim, margins=MARGINS, columns=Columns())
    assert replace(after.setup, margins=MARGINS, columns=Columns()) == was
    if publication.setup.facing:  # R3, to a thousandth of a point
        for master in after.masters:
            for item in master.items:
                right = shown_on(_carried(item), "recto", after.setup)
                left = shown_on(_carried(item), "verso", after.setup)
                if item.placing == "mirrored":
                    assert left.x == pytest.approx(trim.width - right.x - right.width, abs=1e-3)


def _carried(item):
    return Resolved(item, "master")


@settings(max_examples=80, deadline=None, phases=QUICK)
@given(publications(), trims)
def test_faces_of_pages_are_mirror_images_too(publication, trim):
    """The same things on a recto and, mirrored, on a verso."""
    assume(publication.setup.facing)
    items = tuple(replace(i, placing="mirrored") for i in all_pages(publication)[0].items)
    from hidden_frame.model.plane.mirror import mirrored

    pages = list(publication.sections[0].pages)
    pages[2] = replace(
        pages[2], items=tuple(replace(i, id=f"item-95{n}") for n, i in enumerate(items))
    )
    pages[1] = replace(
        pages[1],
        items=tuple(mirrored(replace(i, id=f"item-96{n}"), W) for n, i in enumerate(items)),
    )
    publication = replace(
        publication, sections=(replace(publication.sections[0], pages=tuple(pages)),)
    )
    try:
        after = all_pages(resize(publication, trim=trim))
    except Refusal:
        assume(False)
    for right, left in zip(after[2].items, after[1].items, strict=True):
        assert left.x == pytest.approx(trim.width - right.x - right.width, abs=1e-3)
        assert (left.y, left.width, left.height) == pytest.approx(
            (right.y, right.width, right.height)
        )


@settings(max_examples=60, deadline=None, phases=QUICK)
@given(publications(), trims)
def test_there_and_back_is_where_it_was(publication, trim):
    try:
        there = resize(publication, trim=trim)
        back = resize(there, trim=publication.setup.trim)
    except Refusal:
        assume(False)
    # What met another line, or other things, on the way lies on those now.
    assume(holds_of(publication, there) == holds_of(there, publication))
    was, now = geometry(publication), geometry(back)
    assert was.keys() == now.keys()
    between = geometry(there)
    for name, values in was.items():
        assert now[name] == pytest.approx(values, abs=1e-6), (name, values, between[name])
    assert told(back) == told(publication)


@settings(max_examples=60, deadline=None, phases=QUICK)
@given(publications(), alike, st.booleans())
def test_scaled_there_and_back_is_where_it_was(publication, trim, type_too):
    try:
        there = resize(publication, trim=trim, items="scale", type_too=type_too)
        back = resize(there, trim=publication.setup.trim, items="scale", type_too=type_too)
    except Refusal:
        assume(False)
    narrow = (there.setup.margins, *(m.margins for m in there.masters if m.margins))
    assume(all(min(m.top, m.bottom, m.inside, m.outside) > 0 for m in narrow))
    assume(not cut(publication, there))
    was, now = geometry(publication), geometry(back)
    between = geometry(there)
    for name, values in was.items():
        assert now[name] == pytest.approx(values, abs=1e-6), (name, values, between[name])
    for name, style in computed_paragraphs(publication.paragraph_styles).items():
        other = computed_paragraphs(back.paragraph_styles)[name]
        assert other.size == pytest.approx(style.size) and other.leading == pytest.approx(
            style.leading
        )


def cut(before: Publication, after: Publication) -> bool:
    """Whether something inside of the page lies outside of it, or on its edge, afterwards."""

    def inside(publication: Publication) -> list[bool]:
        trim = publication.setup.trim
        found = []
        for holder in (*publication.masters, *all_pages(publication)):
            known = {i.id: i for m in publication.masters for i in m.items}
            over = [replace(known[o.item], **changed_properties(o)) for o in holder.overrides]
            for guide in getattr(holder, "guides", None) or ():
                length = trim.height if guide.axis == "horizontal" else trim.width
                found.append(0.1 < guide.position < length - 0.1)
            for i in (*holder.items, *over):
                b = bounds_of(Box(i.x, i.y, i.width, i.height, i.rotation))
                found += [0.1 < x < trim.width - 0.1 for x in (b.left, b.right)]
                found += [0.1 < y < trim.height - 0.1 for y in (b.top, b.bottom)]
        return found

    return inside(before) != inside(after)


def spread_out(x: float, stops) -> float:
    """Where a point goes between edges and margins."""
    for low, high in itertools.pairwise(stops):
        if low[0] <= x <= high[0]:
            was, will = high[0] - low[0], high[1] - low[1]
            third = min(was, will) / 3
            if x <= low[0] + third:
                return low[1] + x - low[0]
            if x >= high[0] - third:
                return high[1] + x - high[0]
            share = (x - low[0] - third) / (was - 2 * third)
            return low[1] + third + share * (will - 2 * third)
    raise AssertionError(x)


def naive(a: float, b: float, lines: list[tuple[float, float]], centres, stops, outer):
    """The rule for one rectangle by itself, as it is said: written down once more, in haste."""
    line_a = min(lines, key=lambda line: (abs(line[0] - a), line))
    line_b = min(lines, key=lambda line: (abs(line[0] - b), line))
    from_a, from_b = abs(line_a[0] - a), abs(line_b[0] - b)
    on, near = 0.01, 12.0
    exact = from_a <= on and from_b <= on
    close = from_a <= near and from_b <= near and b - a > 24
    if line_a[0] < line_b[0] and (exact or close):
        return a + line_a[1] - line_a[0], b + line_b[1] - line_b[0]
    if from_a > on and from_b > on:
        for low, high in centres:
            if abs((a + b) - (low[0] + high[0])) < 0.02:
                middle = (low[1] + high[1]) / 2
                return middle - (b - a) / 2, middle + (b - a) / 2
    by_a = from_a <= from_b
    if min(from_a, from_b) <= near:
        way = (line_a[1] - line_a[0]) if by_a else (line_b[1] - line_b[0])
        if (line_a if by_a else line_b) in [*stops, *outer]:  # the other edge gives
            ends = (a + way, spread_out(b, stops)) if by_a else (spread_out(a, stops), b + way)
            return min(ends), max(ends)
        return a + way, b + way
    if b - a > min(centres[1][1][0] - centres[1][0][0], centres[1][1][1] - centres[1][0][1]) / 3:
        return spread_out(a, stops), spread_out(b, stops)
    start = spread_out(a, stops)
    for x, y in [*itertools.pairwise(stops), (stops[0], stops[-1])]:
        if x[0] <= a and b <= y[0]:
            if b - a <= y[1] - x[1]:
                start = max(x[1], min(start, y[1] - (b - a)))
            break
    return start, start + b - a


@settings(max_examples=200, deadline=None, phases=QUICK)
@given(
    st.integers(1, 419).map(float), st.integers(1, 599).map(float), st.data(), trims,
    st.integers(1, 3),
)  # fmt: skip
def test_one_thing_against_the_rule_written_down_again(x, y, data, trim, columns):
    width = data.draw(st.integers(0, int(W - x - 1)), "width")
    height = data.draw(st.integers(0, int(H - y - 1)), "height")
    publication = plain(facing=False, columns=Columns(columns, 20.0))
    publication = with_items(publication, shape(x, y, width, height))
    try:
        after = resize(publication, trim=trim)
    except Refusal:
        assume(False)

    def lines(length, new, low, high, columns=1):
        ends = [(0.0, 0.0), (low, low), (length - high, new - high), (length, new)]
        old_w, new_w = length - low - high, new - low - high
        inner = []
        for n in range(columns if columns > 1 else 0):
            w = [(each - 20 * (columns - 1)) / columns for each in (old_w, new_w)]
            start = low + n * (w[0] + 20), low + n * (w[1] + 20)
            inner += [start, (start[0] + w[0], start[1] + w[1])]
        outer = [(-BLEED, -BLEED), (length + BLEED, new + BLEED)]
        return ends, [*ends, *inner, *outer], [(ends[0], ends[3]), (ends[1], ends[2])], outer

    wanted = []
    for a, size, (ends, held, centres, outer) in (
        (x, width, lines(W, trim.width, 40.0, 60.0, columns)),
        (y, height, lines(H, trim.height, 50.0, 70.0)),
    ):
        assume(a > 0 and a + size < ends[3][0])  # nothing in the bleed
        wanted.append(naive(a, a + size, held, centres, ends, outer))
    (left, right), (top, bottom) = wanted
    assert box(after) == pytest.approx(
        (left, top, max(right - left, 0), max(bottom - top, 0)), abs=2e-3
    )


def test_an_override_that_sleeps_moves_by_the_same_rule():
    """R11: on a page that does not follow the item's master, or whose item is gone."""
    publication = plain()
    master = replace(publication.masters[0], items=(shape(360, 560, 20, 12),))
    publication = replace(publication, masters=(master,), next_id=1000)
    item = master.items[0].id
    page = all_pages(publication)[0].id
    publication = apply_masters(publication, [page], (), "replace")
    pages = list(publication.sections[0].pages)
    pages[0] = replace(
        pages[0], overrides=(Override(item=item, x=340.0), Override(item="item-1", x=410.0))
    )
    publication = replace(
        publication, sections=(replace(publication.sections[0], pages=tuple(pages)),)
    )
    after = find_page(resize(publication, trim=Size(500.0, H)), page)
    assert [o.x for o in after.overrides] == [420.0, 490.0]


def test_what_would_come_of_it_is_known_bit_by_bit():
    """Nothing is said before anything is known; then ever more, and in the end all of it."""
    publication = new_publication("Long", SETUP, 40)
    for n, page in enumerate(all_pages(publication)):
        text = (Paragraph("body", (Run("the lantern was lit at dusk " * 30),)),)
        frame = TextFrame(id="", x=40, y=50, width=320, height=160 + 10 * (n % 3), text=text)
        publication, _ = add_item(publication, page.id, frame)
    composer = Composer()
    small = resize(publication, trim=Size(280.0, H))
    told = list(telling(publication, small, composer, ()))
    first = told.index(next(t for t in told if t is not None))
    counts = [len(t.faults) for t in told[first:]]
    assert 0 < first < len(told) and counts == sorted(counts) and len(set(counts)) > 2
    came = came_of(publication, small, composer, ())
    assert came.sentence == f"{counts[-1]} texts do not fit any more."
    assert came_of(publication, publication, composer, ()).faults == ()
