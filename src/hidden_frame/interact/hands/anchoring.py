"""Items anchored in a text, and what is anchored freed onto its page again."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from hidden_frame.compose.anchors import CAPTION_GAP, anchored_on
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.edit.items.draw import add_item, remove_items
from hidden_frame.edit.stories import set_story_text, take_waiting
from hidden_frame.edit.text.write import insert_marker, plain
from hidden_frame.interact.hands.hits import hit
from hidden_frame.interact.hands.shown import change_shown
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item, PictureFrame, TextFrame
from hidden_frame.model.lookup import find_page, find_story, holder
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.model.text import Anchor, Paragraph, Run, Stands, Text, TextPlace


class AnchoredSeen(NamedTuple):
    """Something anchored as a frame shows it: its place (the paragraph counted from the first one
    that the frame shows), what it is, and its box from the frame's corner, in points."""

    place: TextPlace
    anchor: Anchor
    box: Bounds


def seen_in(placed: Placed, side: Side) -> Iterator[AnchoredSeen]:
    """What is anchored in the text that a frame shows."""
    shown = placed.drawing.text
    if shown is None:
        return
    for paragraph, one in anchored_on(shown, side):
        assert one.anchored.what is not None
        x, y = shown.x + one.x, shown.y + one.y
        box = Bounds(x, y, x + one.width, y + one.height)
        yield AnchoredSeen((paragraph, one.offset), one.anchored.what, box)


def seen_at(placed: Placed, side: Side, x: float, y: float) -> AnchoredSeen | None:
    """What is anchored at a point of the page."""
    px, py = placed.matrix.inverse().apply(x, y)
    for one in seen_in(placed, side):
        if one.box.left <= px <= one.box.right and one.box.top <= py <= one.box.bottom:
            return one
    return None


def frame_over(scene: Scene, side: Side, x: float, y: float) -> Placed | None:
    """The frame whose text something at a point of the page is anchored in, if no other item lies
    above it there."""
    above = hit(scene, x, y, 0.0)
    for placed in reversed(scene.placed):
        if placed is above or not placed.locked:
            if seen_at(placed, side, x, y) is not None:
                return placed
            if placed is above:
                return None
    return None


def sized(picture: Picture, measure: float, high: float) -> Anchor:
    """A picture as it is anchored first: as large as it is, in the measure and half the height."""
    wide, tall = picture.size
    scale = min(1.0, measure / wide, high / 2 / tall)
    return Anchor(
        width=min(max(wide * scale, 1.0), 5000.0), height=min(max(tall * scale, 1.0), 5000.0),
        picture=picture.hash,
    )  # fmt: skip


def as_anchor(item: Item, stands: Stands) -> Anchor:
    """A picture frame, or a text frame as a caption, as it is anchored.  Raises `Refusal` for
    anything else."""
    width, height = min(max(item.width, 1.0), 5000.0), min(max(item.height, 1.0), 5000.0)
    if isinstance(item, PictureFrame):
        return Anchor(
            width=width, height=height, stands=stands, picture=item.picture, fit=item.fit,
            crop=item.crop,
        )  # fmt: skip
    if isinstance(item, TextFrame) and item.text and plain(item.text).strip():
        words = plain(item.text)
        if len(words) > 2000:
            raise Refusal("A caption has at most 2,000 characters; anchor a shorter text.")
        return Anchor(
            width=width, height=height, stands=stands, caption=words,
            caption_style=item.text[0].style,
        )  # fmt: skip
    raise Refusal("Pictures and captions can be anchored; choose one of those.")


class Landing(NamedTuple):
    """Where an item would be anchored: the frame, the place in the text it shows, and how."""

    frame: str
    place: TextPlace
    stands: Stands


def landing(composition: Composition, page_id: str, item_id: str) -> Landing | None:
    """The place of the text nearest to an item of a page: above a line if it stands over a column
    of text, in the margin beside one if it does not."""
    scene = composition.scene(page_id)
    item = next((p for p in scene.placed if p.item_id == item_id), None)
    if item is None:
        return None
    side, best, nearest = composition.facts[page_id].side, None, float("inf")
    for placed in scene.placed:
        shown = placed.drawing.text
        if shown is None or placed.item_id == item_id or not shown.text.lines:
            continue
        x, y = placed.matrix.inverse().apply(item.bounds.left, item.bounds.top)
        wide, high = item.bounds.right - item.bounds.left, item.bounds.bottom - item.bounds.top
        x, y = x - shown.x, y - shown.y
        for line in shown.text.lines[: shown.shown]:
            left, right = shown.text.columns[line.column]
            over = min(x + wide, right) - max(x, left)
            beside = over < wide / 2
            across = max(left - x - wide, x - right, 0.0) if beside else 0.0
            away = across + abs(line.top - (y if beside else y + high))
            away += 0.0 if placed.drawing.told else 1.0  # a story, where both are as near
            if away < nearest:
                nearest = away
                at_left = x + wide / 2 < (left + right) / 2
                margin: Stands = "inside" if at_left == (side == "recto") else "outside"
                stands: Stands = margin if beside else "above the line"
                best = Landing(placed.item_id, (line.paragraph, line.start), stands)
    return best


def anchor_item(
    composition: Composition, page_id: str, item_id: str
) -> tuple[Publication, Landing, TextPlace]:
    """An item of a page anchored in the text nearest to it, instead of standing on the page.

    Gives the publication, where it landed, and the place of its character in the whole text.
    Raises `Refusal` if there is no text, or it is neither a picture nor a caption.
    """
    publication = composition.publication
    item = next((i for i in holder(publication, page_id).items if i.id == item_id), None)
    if item is None:
        raise Refusal("Only an item of the page's own can be anchored; make it local first.")
    at = landing(composition, page_id, item_id)
    if at is None:
        raise Refusal("There is no text on this page to anchor it in; write or bring in one.")
    anchor = as_anchor(item, at.stands)
    told = composition.told(page_id, at.frame)
    without = remove_items(publication, page_id, [item_id])
    if told is not None:
        first = told.flow.first_paragraph(page_id, at.frame)
        place = (first + at.place[0], at.place[1])
        text, _ = insert_marker(told.story.text, place, anchor)
        return set_story_text(without, told.story.id, text), at, place
    side = composition.facts[page_id].side
    own = _text_of(composition, page_id, at.frame)
    text, _ = insert_marker(own, at.place, anchor)
    return change_shown(without, page_id, side, {at.frame: {"text": text}}), at, at.place


def _text_of(composition: Composition, page_id: str, frame: str) -> Text:
    """A frame's own text, as the page shows it."""
    view = composition.view(find_page(composition.publication, page_id))
    found = next((r.item for r in view.items if r.item.id == frame), None)
    assert isinstance(found, TextFrame)
    return found.text


def anchor_waiting(
    publication: Publication, story_id: str, measure: float, high: float
) -> Publication:
    """Every picture of a story's tray anchored at the head of the paragraph that it stood at."""
    story = find_story(publication, story_id)
    known = {p.hash: p for p in publication.pictures}
    text = story.text
    for one in reversed(story.waiting):
        index = min(one.paragraph, len(text) - 1)
        picture = known.get(one.picture)
        if picture is not None and index >= 0:
            text, _ = insert_marker(text, (index, 0), sized(picture, measure, high))
        publication = take_waiting(publication, story_id, one.picture)
    return set_story_text(publication, story_id, text)


def freed(
    publication: Publication,
    page_id: str,
    placed: Placed,
    seen: AnchoredSeen,
    style: str,
    layer: str,
) -> tuple[Publication, list[str]]:
    """What was anchored as items of the page, where it stands now; `style` is the paragraph style
    of a caption that says none.  The character that it was anchored by is not taken out."""
    anchor, box = seen.anchor, seen.box
    x, y = placed.matrix.apply(box.left, box.top)
    scale = (box.right - box.left) / anchor.width
    items: list[Item] = []
    if anchor.picture is not None or not anchor.caption:
        high = anchor.height * scale
        items.append(PictureFrame(
            id="", x=x, y=y, width=anchor.width * scale, height=high, picture=anchor.picture,
            fit=anchor.fit, crop=anchor.crop, layer=layer,
        ))  # fmt: skip
        y += high + CAPTION_GAP
    if anchor.caption:
        text = tuple(
            Paragraph(anchor.caption_style or style, (Run(line),) if line else ())
            for line in anchor.caption.split("\n")
        )
        _, foot = placed.matrix.apply(box.left, box.bottom)
        items.append(TextFrame(
            id="", x=x, y=y, width=anchor.width * scale, height=max(foot - y, 1.0), text=text,
            grows=True, snug=True, layer=layer,
        ))  # fmt: skip
    made: list[str] = []
    for item in items:
        publication, new = add_item(publication, page_id, item)
        made.append(new)
    return publication, made
