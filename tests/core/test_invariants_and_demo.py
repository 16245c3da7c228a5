"""Every broken invariant is named with its place; the demo shows what it must."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.overrides import override
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins, Size
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import Line, Override, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, base_chain, stack_of
from hidden_frame.model.paint import Colour, Fill
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Marker, Paragraph, Run


def with_page(publication: Publication, **changes) -> Publication:
    """The publication with its third page changed."""
    section = publication.sections[0]
    pages = list(section.pages)
    pages[2] = replace(pages[2], **changes)
    return replace(publication, sections=(replace(section, pages=tuple(pages)),))


def with_master(publication: Publication, **changes) -> Publication:
    first, *rest = publication.masters
    return replace(publication, masters=(replace(first, **changes), *rest))


SHAPE = Shape(id="item-1", name="Box", x=0, y=0, width=9, height=9)
TEXT = TextFrame(id="item-1", name="Words", x=0, y=0, width=9, height=9)


def body(style="body", run_style=None):
    return (Paragraph(style, (Run("x", run_style),)),)


@pytest.mark.parametrize(
    ("broken", "says"),
    [
        (lambda p: replace(p, sections=()), "no page"),
        (lambda p: replace(p, layers=()), "no layer"),
        (lambda p: replace(p, paragraph_styles=()), "no paragraph style"),
        (lambda p: with_page(p, masters=("master-99",)), "page #3.*“master-99” does not exist"),
        (lambda p: with_page(p, masters=("master-2", "master-2")), "twice in the stack"),
        (lambda p: replace(p, default_masters=("x",)), "default masters"),
        (lambda p: with_page(p, items=(replace(SHAPE, layer="x"),)), "page #3, item “Box”.*layer"),
        (lambda p: with_page(p, items=(replace(SHAPE, fill=Fill("x")),)), "the colour “x”"),
        (lambda p: with_page(p, items=(replace(SHAPE, x=1e9),)), "x is 1e"),
        (lambda p: with_page(p, items=(replace(SHAPE, y=float("nan")),)), "not on any page"),
        (lambda p: with_page(p, items=(SHAPE, SHAPE)), "“item-1” is used for 2 things"),
        (lambda p: with_page(p, items=(replace(SHAPE, id="item-999"),)), "not below next_id"),
        (lambda p: with_page(p, items=(replace(TEXT, text=body("x")),)), "paragraph style “x”"),
        (
            lambda p: with_page(p, items=(replace(TEXT, text=body("body", "x")),)),
            "character style “x”",
        ),
        (
            lambda p: with_page(
                p,
                items=(PictureFrame(id="item-1", x=0, y=0, width=1, height=1, picture="0" * 64),),
            ),
            "not among the publication's",
        ),
        (
            lambda p: with_page(
                p,
                items=(Shape(id="item-1", x=0, y=0, width=1, height=1),),
                overrides=(Override(item="item-1", x=5.0),),
            ),
            "not a master's",
        ),
        (lambda p: with_master(p, base="master-2"), "circle: Base → Base"),
        (lambda p: with_master(p, base="gone"), "builds on “gone”"),
        (
            lambda p: with_master(p, margins=Margins(inside=300, outside=300)),
            "margins of master “Base”",
        ),
        (lambda p: replace(p, setup=replace(p.setup, trim=Size(5, 500))), "trim width"),
        (
            lambda p: replace(p, colours=(*p.colours, Colour(id="x", name="X", values=(0.0,)))),
            "needs 3 values",
        ),
    ],
)
def test_what_is_broken_is_named_with_its_place(small, broken, says):
    assert problems(small) == []
    with pytest.raises(Refusal, match=says):
        check(broken(small))


def test_an_override_must_fit_the_kind_of_its_item(small):
    publication, item = add_item(small, small.masters[0].id, replace(SHAPE, id=""))
    broken = with_page(publication, overrides=(Override(item=item, vertical="top"),))
    with pytest.raises(Refusal, match="no vertical"):
        check(broken)
    with pytest.raises(Refusal, match="no text"):
        override(publication, all_pages(publication)[0].id, item, text=())
    twice = (Override(item=item, x=1.0), Override(item=item, y=1.0))
    assert any("overridden twice" in p for p in problems(with_page(publication, overrides=twice)))


class TestDemo:
    """What the sample publication has to show."""

    def test_it_is_whole(self, demo):
        publication, blobs = demo
        assert problems(publication) == []
        assert {p.hash for p in publication.pictures} == set(blobs)
        assert len(all_pages(publication)) % 4 == 0 and len(all_pages(publication)) >= 24

    def test_masters_in_two_levels_of_base(self, demo):
        publication, _ = demo
        depths = [len(base_chain(publication, m.id)) for m in publication.masters]
        assert len(depths) >= 4 and max(depths) >= 3
        assert any(m.guides for m in publication.masters)
        assert any(m.columns for m in publication.masters) or publication.setup.columns.count > 1

    def test_a_mirrored_foot_a_logo_and_a_picture_on_masters(self, demo):
        publication, _ = demo
        kinds = {p.hash: p.kind for p in publication.pictures}
        items = [i for m in publication.masters for i in m.items]
        placed = {kinds[i.picture] for i in items if isinstance(i, PictureFrame)}
        assert placed == {"svg", "jpg"}
        foot = next(i for i in items if i.name == "Folio")
        assert (foot.face, foot.placing) == ("both", "mirrored")
        assert any(isinstance(i, Line) for i in items)

    def test_every_kind_of_page(self, demo):
        publication, _ = demo
        pages = all_pages(publication)
        assert any(stack_of(publication, p) == () for p in pages)
        assert any(len(stack_of(publication, p)) == 2 for p in pages)
        assert any(p.overrides for p in pages) and any(p.blind for p in pages)
        assert len({s.numbering.style for s in publication.sections}) >= 3
        markers = {
            c.shows
            for m in publication.masters
            for i in m.items
            if isinstance(i, TextFrame)
            for p in i.text
            for c in p.content
            if isinstance(c, Marker)
        }
        assert {"folio", "section name", "title", "detail"} <= markers

    def test_all_its_text_fits(self, demo):
        for scene in Composer().compose(demo[0]).scenes():
            assert all(p.drawing.overflow is None for p in scene.placed)

    def test_recto_pages_have_odd_folios(self, demo):
        # Common practice of the trade; no source.
        for facts in Composer().compose(demo[0]).facts.values():
            if facts.folio.isdecimal():
                assert (int(facts.folio) % 2 == 1) == (facts.side == "recto")
