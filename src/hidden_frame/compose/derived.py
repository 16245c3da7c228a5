"""What the laid-out text says of each page: running heads, and where stories come from and go."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import pairwise
from typing import TYPE_CHECKING

from hidden_frame.compose.cascade import shown_on
from hidden_frame.compose.context import context_of
from hidden_frame.compose.drawing import paragraphs_shown
from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.heads import Heads, Telling, said_of
from hidden_frame.compose.markers import marker_label, markers_in
from hidden_frame.compose.stories.stops import Stop
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, stories_on
from hidden_frame.model.memory import remembered
from hidden_frame.model.text import Marker

if TYPE_CHECKING:
    from hidden_frame.compose.composition import Composition


@remembered()
def _positions(
    stops: tuple[Stop, ...], facts: Mapping[str, PageFacts]
) -> tuple[tuple[int, ...], bool]:
    """The position of the page of each stop, and whether these never fall."""
    found = tuple(facts[stop.page_id].position for stop in stops)
    return found, all(a <= b for a, b in pairwise(found))


class TextFacts:
    """Facts of a composition that depend on its texts."""

    def __init__(self, composition: Composition) -> None:
        self.composition = composition
        self.heads = Heads(
            composition.publication, composition.facts, self._tellings, self._corner, self._shown
        )

    def _tellings(self) -> list[Telling]:
        composition, found = self.composition, []
        for story in composition.publication.stories:
            if story.lists:
                continue  # what it says stands elsewhere
            flow = composition.flow(story.id)
            labels = composition.labels(story.id)
            places = _positions(flow.stops, composition.facts)
            found.append(Telling(flow, story.text, labels, *places))
        return found

    def _corner(self, page_id: str, item_id: str) -> tuple[float, float]:
        """How far down and across a frame stands on a page."""
        composition = self.composition
        view = composition.view(find_page(composition.publication, page_id))
        resolved = next((r for r in view.items if r.item.id == item_id), None)
        if resolved is None:
            return 0.0, 0.0
        item = shown_on(resolved, view.side, composition.publication.setup)
        return item.y, item.x

    def _shown(self, page_id: str, frame: TextFrame) -> int:
        """How many paragraphs of a frame's own text are printed; markers count as their labels."""
        if frame.grows:
            return len(frame.text)
        publication = self.composition.publication
        values = tuple(marker_label(m, publication) for m in markers_in(frame.text))
        side = self.composition.facts[page_id].side
        return paragraphs_shown(frame, side, values, context_of(publication).known)

    def said(self, marker: Marker, facts: PageFacts) -> str:
        """What a marker shows that depends on texts."""
        match marker.shows:
            case "running head":
                if marker.head is None:
                    return ""
                seen = self.heads.chosen(marker.head, facts.page_id)
                return said_of(marker.head, seen.heading) if seen is not None else ""
            case "story name":
                stories = stories_on(self.composition.publication, facts.page_id)
                return stories[0].name if stories else ""
            case "facing folio":
                return self._facing(facts)
            case "continued on" | "continued from":
                return self._elsewhere(facts, 1 if marker.shows == "continued on" else -1)
        return ""

    def short(self, marker: Marker, facts: PageFacts) -> str:
        """The short form of the heading that a running head shows; "" if it has none."""
        if marker.head is None:
            return ""
        seen = self.heads.chosen(marker.head, facts.page_id)
        return seen.heading.short if seen is not None else ""

    def _facing(self, facts: PageFacts) -> str:
        everything = self.composition.facts
        return next(
            (f.folio for f in everything.values()
             if f.spread == facts.spread and f.page_id != facts.page_id), "",
        )  # fmt: skip

    def _elsewhere(self, facts: PageFacts, by: int) -> str:
        """The folio of the page on which the story of this page goes on, or which it comes from;
        "" where it does neither."""
        composition = self.composition
        for story in stories_on(composition.publication, facts.page_id):
            flow = composition.flow(story.id)
            here = [flow.index[facts.page_id, i] for i in flow.frames.get(facts.page_id, ())]
            if not here:
                continue
            at = (max(here) if by > 0 else min(here)) + by
            if by > 0 and flow.start_of(at) == (len(flow.specs.recto), 0):
                return ""
            if 0 <= at < len(flow.stops):
                return composition.facts[flow.stops[at].page_id].folio
        return ""
