"""What running heads show: which paragraphs of a style begin on which page (R28).

The terms of CSS Generated Content for Paged Media (W3C), 1.1: our `first` is its `first`, `last`
its `last`, `at the top` its `start`; `before` is the value that a page begins with.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import cache
from typing import NamedTuple, TypeGuard

from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.listed import style_levels
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.model.items import Item, TextFrame
from hidden_frame.model.lookup import find_page
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication, Section
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.text import Anchor, Head, Paragraph, Piece, Run, Text


class Heading(NamedTuple):
    """A paragraph of a style, or a stretch in a character style: its place in its text, what it
    says, its number, and its short form."""

    paragraph: int
    offset: int
    text: str
    number: str = ""
    short: str = ""


class HeadingSeen(NamedTuple):
    """A heading on a page, which is the page's `position`; `down` and `across` are where its frame
    stands there (points), `opens` says that nothing of its frame stands before it."""

    position: int
    down: float
    across: float
    heading: Heading
    opens: bool


def plain_words(paragraph: Paragraph) -> str:
    """What a paragraph says, on one line."""
    text = "".join(c.text for c in paragraph.content if isinstance(c, Run))
    return " ".join(text.replace("\u00ad", "").split())


def headings_in(text: Text, style: str, labels: tuple[str, ...] | None) -> list[Heading]:
    """The paragraphs of a text in a paragraph style, and its stretches in a character style of
    that id, in order; those that say nothing are left out."""
    found: list[Heading] = []
    for n, said in _of_style(style)(text):
        number = labels[n] if labels is not None else ""
        for offset, words, short in said:
            if offset < 0:  # the paragraph itself
                if words or number:
                    found.append(Heading(n, 0, words, number, short))
            else:
                found.append(Heading(n, offset, words))
    return found


_Said = tuple[tuple[int, str, str], ...]  # offset (-1: all of the paragraph), words, short form


@cache
def _of_style(style: str) -> Sparse[Paragraph, _Said]:
    def said(paragraph: Paragraph) -> _Said | None:
        if paragraph.style == style:
            return ((-1, plain_words(paragraph), paragraph.short),)
        if any(_names(piece, style) for piece in paragraph.content):
            return tuple(_stretches(paragraph, style)) or None
        return None

    return Sparse(said)


def _names(piece: Piece, style: str) -> bool:
    return piece.style == style or (isinstance(piece, Anchor) and piece.caption_style == style)


def _stretches(paragraph: Paragraph, style: str) -> Iterator[tuple[int, str, str]]:
    at = 0
    for piece in paragraph.content:
        size = len(piece.text) if isinstance(piece, Run) else 1
        if isinstance(piece, Run) and piece.style == style and piece.text.strip():
            yield at, " ".join(piece.text.split()), ""
        elif isinstance(piece, Anchor) and piece.caption_style == style and piece.caption.strip():
            yield at, " ".join(piece.caption.split()), ""
        at += size


class Telling(NamedTuple):
    """A story as running heads look at it: its flow, its numbers, and the position of the page
    of each of its stops; `rising` says that these never fall."""

    flow: Flow
    text: Text
    labels: tuple[str, ...] | None
    positions: tuple[int, ...]
    rising: bool


@remembered()
def _own_headings(
    sections: tuple[Section, ...], style: str
) -> tuple[tuple[HeadingSeen, TextFrame], ...]:
    """Headings in texts that pages hold themselves, in their order, each with its frame."""
    found: list[tuple[HeadingSeen, TextFrame]] = []
    position = 0
    for section in sections:
        for page in section.pages:
            position += 1
            here: list[tuple[HeadingSeen, TextFrame]] = []
            for item in page.items:
                if _speaks(item):
                    here += [
                        (
                            HeadingSeen(
                                position, item.y, item.x, h, (h.paragraph, h.offset) == (0, 0)
                            ),
                            item,
                        )
                        for h in headings_in(item.text, style, None)
                    ]
            found += sorted(here, key=lambda each: _place(each[0]))
    return tuple(found)


def _speaks(item: Item) -> TypeGuard[TextFrame]:
    """Whether an item has a text of its own in which headings may stand: no list of them."""
    if not isinstance(item, TextFrame):
        return False
    return bool(item.text) and item.visible and not item.lists


def _position(seen: HeadingSeen) -> int:
    return seen.position


def _place(seen: HeadingSeen) -> tuple[float, float, float]:
    return seen.position, seen.down, seen.across


class Heads:
    """Headings by page, worked out as far as somebody asks: a page needs what comes before it.

    `tellings` gives the stories of the publication when it is first needed, `corner` says how far
    down and across a frame stands on a page, `shown` how many paragraphs of one are printed.
    """

    def __init__(
        self,
        publication: Publication,
        facts: Mapping[str, PageFacts],
        tellings: Callable[[], Sequence[Telling]],
        corner: Callable[[str, str], tuple[float, float]],
        shown: Callable[[str, TextFrame], int],
    ) -> None:
        self._publication, self._facts = publication, facts
        self._tellings, self._corner, self._shown = tellings, corner, shown
        self._own_seen: dict[str, Sequence[HeadingSeen]] = {}
        self._stopping: dict[str, tuple[str, ...]] = {}
        self._stories: Sequence[Telling] | None = None
        self._pages = list(facts)
        self._headings: dict[tuple[int, str], list[Heading]] = {}

    @property
    def stories(self) -> Sequence[Telling]:
        if self._stories is None:
            self._stories = self._tellings()
        return self._stories

    def _in(self, telling: Telling, style: str) -> list[Heading]:
        """The headings of a style in a story."""
        key = id(telling), style
        found = self._headings.get(key)
        if found is None:
            found = self._headings[key] = headings_in(telling.text, style, telling.labels)
        return found

    def chosen(self, head: Head, page_id: str) -> HeadingSeen | None:
        """The heading that a running head shows on a page; None if there is none yet."""
        facts = self._facts[page_id]
        pages = self._over(head, facts)
        if not pages:
            return None
        higher = self._higher(head.style) if head.stops else ()
        if head.which == "at the top":
            here = self.on(head.style, pages[0])
            if here and self._opens_page(here[0]):
                return here[0]
            above = self._above(higher, pages[0]) if higher else []
            if above and self._opens_page(above[0]):
                return None
        elif head.which != "before":
            at = 0 if head.which == "first" else -1
            several = [s for n in pages for s in self.on(head.style, n)]
            above = [s for n in pages for s in self._above(higher, n)] if higher else []
            if several and (at == 0 or not above or _order(above[-1]) < _order(several[-1])):
                return several[at]
            if above:
                return None
        return self._in_force(head.style, pages[0], higher)

    def _higher(self, style: str) -> tuple[str, ...]:
        """The styles of a higher level, at whose paragraphs a head stops."""
        found = self._stopping.get(style)
        if found is None:
            levels = style_levels(self._publication)
            own = levels.get(style, 0)
            found = self._stopping[style] = tuple(s for s, n in levels.items() if n < own)
        return found

    def _above(self, higher: tuple[str, ...], position: int) -> list[HeadingSeen]:
        """The paragraphs of higher levels that begin on a page, in their order."""
        return sorted((s for style in higher for s in self.on(style, position)), key=_order)

    def _in_force(self, style: str, position: int, higher: tuple[str, ...]) -> HeadingSeen | None:
        """The last heading before a page, if none of a higher level has come since."""
        found = self.before(style, position)
        if found is None or not higher:
            return found
        since = (self.before(s, position) for s in higher)
        stopped = any(s is not None and _order(s) > _order(found) for s in since)
        return None if stopped else found

    def _over(self, head: Head, facts: PageFacts) -> list[int]:
        """The positions of the pages that a running head looks at."""
        if head.over == "page":
            return [facts.position]
        around = range(max(facts.position - 1, 1), min(facts.position + 1, len(self._pages)) + 1)
        spread = [n for n in around if self._facts[self._pages[n - 1]].spread == facts.spread]
        if head.over == "spread":
            return spread
        return [n for n in spread if n != facts.position]

    def _opens_page(self, seen: HeadingSeen) -> bool:
        """Whether a heading is the first of all that is said on its page."""
        if not seen.opens:
            return False
        page = self._pages[seen.position - 1]
        return not any(
            (down, across) < (seen.down, seen.across) for down, across in self._texts_on(page)
        )

    def _texts_on(self, page_id: str) -> Iterator[tuple[float, float]]:
        """Where the texts of a page stand: of stories, and its own."""
        for telling in self.stories:
            for item in telling.flow.frames.get(page_id, ()):
                part = telling.flow.part(page_id, item)
                if part is not None and part.lines:
                    yield self._corner(page_id, item)
        for each in find_page(self._publication, page_id).items:
            if _speaks(each):
                yield each.y, each.x

    def on(self, style: str, position: int) -> list[HeadingSeen]:
        """The headings that begin on a page, in the order in which they are read there."""
        page_id = self._pages[position - 1]
        own = self._own(style)
        first = bisect_left(own, position, key=_position)
        last = bisect_left(own, position + 1, key=_position)
        found = list(own[first:last])
        for telling in self.stories:
            found += self._of_story(telling, style, page_id, position)
        return sorted(found, key=_place) if len(found) > 1 else found

    def _of_story(
        self, telling: Telling, style: str, page_id: str, position: int
    ) -> Iterator[HeadingSeen]:
        items = telling.flow.frames.get(page_id)
        headings = self._in(telling, style) if items else []
        if not headings:
            return
        for item in items or ():
            at = telling.flow.index[page_id, item]
            begin, end = telling.flow.start_of(at), telling.flow.start_of(at + 1)
            first = bisect_left(headings, begin, key=_in_text)
            last = bisect_left(headings, end, key=_in_text)
            if first < last:
                down, across = self._read_at(telling, at)
                for heading in headings[first:last]:
                    opens = (heading.paragraph, heading.offset) == begin
                    yield HeadingSeen(position, down, across, heading, opens)

    def _own(self, style: str) -> Sequence[HeadingSeen]:
        """Headings in texts of pages that are printed: a frame may be too low for them."""
        found = self._own_seen.get(style)
        if found is None:
            every = _own_headings(self._publication.sections, style)
            found = self._own_seen[style] = [
                seen for seen, item in every
                if seen.heading.paragraph < self._shown(self.page_of(seen), item)
            ]  # fmt: skip
        return found

    def _read_at(self, telling: Telling, at: int) -> tuple[float, float]:
        """Where a stop stands on its page, or where an earlier one of it does that stands further
        on: a story is read in its own order."""
        stops = telling.flow.stops
        page, item = stops[at].key
        place = self._corner(page, item)
        while at and stops[at - 1].page_id == page:
            at -= 1
            place = max(place, self._corner(*stops[at].key))
        return place

    def everywhere(self, style: str) -> list[HeadingSeen]:
        """All headings of a style that stand on a page, in the order of the pages."""
        found = list(self._own(style))
        shared = {seen.position for seen in found}
        for telling in self.stories:
            headings = self._in(telling, style)
            flow = telling.flow
            places = flow.stops_of([(h.paragraph, h.offset) for h in headings]) if headings else []
            for heading, at in zip(headings, places, strict=True):
                if at is None:
                    continue
                there = telling.positions[at]
                # Where on its page it stands matters only beside headings of other texts.
                alone = len(self.stories) == 1 and there not in shared
                down, across = (0.0, float(at)) if alone else self._read_at(telling, at)
                found.append(HeadingSeen(there, down, across, heading, False))
        return sorted(found, key=_place)

    def page_of(self, seen: HeadingSeen) -> str:
        """The page that a heading stands on."""
        return self._pages[seen.position - 1]

    def before(self, style: str, position: int) -> HeadingSeen | None:
        """The last heading that begins before a page."""
        own = self._own(style)
        at = bisect_left(own, position, key=_position)
        best = own[at - 1] if at else None
        for telling in self.stories:
            found = self._last_before(telling, style, position)
            if found is not None and (best is None or _place(best) <= _place(found)):
                best = found
        return best

    def _last_before(self, telling: Telling, style: str, position: int) -> HeadingSeen | None:
        headings = self._in(telling, style)
        if not headings or not telling.positions:
            return None
        if not telling.rising:
            return self._last_anywhere(telling, headings, position)
        stop = bisect_left(telling.positions, position)  # the first one on the page, or behind it
        if stop == 0:
            return None
        at = bisect_left(headings, telling.flow.start_of(stop), key=_in_text) - 1
        if at < 0:
            return None
        heading = headings[at]
        where = telling.flow.stop_of(heading.paragraph, heading.offset)
        if where is None:
            return HeadingSeen(position - 1, 0.0, 0.0, heading, False)
        down, across = self._read_at(telling, where)
        return HeadingSeen(telling.positions[where], down, across, heading, False)

    def _last_anywhere(
        self, telling: Telling, headings: list[Heading], position: int
    ) -> HeadingSeen | None:
        """The same for a story that goes back to an earlier page."""
        best: HeadingSeen | None = None
        for heading in headings:
            at = telling.flow.stop_of(heading.paragraph, heading.offset)
            there = telling.positions[at] if at is not None else position
            if there < position and (best is None or there >= best.position):
                best = HeadingSeen(there, 0.0, 0.0, heading, False)
        return best


def _in_text(heading: Heading) -> tuple[int, int]:
    return heading.paragraph, heading.offset


def _order(seen: HeadingSeen) -> tuple[float, ...]:
    """Where a heading stands among all of a publication."""
    return *_place(seen), *_in_text(seen.heading)


def said_of(head: Head, heading: Heading) -> str:
    """What a running head shows of a heading."""
    if head.part == "text" or not heading.number:
        return heading.text if head.part != "number" else heading.number
    return heading.number if head.part == "number" else _joined(head, heading)


def _joined(head: Head, heading: Heading) -> str:
    number = heading.number.rstrip() if heading.text else heading.number
    return head.between.join(part for part in (number, heading.text) if part)
