"""Stories made, named, poured, linked to frames, parted and joined."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.edit.change import change_story, new_ids
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.edit.text.write import split
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import (
    find_master,
    find_page,
    find_section,
    find_story,
    linked_story,
    story_through,
)
from hidden_frame.model.publication import Publication
from hidden_frame.model.same import same_ends
from hidden_frame.model.stories import Link, MainFrames, Station, Story, Waiting
from hidden_frame.model.text import STEADY, Marker, Paragraph, Text, TextPlace

MAX_MAIN = 99  # of a master, as its type says


def add_story(
    publication: Publication,
    name: str,
    text: Text = (),
    path: tuple[Station, ...] = (),
    *,
    grows: bool = False,
) -> tuple[Publication, str]:
    """A story with a name of its own, and its id; without text it holds one empty paragraph."""
    publication, (story_id,) = new_ids(publication, "story", 1)
    clean = " ".join(name.split())[:200] or "Story"
    made = Story(
        id=story_id,
        name=free_name(clean, (s.name for s in publication.stories)),
        text=text or (Paragraph(publication.paragraph_styles[0].id),),
        path=path,
        grows=grows,
    )
    return replace(publication, stories=(*publication.stories, made)), story_id


def set_story_text(publication: Publication, story_id: str, text: Text) -> Publication:
    """A story with another text."""

    def new(story: Story) -> Story:
        if text is story.text:
            return story
        return replace(story, text=text, waiting=_moved(story.waiting, story.text, text))

    return change_story(publication, story_id, new)


def _moved(waiting: tuple[Waiting, ...], old: Text, new: Text) -> tuple[Waiting, ...]:
    """The pictures that wait, at the paragraphs that they stood at, whatever came before them."""
    if not waiting:
        return waiting
    head, foot = same_ends(old, new)
    found = []
    for one in waiting:
        at = one.paragraph
        if at >= len(old) - foot:
            at += len(new) - len(old)
        elif at >= head:
            at = min(at, max(len(new) - foot - 1, 0))
        found.append(one if at == one.paragraph else Waiting(one.picture, at))
    return tuple(found)


def add_waiting(
    publication: Publication, story_id: str, pictures: Iterable[Waiting]
) -> Publication:
    """Pictures put into a story's tray."""
    more = tuple(pictures)
    return change_story(
        publication, story_id, lambda s: replace(s, waiting=(*s.waiting, *more)) if more else s
    )


def take_waiting(publication: Publication, story_id: str, picture: str) -> Publication:
    """A picture taken out of a story's tray, the first of its kind."""

    def new(story: Story) -> Story:
        at = next((n for n, w in enumerate(story.waiting) if w.picture == picture), None)
        if at is None:
            return story
        return replace(story, waiting=(*story.waiting[:at], *story.waiting[at + 1 :]))

    return change_story(publication, story_id, new)


def rename_story(publication: Publication, story_id: str, name: str) -> Publication:
    """A story under another name, which no other one has."""
    clean = " ".join(name.split())
    others = {s.name for s in publication.stories if s.id != story_id}
    if not clean or clean in others or len(clean) > 200:
        raise Refusal(
            f"A story can't be named “{clean[:60]}”; choose a name that is not in use.",
            field="name",
        )
    return change_story(publication, story_id, lambda s: replace(s, name=clean))


def set_grows(publication: Publication, story_id: str, grows: bool) -> Publication:
    """Whether a story's section has as many pages as it needs (R26)."""
    return change_story(publication, story_id, lambda s: replace(s, grows=grows))


def delete_story(publication: Publication, story_id: str) -> Publication:
    """Without a story and its words; its frames stay, empty."""
    find_story(publication, story_id)
    kept = tuple(s for s in publication.stories if s.id != story_id)
    return replace(publication, stories=kept)


def pour(
    publication: Publication, section_id: str, text: Text, name: str = ""
) -> tuple[Publication, str]:
    """A text at the end of the story that flows through a section, and the story's id; a section
    without one gets one, which grows."""
    section = find_section(publication, section_id)
    story = story_through(publication, section_id)
    if story is None:
        path = (MainFrames(section_id),)
        return add_story(publication, name or section.name, text, path, grows=True)
    joined = text if is_empty(story.text) else (*story.text, *text)
    return set_story_text(publication, story.id, joined), story.id


def is_empty(text: Text) -> bool:
    """Whether nothing stands in a text."""
    return not any(paragraph.content for paragraph in text)


def start_story(publication: Publication, page_id: str, item_id: str) -> tuple[Publication, str]:
    """A page's own frame made the first stop of a story that holds its text, and the story's
    id; the frame's story as it is if it shows one."""
    known = linked_story(publication, page_id, item_id)
    if known is not None:
        return publication, known.id
    frame = _own_frame(publication, page_id, item_id)
    _steady(frame.text, f"“{frame.name}”" if frame.name else "this frame")
    name = _first_words(frame.text) or frame.name or "Story"
    publication = _emptied(publication, page_id, item_id)
    publication, story = add_story(publication, name, frame.text, (Link(page_id, item_id),))
    if frame.lists:  # its story goes on to list it
        said = {"contents": frame.contents, "index": frame.index, "notes": frame.notes}
        publication = change_story(publication, story, lambda s: replace(s, **said))
    return publication, story


def link(
    publication: Publication, story_id: str, page_id: str, item_id: str, after: Station | None
) -> Publication:
    """A page's own frame made a stop of a story, behind a station or as the first one.

    Words that stand in the frame are put at the story's end; a story that flowed through it is
    joined to this one.  Raises `Refusal` where that would close the path to a ring.
    """
    station = Link(page_id, item_id)
    known = linked_story(publication, page_id, item_id)
    if known is not None and known.id == story_id:
        raise Refusal(
            f"“{known.name}” flows through this frame already; a path can't come back to itself."
        )
    if known is not None:
        return join(publication, story_id, known.id, after)
    frame = _own_frame(publication, page_id, item_id)
    _steady(frame.text, f"“{frame.name}”" if frame.name else "this frame")
    publication = _emptied(publication, page_id, item_id)

    def new(story: Story) -> Story:
        at = _behind(story.path, after)
        text = story.text if is_empty(frame.text) else (*story.text, *frame.text)
        return replace(story, text=text, path=(*story.path[:at], station, *story.path[at:]))

    return change_story(publication, story_id, new)


def link_main(publication: Publication, master_id: str, item_id: str, next_id: str) -> Publication:
    """Two frames of a master made main frames, the second one next behind the first: the story of
    a page's section goes on from one to the other, on one face or from the left to the right."""
    frames = {i.id: i for i in find_master(publication, master_id).items}
    first, following = frames.get(item_id), frames.get(next_id)
    if not isinstance(first, TextFrame) or not isinstance(following, TextFrame):
        raise Refusal(
            "Only text frames that stand on this master itself are linked here; those that it has "
            "from its base are linked there."
        )
    if first is following:
        raise Refusal("A frame can't be linked to itself; click the one in which the text goes on.")
    for frame in (first, following):
        if not frame.main and not is_empty(frame.text):
            raise Refusal(
                f"“{frame.name}” holds words of its own, which a main frame can't; take them out, "
                "or link another frame."
            )
    order = [
        i for i in frames.values() if isinstance(i, TextFrame) and i.main and i is not following
    ]
    order.sort(key=lambda f: f.main)
    if first not in order:
        order.append(first)
    order.insert(order.index(first) + 1, following)
    if len(order) > MAX_MAIN:
        raise Refusal(f"A master has at most {MAX_MAIN} main frames; link fewer.")
    changes: dict[str, dict[str, object]] = {f.id: {"main": n} for n, f in enumerate(order, 1)}
    return change_items(publication, master_id, changes)


def _behind(path: tuple[Station, ...], after: Station | None) -> int:
    if after is None:
        return 0
    return path.index(after) + 1 if after in path else len(path)


def flow_through(publication: Publication, story_id: str, section_id: str) -> Publication:
    """A story goes on through the main frames of a section, behind what it flows through."""
    section = find_section(publication, section_id)
    known = story_through(publication, section_id)
    if known is not None and known.id != story_id:
        raise Refusal(f"“{known.name}” flows through {section.name or 'this section'} already.")
    station = MainFrames(section_id)
    return change_story(
        publication,
        story_id,
        lambda s: s if station in s.path else replace(s, path=(*s.path, station)),
    )


def unlink(publication: Publication, station: Station) -> Publication:
    """A frame, or a section's main frames, taken out of a path: the text goes on to the next
    stop, and no word is lost."""

    def new(story: Story) -> Story:
        kept = tuple(s for s in story.path if s != station)
        return story if len(kept) == len(story.path) else replace(story, path=kept)

    stories = tuple(new(story) for story in publication.stories)
    return replace(publication, stories=stories)


def join(
    publication: Publication, story_id: str, other_id: str, after: Station | None = None
) -> Publication:
    """Two stories made one: the other's words at the end, its stops behind `after` (or last)."""
    other = find_story(publication, other_id)
    if story_id == other_id:
        raise Refusal(f"“{other.name}” can't be joined to itself; choose another story.")
    publication = delete_story(publication, other_id)

    def new(story: Story) -> Story:
        at = len(story.path) if after is None else _behind(story.path, after)
        text = story.text if is_empty(other.text) else (*story.text, *other.text)
        text = other.text if is_empty(story.text) else text
        return replace(story, text=text, path=(*story.path[:at], *other.path, *story.path[at:]))

    return change_story(publication, story_id, new)


def part_story(
    publication: Publication, story_id: str, at: TextPlace, station: Station
) -> tuple[Publication, str]:
    """A story parted: the words from a place on become a story of their own, which flows through
    the stops from `station` on; and its id."""
    story = find_story(publication, story_id)
    if station not in story.path:
        raise Refusal(f"“{story.name}” does not flow through this frame; choose one of its own.")
    text, place = split(story.text, at) if at[1] else (story.text, at)
    cut = story.path.index(station)
    head, tail = text[: place[0]], text[place[0] :]
    rest = story.path[cut:]
    publication = change_story(
        publication,
        story_id,
        lambda s: replace(s, text=head or (Paragraph(tail[0].style),), path=s.path[:cut]),
    )
    return add_story(publication, _first_words(tail) or story.name, tail, rest, grows=story.grows)


def _own_frame(publication: Publication, page_id: str, item_id: str) -> TextFrame:
    for item in find_page(publication, page_id).items:
        if item.id == item_id and isinstance(item, TextFrame):
            return item
    raise Refusal(
        "Only text frames that stand on the page itself are linked by hand; make the frame local "
        "first, or let the section's story flow through its main frames."
    )


def _steady(text: Text, frame: str) -> None:
    """Raises `Refusal` for a text with markers that say something else on every page."""
    for paragraph in text:
        for piece in paragraph.content:
            if isinstance(piece, Marker) and piece.shows not in STEADY:
                raise Refusal(
                    f"The text of {frame} shows a {piece.shows}, which a story can't: it stands on "
                    "many pages. Take the marker out, or leave this frame to itself."
                )


def _emptied(publication: Publication, page_id: str, item_id: str) -> Publication:
    """The frame without a text of its own: its story has it."""
    bare: dict[str, object] = {"text": (), "contents": None, "index": None, "notes": None}
    return change_items(publication, page_id, {item_id: bare})


def _first_words(text: Text) -> str:
    """The first words of a text, to call it by."""
    words = "".join(getattr(c, "text", "") for p in text[:1] for c in p.content).split()
    return " ".join(words[:5])[:60]
