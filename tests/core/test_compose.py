"""What pages show, and that unchanged pages are not composed again."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.followers import followers
from hidden_frame.edit.about import set_detail
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.pages.order import add_pages, move_pages, set_blind
from hidden_frame.edit.pages.sections import change_numbering
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Numbering
from hidden_frame.model.text import Marker, Paragraph, Run


def foot(*content):
    text = (Paragraph("folio", content),)
    return TextFrame(id="", x=300, y=540, width=90, height=16, text=text)


def with_folios(publication):
    master = publication.masters[0].id
    publication, _ = add_item(publication, master, foot(Run("Page "), Marker("folio")))
    return publication


def texts(publication):
    return [scene.text_of() for scene in Composer().compose(publication).scenes()]


def test_markers_show_values_on_pages_and_labels_on_the_master(small):
    publication = set_detail(with_folios(small), "Issue", "7")
    master = publication.masters[0].id
    item = foot(Marker("page count"), Run(" "), Marker("detail", "Issue"))
    publication, _ = add_item(publication, master, replace(item, y=500))
    assert texts(publication)[2] == ["Page 3", "8 7"]
    scene = Composer().compose(publication).master_scene(master, "recto")
    assert scene.text_of() == ["Page Folio", "Page count Issue"]
    assert texts(set_detail(publication, "Issue", "8"))[0] == ["Page 1", "8 8"]


def test_inside_and_outside_resolve_by_side(small):
    composition = Composer().compose(with_folios(small))
    pages = list(composition.facts)
    runs = {}
    for page in pages[1:3]:
        (placed,) = composition.scene(page).placed
        (line,) = placed.drawing.text.text.lines
        runs[composition.facts[page].side] = (line.left, line.right, placed.matrix.e)
    assert runs["verso"][0] == 0 and runs["recto"][1] == 90
    width = small.setup.trim.width
    assert runs["verso"][2] == width - 300 - 90 and runs["recto"][2] == 300


def test_a_blind_folio_and_a_section_without_numbers_hide_the_whole_item(small):
    publication = with_folios(small)
    first = all_pages(publication)[0].id
    assert texts(set_blind(publication, [first], True))[:2] == [[], ["Page 2"]]
    section = publication.sections[0].id
    none = change_numbering(publication, section, Numbering(style="none"))
    assert texts(none) == [[]] * 8


def test_only_what_an_edit_touched_is_composed_again(small):
    composer = Composer()
    publication = with_folios(small)
    before = composer.compose(publication).scenes()
    made = composer.composed
    page = all_pages(publication)[3].id
    edited, item = add_item(publication, page, Shape(id="", x=1, y=1, width=9, height=9))
    after = composer.compose(edited).scenes()
    assert composer.composed == made + 1
    assert [a is b for a, b in zip(after, before, strict=True)].count(False) == 1
    moved = change_items(edited, page, {item: {"x": 50.0}})
    scene = composer.compose(moved).scene(page)
    assert scene.placed[-1].matrix.e == 50.0


def test_pages_that_keep_their_folio_are_not_composed_again_when_others_come(small):
    composer = Composer()
    publication = with_folios(small)
    composer.compose(publication).scenes()
    made = composer.composed
    longer, _ = add_pages(publication, publication.sections[0].id, 4, 2)
    composer.compose(longer).scenes()
    assert composer.composed == made + 6  # two new ones, and four with another folio


def test_a_page_that_changes_sides_shows_the_other_face(small):
    publication = with_folios(small)
    page = all_pages(publication)[1].id
    moved = move_pages(publication, [page], publication.sections[0].id, 4)
    before = Composer().compose(publication).scene(page)
    after = Composer().compose(moved).scene(page)
    assert (before.side, after.side) == ("verso", "verso")
    third = all_pages(publication)[2].id
    assert Composer().compose(publication).scene(third).side == "recto"
    assert Composer().compose(moved).scene(third).side == "verso"


def test_layers_span_masters_and_pages(small):
    publication, top = add_master(small, "Seal")
    seal = Shape(id="", x=0, y=0, width=9, height=9, layer="above", fill=Fill("ink"))
    publication, seal_id = add_item(publication, top, seal)
    page = all_pages(publication)[0].id
    publication = apply_masters(publication, [page], (top,), "add")
    own = Shape(id="", x=0, y=0, width=99, height=99, fill=Fill("ochre"))
    publication, own_id = add_item(publication, page, own)
    scene = Composer().compose(publication).scene(page)
    assert [p.item_id for p in scene.placed] == [own_id, seal_id]
    layers = tuple(
        replace(layer, visible=False) if layer.id == "above" else layer
        for layer in publication.layers
    )
    hidden = replace(publication, layers=layers)
    assert [p.item_id for p in Composer().compose(hidden).scene(page).placed] == [own_id]


def test_followers_count_through_bases(small):
    base = small.masters[0].id
    publication, derived = add_master(small, "Derived", base)
    pages = [p.id for p in all_pages(publication)]
    publication = apply_masters(publication, pages[:3], (derived,))
    counts = {m: len(f) for m, f in followers(publication).items()}
    assert counts == {base: 8, derived: 3}
