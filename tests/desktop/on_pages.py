"""What tests of stories and of writing do on pages."""

from __future__ import annotations

from hidden_frame.model.lookup import find_page, find_story


def text_of(hands):
    return find_story(hands.publication, hands.story).text


def main_frame(hands, position):
    page = hands.page(position)
    view = hands.session.composition.view(find_page(hands.publication, page))
    return next(r.item for r in view.items if getattr(r.item, "main", 0))


def write_on(hands, face=0, position=6, x=30.0, y=40.0):
    """A double click into a main frame, at a place from its corner."""
    item = main_frame(hands, position)
    side = hands.session.faces()[face].side
    left = hands.publication.setup.trim.width - item.x - item.width if side == "verso" else item.x
    hands.double(face, left + x, item.y + y)
    return item
