"""How a story stands: its words, where it begins and ends, whether it fits, and what helps.

>>> from hidden_frame.compose.composer import Composer
>>> from hidden_frame.edit.stories import start_story
>>> made, story = start_story(publication, page, frame)
>>> state(Composer().compose(made), story).sentence
'Fits, 1 line left on 1 (#3).'
"""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.compose.placing import text_area
from hidden_frame.compose.stories.flow import Flow, words_of
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.pages.order import add_pages
from hidden_frame.edit.stories import flow_through, set_grows, set_story_text
from hidden_frame.edit.text.tighten import MOST, tightened
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Around, PictureFrame, TextFrame
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import (
    all_pages,
    find_page,
    find_section,
    find_story,
    section_of,
)
from hidden_frame.model.number_format import figure, grouped
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import MAX_PAGES, Publication
from hidden_frame.model.stories import Link, MainFrames, Story
from hidden_frame.settle.growth import last_section
from hidden_frame.settle.settling import settled
from hidden_frame.typeset.segments import TextOffset

Help = Literal["grow", "pages", "flow", "enlarge", "tighten", "jump"]
_FEW = 0.03  # of its words that a story may lack room for so that tightening can help


class StoryState(NamedTuple):
    """`first` and `last` are the ids of the pages on which it begins and ends ("" without any);
    `left` counts the words that have no room, `lines` the lines that still fit behind it."""

    words: int
    characters: int
    frames: int
    first: str
    last: str
    left: int
    lines: int
    sentence: str

    @property
    def fits(self) -> bool:
        return not self.left


class Offer(NamedTuple):
    """What helps a story that does not fit: a title, what is done, and that in a sentence."""

    title: str
    kind: Help
    told: str


def state(composition: Composition, story_id: str) -> StoryState:
    """How a story stands now."""
    story, flow = find_story(composition.publication, story_id), composition.flow(story_id)
    specs = flow.specs.recto
    words = sum(words_of.each(specs))
    characters = sum(len(s.text) for spec in specs for s in spec.spans)
    used = [s.page_id for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines]
    order = {page: n for n, page in enumerate(composition.facts)}
    used.sort(key=lambda page: order.get(page, 0))
    first, last = (used[0], used[-1]) if used else ("", "")
    left = flow.words_left
    lines = 0 if left else lines_left(flow)
    sentence = _sentence(composition, story, flow, left, lines)
    return StoryState(words, characters, len(flow.stops), first, last, left, lines, sentence)


def lines_left(flow: Flow) -> int:
    """How many lines more the stop in which a story ends would take."""
    ended = [n for n, part in enumerate(flow.parts) if part.lines]
    if not ended:
        return 0
    at = ended[-1]
    part, stop = flow.parts[at], flow.stops[at]
    spec = part.text.specs[-1]
    count = 0
    for fragment, region in zip(part.text.fragments, stop.room.regions, strict=True):
        free = region.height - (fragment.bottom if fragment.blocks else 0.0)
        count += max(math.floor((free + 0.01) / spec.leading), 0) if math.isfinite(free) else 0
    filled = [n for n, f in enumerate(part.text.fragments) if f.blocks]
    for n in range(filled[-1] if filled else 0):  # columns before the one in which it ends are full
        region, fragment = stop.room.regions[n], part.text.fragments[n]
        count -= max(math.floor((region.height - fragment.bottom + 0.01) / spec.leading), 0)
    return max(count, 0)


def _sentence(composition: Composition, story: Story, flow: Flow, left: int, lines: int) -> str:
    if not left and (flow.rest is None or not story.text):
        ended = [s for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines]
        if not ended:
            return "Nothing is written in it yet."
        where = page_name(composition.facts[ended[-1].page_id])
        return plural(
            lines,
            "Fits, {n} line left on {where}.",
            "Fits, {n} lines left on {where}.",
            where=where,
        )
    words = plural(left, "{n} word does not fit", "{n} words do not fit")
    reason = why_not(composition.publication, story, flow)
    if not reason:
        last = page_name(composition.facts[flow.stops[-1].page_id])
        reason = f"its last frame, on {last}, is full"
    return f"{words}: {reason}."


def why_not(publication: Publication, story: Story, flow: Flow) -> str:
    """Why a story that grows has no room all the same; "" if there is no reason in sight."""
    if not flow.stops:
        through = any(isinstance(s, MainFrames) for s in story.path)
        return "the masters of its section have no main frame" if through else "no frame shows it"
    if len(all_pages(publication)) >= MAX_PAGES:
        return f"a publication has at most {grouped(MAX_PAGES)} pages"
    last = flow.parts[-1]
    if not last.lines:
        return "its frames have no room for a single line"
    return ""


def offers(composition: Composition, story_id: str) -> list[Offer]:
    """What helps a story that does not fit, the least change first."""
    story, flow = find_story(composition.publication, story_id), composition.flow(story_id)
    if flow.rest is None:
        return []
    found = []
    if story.sections and flow.stops and flow.parts[-1].lines:
        if not story.grows:
            found.append(
                Offer("Let its section grow", "grow", "As many pages as it needs are added.")
            )
        count = pages_needed(flow)
        found.append(
            Offer(
                plural(count, "Add {n} page", "Add {n} pages"),
                "pages",
                "At the end of its section.",
            )
        )
    if not story.sections and _main_frames(composition.publication):
        found.append(
            Offer("Go on in main frames", "flow", "Through those of the section on the desk.")
        )
    room = room_below(composition.publication, story, flow)
    if room is not None:
        page = page_name(composition.facts[room.page])
        found.append(
            Offer("Enlarge its last frame", "enlarge", f"That on {page}, to the foot margin.")
        )
    words = sum(words_of.each(flow.specs.recto))
    if flow.stops and flow.words_left <= _FEW * words:
        found.append(
            Offer(
                "Tighten its letters", "tighten", f"By {figure(MOST / 10)} % of their size at most."
            )
        )
    if flow.stops:
        found.append(
            Offer("Go to where it stops", "jump", "The caret where the words have no room.")
        )
    return found


def _main_frames(publication: Publication) -> bool:
    """Whether any master has a main frame, through which a section's story could flow."""
    items = (i for m in publication.masters for i in m.items)
    return any(isinstance(i, TextFrame) and i.main for i in items)


class RoomBelow(NamedTuple):
    """A frame that could be higher: its page, its id, and how high, in points."""

    page: str
    item: str
    height: float


def room_below(publication: Publication, story: Story, flow: Flow) -> RoomBelow | None:
    """How high the last frame of a story could be, down to the foot margin; None if it is no
    upright frame of a page's own, or there is not room for a line more."""
    if not flow.stops:
        return None
    page, item = flow.stops[-1].key
    if Link(page, item) not in story.path:
        return None
    found = find_page(publication, page)
    frame = next((i for i in found.items if i.id == item), None)
    if not isinstance(frame, TextFrame) or frame.rotation or frame.grows:
        return None
    margins = page_layout(publication, found).margins
    area = text_area(publication.setup, margins, page_facts(publication)[page].side)
    height = area.bottom - frame.y
    more = height - frame.height
    return RoomBelow(page, item, height) if more > 0 and _takes_more(flow, more) else None


def _takes_more(flow: Flow, by: float) -> bool:
    """Whether the last stop of a flow would take more lines if it were so many points higher."""
    number, stop = len(flow.stops) - 1, flow.stops[-1]
    regions = tuple(r._replace(height=r.height + by) for r in stop.room.regions)
    higher = stop._replace(room=stop.room._replace(regions=regions))
    tried = flow.trial(higher, number, flow.where(number), None)
    return tried.words > flow.parts[number].words


def pages_needed(flow: Flow) -> int:
    """How many pages more a story needs, judged by those that it fills."""
    pages = {s.page_id for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines}
    words = sum(p.words for p in flow.parts)
    return max(1, math.ceil(flow.words_left / (words / len(pages)))) if words else 1


def helped(publication: Publication, story_id: str, kind: Help, section_id: str) -> Publication:
    """The publication with an offer taken; `section_id` is that of the page on the desk."""
    story = find_story(publication, story_id)
    if kind == "grow":
        return set_grows(publication, story_id, True)
    if kind == "flow":
        return flow_through(publication, story_id, section_id)
    if kind == "enlarge":
        flow = Composer().compose(publication).flow(story_id)
        room = room_below(publication, story, flow)
        if room is not None:
            return change_items(publication, room.page, {room.item: {"height": room.height}})
    if kind == "tighten":
        return _tightened(publication, story)
    if kind == "pages":
        growing = settled(set_grows(publication, story_id, True))
        section = last_section(publication, story)
        if section is None:
            return publication
        wanted = len(find_section(growing, section).pages)
        there = len(find_section(publication, section).pages)
        if wanted > there:
            return add_pages(publication, section, there, wanted - there)[0]
    return publication


def _tightened(publication: Publication, story: Story) -> Publication:
    """The story as little tighter as makes it fit.  Raises `Refusal` if the limit does not."""
    composer, left = Composer(), 0
    for by in range(2, MOST + 1, 2):
        text = tightened(publication, story.text, by)
        tried = set_story_text(publication, story.id, text)
        left = composer.compose(tried).flow(story.id).words_left
        if not left:
            return tried
    raise Refusal(
        plural(
            left,
            "Even {most} % tighter, {n} word of “{story}” does not fit, so nothing was changed; "
            "add room, or cut words.",
            "Even {most} % tighter, {n} words of “{story}” do not fit, so nothing was changed; "
            "add room, or cut words.",
            most=figure(MOST / 10),
            story=story.name,
        )
    )


def waiting_frame(publication: Publication, page_id: str, picture: str) -> PictureFrame:
    """A frame for a picture of the tray: as large as it is, within the margins, at their head; text
    runs around it."""
    page = find_page(publication, page_id)
    side = page_facts(publication)[page_id].side
    area = text_area(publication.setup, page_layout(publication, page).margins, side)
    known = next(p for p in publication.pictures if p.hash == picture)
    wide, high = known.size
    scale = min(1.0, area.width / wide, area.height / 2 / high)
    return PictureFrame(
        id="", name=known.name, x=area.left, y=area.top, width=wide * scale, height=high * scale,
        picture=picture, around=Around(),
    )  # fmt: skip


def overset_place(flow: Flow) -> tuple[int, int] | None:
    """The place in a story from which nothing is shown; None if all of it is."""
    if flow.rest is None:
        return None
    offset: TextOffset = flow.rest.place
    return flow.rest.paragraph, offset.offset


def running_into(composition: Composition, page_id: str) -> tuple[str, ...]:
    """The stories through a page's section whose text stands on the page or behind it there: what
    a section that starts at the page carries on."""
    publication = composition.publication
    section = section_of(publication, page_id)
    at = next(n for n, p in enumerate(section.pages) if p.id == page_id)
    behind = {p.id for p in section.pages[at:]}
    found = []
    for story in publication.stories:
        if section.id in story.sections:
            flow = composition.flow(story.id)
            stands = zip(flow.stops, flow.parts, strict=True)
            if flow.rest is not None or any(p.lines for s, p in stands if s.page_id in behind):
                found.append(story.id)
    return tuple(found)
