"""Items over the spine: whole on both pages, in order, and told where pages part."""

from __future__ import annotations

import random

import numpy as np
import pypdfium2 as pdfium
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from test_pictures import bytes_of, gradient

from hidden_frame.checks.content import content_findings
from hidden_frame.checks.findings import findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.contrast import poor_texts
from hidden_frame.demo.book import long_book
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.looks.layers import add_layer
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import delete_pages, move_pages
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.interact.hands.halves import in_halves, reaching
from hidden_frame.interact.words.foretold import foretell, gone_on, halved, kept_together
from hidden_frame.model.geometry import Crop, Size
from hidden_frame.model.items import Around, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.pictures import picture_from_bytes

W, H = 200.0, 150.0


def spreads(pages=6, bleed=0.0, facing=True):
    return new_publication("Across", Setup(trim=Size(W, H), bleed=bleed, facing=facing), pages)


def ids(publication):
    return [page.id for page in all_pages(publication)]


def rendered(publication, pages, blobs=()):
    """Pages beside each other as PDFium paints them, without their bleed."""
    data = pdf_bytes(Composer().compose(publication), dict(blobs))
    document, b = pdfium.PdfDocument(data), round(publication.setup.bleed)
    order = ids(publication)
    found = []
    for page in pages:
        image = np.asarray(document[order.index(page)].render(scale=1).to_pil().convert("RGB"))
        found.append(image[b : b + round(H), b : b + round(image.shape[1] - 2 * b)])
    return np.concatenate(found, axis=1).astype(int)


@pytest.mark.parametrize("seed", range(6))
def test_a_spread_looks_like_one_wide_page(seed):
    """Against a publication whose pages are as wide as the spread: no spine, nothing to reach
    over; PDFium paints both."""
    rng = random.Random(seed)
    publication, layer = add_layer(spreads(), "Above")
    wide, other = add_layer(
        new_publication("Wide", Setup(trim=Size(2 * W, H), facing=False, bleed=0.0), 1), "Above"
    )
    verso, recto = ids(publication)[1:3]
    shown = []
    for holder, dx in ((verso, 0.0), (recto, W)):
        for n in range(rng.randint(2, 6)):
            width, height = rng.uniform(60, 190), rng.uniform(40, 120)
            middle = abs(W - dx - rng.uniform(5, W / 2))  # on its page, near the spine
            item = Shape(
                id="", x=middle - width / 2, y=rng.uniform(-10, 130), width=width, height=height,
                fill=Fill(rng.choice(["ochre", "spruce", "slate"])), layer=rng.choice(["", "up"]),
                rotation=rng.choice([0.0, 30.0]), opacity=rng.choice([1.0, 0.6]),
                blend=rng.choice(["normal", "multiply"]),
                form=rng.choice(["rectangle", "ellipse"]),
            )  # fmt: skip
            up, usual = item.layer == "up", publication.layers[0].id
            mine = replace(item, layer=layer if up else usual)
            publication, _ = add_item(publication, holder, mine)
            shown.append((up, dx, n, replace(item, x=item.x + dx, layer=other if up else usual)))
    for _, _, _, item in sorted(shown, key=lambda row: row[:3]):
        wide, _ = add_item(wide, ids(wide)[0], item)
    ours, theirs = rendered(publication, [verso, recto]), rendered(wide, ids(wide))
    differ = np.abs(ours - theirs).max(axis=2) > 40
    differ[:, round(W) - 1 : round(W) + 1] = False  # antialiasing at the edge of a page
    assert differ.mean() < 0.002


@pytest.mark.parametrize("first", ["verso", "recto"])
@pytest.mark.parametrize("higher", ["", "verso", "recto"])
def test_layers_then_the_order_of_reading_say_what_lies_above(first, higher):
    publication, layer = add_layer(spreads(), "Above")
    pages = dict(zip(("verso", "recto"), ids(publication)[1:3], strict=True))
    if first == "recto":  # read from right to left
        publication = change_setup(publication, direction="right to left", opening="verso")
        pages = dict(zip(("recto", "verso"), ids(publication)[:2], strict=True))
    for side, colour, x in (("verso", "ochre", W - 90), ("recto", "spruce", -60)):
        item = Shape(id="", x=x, y=20, width=150, height=60, fill=Fill(colour),
                     layer=layer if side == higher else publication.layers[0].id)  # fmt: skip
        publication, _ = add_item(publication, pages[side], item)
    seen = rendered(publication, [pages["verso"], pages["recto"]])[50]
    left, above, right = (tuple(seen[round(W) + at]) for at in (-80, -20, 70))
    assert left != right
    later = "recto" if first == "verso" else "verso"
    assert tuple(seen[round(W) + 20]) == above  # on either side of the spine
    assert above == {"verso": left, "recto": right}[higher or later]


def crossing(holder_at=1, bleed=9.0, **more):
    publication = spreads(bleed=bleed)
    page = ids(publication)[holder_at]
    item = Shape(id="", x=120, y=30, width=140, height=60, fill=Fill("ochre"), **more)
    publication, made = add_item(publication, page, item)
    return publication, page, made


def test_only_the_page_that_faces_it_shows_it_and_scenes_stay_remembered():
    publication, page, item = crossing()
    composer = Composer()
    one = [composer.compose(publication).scene(p) for p in ids(publication)]
    assert [len(s.painted) for s in one] == [0, 1, 1, 0, 0, 0]
    assert one[2].painted[0].home == (page, "verso") and one[2].placed == ()
    elsewhere, _ = add_item(publication, ids(publication)[4],
                            Shape(id="", x=5, y=5, width=9, height=9))  # fmt: skip
    two = [composer.compose(elsewhere).scene(p) for p in ids(elsewhere)]
    assert [a is b for a, b in zip(one, two, strict=True)] == [True] * 4 + [False, True]
    back = change_items(elsewhere, page, {item: {"x": 20.0}})
    three = [composer.compose(back).scene(p) for p in ids(back)]
    assert three[2].painted == () and three[3] is two[3]


def test_what_merely_bleeds_at_the_spine_stays_on_its_page():
    publication, page, item = crossing()
    bleeding = change_items(publication, page, {item: {"width": W + 9.0 - 120.0}})
    assert len(Composer().compose(bleeding).scene(ids(bleeding)[2]).painted) == 0
    more = change_items(publication, page, {item: {"width": W + 9.5 - 120.0}})
    assert len(Composer().compose(more).scene(ids(more)[2]).painted) == 1


@pytest.mark.parametrize("side", [1, 2])
def test_a_masters_item_reaches_over_from_either_side(side):
    publication, master = add_master(spreads(), "Band")
    band = Shape(id="", x=-40, y=20, width=120, height=20, fill=Fill("ochre"))  # on a recto
    publication, _ = add_item(publication, master, band)
    pages = ids(publication)
    publication = apply_masters(publication, [pages[side]], (master,))
    seen = rendered(publication, pages[1:3])[30]
    inked = np.flatnonzero((seen != 255).any(axis=1))
    # Mirrored at the spine: from 80 before it to 40 behind, or the other way round.
    reach = (W - 80, W + 40) if side == 1 else (W - 40, W + 80)
    assert (inked.min(), inked.max()) == pytest.approx(reach, abs=1.5)
    faces = [Composer().compose(publication).master_scene(master, s) for s in ("verso", "recto")]
    assert [len(f.painted) for f in faces] == [2, 2]


@pytest.mark.parametrize("turned", [0.0, 30.0])
def test_text_runs_around_it_on_both_pages(turned):
    publication, page, item = crossing(around=Around(offset=6.0), rotation=turned)
    words = (Paragraph("body", (Run("the lantern was lit and the night was quiet " * 12),)),)
    frames = {}
    for holder in ids(publication)[1:3]:
        frame = TextFrame(id="", x=10, y=5, width=W - 20, height=H - 10, text=words)
        publication, frames[holder] = add_item(publication, holder, frame)
    composition = Composer().compose(publication)
    (around,) = (p for p in composition.scene(page).placed if p.item_id == item)
    for holder, made in frames.items():
        scene = composition.scene(holder)
        dx = 0.0 if holder == page else -W
        (placed,) = (p for p in scene.placed if p.item_id == made)
        back, hindered = around.matrix.inverse(), 0
        for line in placed.drawing.text.text.lines:
            for run in line.runs:
                for word, x in zip(run.words, run.xs, strict=True):
                    for at in (x, x + word.width):
                        px, py = placed.matrix.apply(line.x + at, line.baseline - 2)
                        bx, by = back.apply(px - dx, py)
                        assert not (0 < bx < 140 and 0 < by < 60)
            hindered += line.right - line.left < W - 60
        assert hindered >= 3


def test_a_story_runs_around_it_on_the_page_that_faces_it_whatever_moves():
    """Two capabilities at once; laid out again and again, it is as laid out for the first time."""
    publication = settled(long_book(chapters=1))
    story, width = publication.stories[0].id, publication.setup.trim.width
    pages, composer = ids(publication), Composer()

    def stands(composer, publication):
        flow = composer.compose(publication).flow(story)
        return [[(line.left, line.text) for line in part.text.lines] for part in flow.parts]

    bare = stands(composer, publication)
    item = Shape(id="", x=width - 90, y=100, width=200, height=120, around=Around())
    publication, made = add_item(publication, pages[5], item)  # a verso
    facing = composer.compose(publication).facts[pages[6]].position - 5
    over = stands(composer, publication)
    assert over[facing] != bare[facing] and min(x for x, _ in over[facing]) >= 0.0
    section = publication.sections[0].id
    for change in (
        lambda p: change_items(p, pages[5], {made: {"x": width - 190.0}}),
        settled,
        lambda p: move_pages(p, [pages[1]], section, 4),
        lambda p: delete_pages(p, [pages[1]]),
        settled,
    ):
        publication = change(publication)
        assert stands(composer, publication) == stands(Composer(), publication)


def test_text_on_what_reaches_over_is_judged_by_its_colour():
    publication, page, item = crossing()
    partner = ids(publication)[2]
    publication = change_items(publication, page, {item: {"fill": Fill("ink")}})
    light = (Paragraph("body", (Run("light on dark", look=Look(colour="paper")),)),)
    frame = TextFrame(id="", x=5, y=40, width=50, height=30, text=light)
    publication, _ = add_item(publication, partner, frame)
    publication, beside = add_item(publication, partner, replace(frame, y=100))
    assert set(poor_texts(Composer().compose(publication).scene(partner))) == {beside}


def test_it_is_told_where_no_page_faces_it():
    publication, _, _ = crossing(holder_at=5)  # the last page, a verso
    (found,) = told(publication, "cut at the spine")
    assert "no page faces it" in found.sentence
    assert not told(found.fix(publication), "cut at the spine")
    assert not told(crossing()[0], "cut at the spine")
    single = spreads(facing=False)
    wide = Shape(id="", x=120, y=30, width=140, height=60, fill=Fill("ochre"))
    single, _ = add_item(single, ids(single)[1], wide)
    assert not told(single, "cut at the spine")


def told(publication, kind):
    return [f for f in content_findings(Composer().compose(publication), ()) if f.kind == kind]


def test_what_a_move_would_cut_is_foretold_with_ways_out():
    publication, page, _ = crossing()
    order = ids(publication)
    section = publication.sections[0].id

    def change(p):
        return move_pages(p, [order[0]], section, 6)  # the cover to the end: all pages turn

    foretold = foretell(publication, change)
    assert [c.page for c in foretold.cut] == [page]
    assert "1 item reaches over the spine from 2 onto 3, which will not face it" in foretold.words
    together = kept_together(publication, foretold)
    assert together is not None and [c.page for c in reaching(together)] == [page]
    parted = halved(publication, foretold, change)
    assert parted is not None and not reaching(parted)
    assert len(find_page(parted, order[2]).items) == 1
    inked = [(rendered(p, [order[n]]) != 255).any(axis=2) for p in (publication, parted)
             for n in (1, 2)]  # fmt: skip
    assert (inked[0] == inked[2]).mean() > 0.995 and (inked[1] == inked[3]).mean() > 0.995
    assert foretell(publication, lambda p: p).cut == ()


def test_what_was_cut_all_the_same_is_told_until_it_is_mended():
    """Checks name the two pages, wherever they lie now, and put the other half on the other."""
    publication, _, _ = crossing()
    order, section = ids(publication), publication.sections[0].id
    foretold = foretell(publication, lambda p: move_pages(p, [order[0]], section, 6))
    parted = gone_on(foretold)
    (found,) = [f for f in findings(parted) if f.kind == "parted spread"]
    assert found.ways[0].offer.startswith("Put the other half on 2 (#2)")
    mended = found.ways[0].fix(parted)
    assert not [f for f in findings(mended) if f.kind == "parted spread"] and not reaching(mended)
    inked = [(rendered(p, [order[n]]) != 255).any(axis=2) for p in (publication, mended)
             for n in (1, 2)]  # fmt: skip
    assert (inked[0] == inked[2]).mean() > 0.995 and (inked[1] == inked[3]).mean() > 0.995


@pytest.mark.parametrize("side", [1, 2])
def test_two_halves_look_like_the_whole(side):
    picture, blob = picture_from_bytes(bytes_of(gradient(), "PNG"), "gradient.png")
    publication = put_picture(spreads(bleed=9.0), picture)
    pages = ids(publication)
    frame = PictureFrame(
        id="", x=120 if side == 1 else -60, y=30, width=140, height=60, picture=picture.hash,
        fit="free", crop=Crop(-10.0, -5.0, 2.0),
    )  # fmt: skip
    publication, _ = add_item(publication, pages[side], frame)
    halves = in_halves(publication, reaching(publication))
    assert not reaching(halves) and sum(len(find_page(halves, p).items) for p in pages) == 2
    blobs = {picture.hash: blob}
    before, after = (rendered(p, pages[1:3], blobs) for p in (publication, halves))
    assert np.abs(before - after).max(axis=2).mean() < 1.0


@given(st.floats(-400, 400), st.floats(0.1, 500), st.floats(-360, 360), st.integers(0, 5),
       st.booleans(), st.sampled_from([0.0, 9.0]))  # fmt: skip
@settings(max_examples=40)
def test_anything_anywhere_composes_and_exports(x, width, turned, at, facing, bleed):
    publication = spreads(bleed=bleed, facing=facing)
    words = (Paragraph("body", (Run("a word"),)),)
    frame = TextFrame(id="", x=x, y=20, width=width, height=60, rotation=turned, text=words,
                      around=Around())  # fmt: skip
    publication, _ = add_item(publication, ids(publication)[at], frame)
    composition = Composer().compose(publication)
    for scene in composition.scenes():
        homes = {p.home for p in scene.painted}
        assert len(homes - {None}) <= 1 and set(scene.placed) <= set(scene.painted)
    assert len(pdfium.PdfDocument(pdf_bytes(composition, {}))) == 6
    assert in_halves(publication, reaching(publication)) is publication  # text stays whole
