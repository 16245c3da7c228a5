"""What is taken into the history can be saved, and opens again as it was: any edit, any number."""

from __future__ import annotations

import math

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.edit.about import set_detail, set_title
from hidden_frame.edit.carry.items import copied, pasted
from hidden_frame.edit.carry.masters import masters_copied, masters_pasted
from hidden_frame.edit.carry.pages import pages_copied, pages_pasted
from hidden_frame.edit.change import change_holder
from hidden_frame.edit.history import History, record
from hidden_frame.edit.items.draw import add_item, change_items, remove_items, repeat_items
from hidden_frame.edit.items.guides import add_guide
from hidden_frame.edit.looks.colours import add_colour, delete_colour
from hidden_frame.edit.looks.layers import delete_layer
from hidden_frame.edit.looks.styles import put_character_style, put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, delete_master, set_page_layout
from hidden_frame.edit.masters.overrides import override
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import change_numbering, rename_section
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.edit.text.write import insert, set_look
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Crop, Grid, Guide, Margins, Size
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import Around, Insets, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Numbering, Page, Setup
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle
from hidden_frame.model.text import Paragraph, TabStop
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.valid import check_change, limits
from hidden_frame.storage.format import from_bytes, load, save

numbers = st.one_of(
    st.floats(),
    st.floats(-500, 3_000),
    st.sampled_from([0, -1, 1, 2_000, 2_001, 3_000, 1e6, -1e6, 999_999, math.nan, math.inf]),
)
names = st.text(max_size=50)


def base():
    publication = new_publication("B", Setup(trim=TRIMS["A5"]), 4)
    publication, derived = add_master(publication, "D", publication.masters[0].id)
    text = (Paragraph("body"),)
    frame = TextFrame(id="", x=20, y=20, width=90, height=40, text=text)
    publication, item = add_item(publication, publication.masters[0].id, frame)
    publication, _ = add_item(publication, all_pages(publication)[1].id, frame)
    # Overrides of what is gone: one sleeps on a page, one on a derived master.
    publication, gone = add_item(publication, publication.masters[0].id, frame)
    publication = override(publication, derived, gone, x=5.0)
    publication = override(publication, all_pages(publication)[2].id, item, x=5.0)
    master = publication.masters[0]
    kept = tuple(i for i in master.items if i.id != gone)
    return replace(publication, masters=(replace(master, items=kept), *publication.masters[1:]))


BASE = base()
OTHER = base()
PAGE, SECOND = (p.id for p in all_pages(BASE)[:2])
MASTER, DERIVED = (m.id for m in BASE.masters[:2])
OWN = all_pages(BASE)[1].items[0].id
CARRIED = BASE.masters[0].items[0].id

item_changes = st.fixed_dictionaries(
    {},
    optional={
        "x": numbers, "y": numbers, "width": numbers, "height": numbers, "rotation": numbers,
        "opacity": numbers, "gutter": numbers, "radius": numbers, "inset": numbers,
        "columns": st.integers(-3, 60),
        "stroke": st.builds(Stroke, colour=st.sampled_from(["ink", "none"]), width=numbers,
                            tint=numbers),
        "fill": st.builds(Fill, st.sampled_from(["ink", "gone"]), numbers, numbers),
        "around": st.builds(Around, offset=numbers),
        "layer": st.sampled_from(["content", "gone"]),
    },
)  # fmt: skip
style_changes = st.fixed_dictionaries(
    {},
    optional={
        "size": numbers, "leading": numbers, "tracking": numbers, "tint": numbers,
        "space_before": numbers, "indent_first": numbers, "name": names,
        "colour": st.sampled_from(["ink", "gone"]),
        "language": st.sampled_from(["de", "en_GB", "", "x" * 30, None]),
        "tabs": st.builds(TabStop, numbers, leader=st.text(max_size=6)).map(lambda t: (t,)),
    },
)  # fmt: skip
EDITS = {
    "item": lambda p, d: change_items(p, SECOND, {OWN: d.draw(item_changes)}),
    "master item": lambda p, d: change_items(p, MASTER, {CARRIED: d.draw(item_changes)}),
    "override": lambda p, d: override(p, PAGE, CARRIED, **d.draw(item_changes)),
    "insets": lambda p, d: change_items(p, SECOND, {OWN: {"inset": Insets(top=d.draw(numbers))}}),
    "style": lambda p, d: put_paragraph_style(
        p, replace(p.paragraph_styles[0], **d.draw(style_changes))
    ),
    "new style": lambda p, d: put_paragraph_style(
        p, ParagraphStyle(id="new", name="New", size=d.draw(numbers))
    ),
    "character style": lambda p, d: put_character_style(
        p, CharacterStyle(id="c", name=d.draw(names), size=d.draw(numbers))
    ),
    "look": lambda p, d: change_items(
        p, SECOND, {OWN: {"text": set_look(
            insert((Paragraph("body"),), (0, 0), "abc")[0], (0, 0), (0, 2), size=d.draw(numbers),
            tracking=d.draw(numbers))}}
    ),
    "repeat": lambda p, d: repeat_items(
        p, SECOND, [OWN], d.draw(st.integers(0, 30)), d.draw(numbers), d.draw(numbers))[0],
    "guide": lambda p, d: add_guide(p, SECOND, Guide("vertical", d.draw(numbers))),
    "margins": lambda p, d: set_page_layout(
        p, DERIVED, margins=Margins(top=d.draw(numbers), inside=d.draw(numbers))),
    "grid": lambda p, d: set_page_layout(p, MASTER, grid=Grid(d.draw(numbers), d.draw(numbers))),
    "setup": lambda p, d: change_setup(p, bleed=d.draw(numbers)),
    "trim": lambda p, d: change_setup(p, trim=Size(d.draw(numbers), d.draw(numbers))),
    "numbering": lambda p, d: change_numbering(
        p, p.sections[0].id, Numbering(start=d.draw(st.integers(-5, 10**7)), prefix=d.draw(names))),
    "section name": lambda p, d: rename_section(p, p.sections[0].id, d.draw(names)),
    "title": lambda p, d: set_title(p, d.draw(names)),
    "detail": lambda p, d: set_detail(p, d.draw(names), d.draw(names)),
    "crop": lambda p, d: add_item(p, PAGE, PictureFrame(
        id="", x=0, y=0, width=9, height=9, fit="free",
        crop=Crop(d.draw(numbers), 0.0, d.draw(numbers))))[0],
    "colour": lambda p, d: add_colour(p, d.draw(names), "rgb", (d.draw(numbers),) * 3)[0],
    "colour gone": lambda p, d: delete_colour(p, "ochre", "ink"),
    "layer gone": lambda p, d: delete_layer(p, d.draw(st.sampled_from(["above", "content"]))),
    "master gone": lambda p, d: delete_master(p, DERIVED, None),
    "item gone": lambda p, d: remove_items(p, MASTER, [CARRIED]),
    "add": lambda p, d: add_item(
        p, PAGE, Shape(id="", x=d.draw(numbers), y=0, width=d.draw(numbers), height=5))[0],
    "paste": lambda p, d: pasted(
        p, PAGE, copied(OTHER, all_pages(OTHER)[1].items), d.draw(numbers), d.draw(numbers))[0],
    "paste odd": lambda p, d: pasted(
        p, PAGE, copied(OTHER, [replace(all_pages(OTHER)[1].items[0], **d.draw(item_changes))]))[0],
    "paste masters": lambda p, d: masters_pasted(p, masters_copied(OTHER, [DERIVED]))[0],
    "paste pages": lambda p, d: pages_pasted(
        p, pages_copied(OTHER, [x.id for x in all_pages(OTHER)]), p.sections[0].id, 0)[0],
}  # fmt: skip


@settings(max_examples=400)
@given(st.lists(st.sampled_from(sorted(EDITS)), min_size=1, max_size=5), st.data())
def test_what_is_taken_into_the_history_opens_as_it_was(edits, data):
    history = History.of(BASE)
    for name in edits:
        try:
            history = record(history, EDITS[name](history.now, data), name)
        except (Refusal, KeyError, TypeError) as error:
            # An edit that meets what is not there raises, and nothing is recorded.
            if isinstance(error, Refusal):
                assert str(error).endswith(".")
            continue
        opened = from_bytes(to_bytes(history.now, {}), "a").publication
        assert opened == history.now


def _a_page_more(publication, data):
    """Raw, not through an edit: with ids that may be anybody's, and a next one that may not be."""
    section = publication.sections[0]
    number = publication.next_id + data.draw(st.integers(-3, 2))
    known = [i.id for p in all_pages(publication) for i in p.items]
    known += [p.id for p in all_pages(publication)]
    taken = st.sampled_from(known) if known else st.nothing()
    names = st.just(f"page-{number}") | st.just(f"page-{number + 1}") | taken
    shapes = [Shape(id=data.draw(names), x=0, y=0, width=9, height=9)
              for _ in range(data.draw(st.integers(0, 2)))]  # fmt: skip
    page = Page(id=data.draw(names), items=tuple(shapes))
    at = data.draw(st.integers(0, len(section.pages)))
    return replace(
        publication, next_id=number + data.draw(st.integers(0, 2)),
        sections=(replace(section, pages=(*section.pages[:at], page, *section.pages[at:])),
                  *publication.sections[1:]),
    )  # fmt: skip


def _a_page_twice(publication, data):
    section = publication.sections[0]
    page = data.draw(st.sampled_from(section.pages)) if section.pages else None
    pages = (*section.pages, page) if page is not None else ()
    return replace(publication, sections=(replace(section, pages=pages), *publication.sections[1:]))


def _pages_fewer(publication, data):
    none = data.draw(st.booleans())

    def kept(pages):
        return tuple(p for p in pages if not none and data.draw(st.booleans()))

    return replace(
        publication, next_id=publication.next_id - data.draw(st.integers(0, 9)),
        sections=tuple(replace(s, pages=kept(s.pages)) for s in publication.sections),
    )  # fmt: skip


@settings(max_examples=200)
@given(st.sampled_from([_a_page_more, _a_page_twice, _pages_fewer]), st.data())
def test_a_change_of_pages_is_refused_exactly_where_a_file_would_be(change, data):
    """What is asked of a change alone against all that is asked of a whole publication."""
    publication, _ = add_item(BASE, all_pages(BASE)[1].id,
                              Shape(id="", x=0, y=0, width=5, height=5))  # fmt: skip
    after = change(publication, data)
    try:
        check_change(publication, after)
        refused = False
    except Refusal:
        refused = True
    assert refused == bool(problems(after))


def test_masters_brought_in_again_are_known_though_an_override_sleeps():
    parcel = masters_copied(OTHER, [DERIVED])
    once, first = masters_pasted(new_publication("N", Setup(trim=TRIMS["A5"]), 2), parcel)
    twice, second = masters_pasted(once, parcel)
    assert first == second and len(twice.masters) == len(once.masters)


def test_a_sleeping_override_never_meets_the_id_of_a_pasted_item():
    publication = new_publication("N", Setup(trim=TRIMS["A5"]), 2)
    publication, _ = masters_pasted(publication, masters_copied(OTHER, [DERIVED]))
    for _ in range(12):
        publication, _ = add_item(publication, publication.masters[-1].id,
                                  Shape(id="", x=0, y=0, width=5, height=5))  # fmt: skip
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda p: put_paragraph_style(p, replace(p.paragraph_styles[0], size=3_000.0)),
         "“Body”: size is 3000; it must be at most 2000."),
        (lambda p: change_items(p, SECOND, {OWN: {"x": math.nan}}), "x"),
        (lambda p: repeat_items(p, SECOND, [OWN], 5, 400_000.0, 0.0)[0], "not on any page"),
        (lambda p: change_setup(p, bleed=math.inf), "bleed"),
    ],
)  # fmt: skip
def test_what_is_beyond_a_limit_is_said_with_its_place(change, says):
    with pytest.raises(Refusal) as refusal:
        check_change(BASE, change(BASE))
    assert says in str(refusal.value)


def test_the_limits_of_fields_are_the_models():
    assert limits(ParagraphStyle, "size") == (0, 2000)
    assert limits(CharacterStyle, "tracking") == (-500, 2000)
    assert limits(ParagraphStyle, "indent_first") == (None, None)


def test_a_save_of_what_could_not_be_opened_leaves_the_old_file(tmp_path):
    path = tmp_path / "a.hframe"
    save(path, BASE, {})
    wrong = replace(BASE, setup=replace(BASE.setup, bleed=5_000.0))
    with pytest.raises(Refusal, match="bleed"):
        save(path, wrong, {})
    assert load(path).publication == BASE


def test_an_id_that_is_used_twice_is_refused_however_it_came():
    """New items are looked at by their numbers alone; one that was not given just now is not
    taken for new."""
    page = all_pages(BASE)[1]
    for wrong in (CARRIED, page.items[0].id, "item-99999"):
        item = replace(page.items[0], id=wrong)
        changed = change_holder(BASE, PAGE, lambda p, i=item: replace(p, items=(*p.items, i)))
        changed = replace(changed, next_id=BASE.next_id + 1)
        with pytest.raises(Refusal, match="id “"):
            record(History.of(BASE), changed, "wrong")
    made, first = add_item(BASE, PAGE, page.items[0])
    twice = change_holder(made, SECOND, lambda p: replace(p, items=(*p.items, replace(
        page.items[0], id=first))))  # fmt: skip
    with pytest.raises(Refusal, match="used for 2 things"):
        record(History.of(BASE), twice, "wrong")
