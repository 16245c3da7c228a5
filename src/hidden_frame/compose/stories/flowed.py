"""A story's flow with all that it was made of; while that is the same, it is right."""

from __future__ import annotations

from collections.abc import Callable
from operator import is_
from typing import NamedTuple

from hidden_frame.compose.context import Context
from hidden_frame.compose.given import Given
from hidden_frame.compose.markers import steady_value
from hidden_frame.compose.numbers import Counted, counting_on, labels
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.compose.stories.stops import PageInFlow, Stop, stops_of
from hidden_frame.compose.textspec import Numbered, StorySpecs, edited_specs, story_specs
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Marker


class Flowed(NamedTuple):
    """`pages` is all that its stops depend on."""

    pages: tuple[object, ...]
    stops: tuple[Stop, ...]
    text: Numbered
    shown: tuple[object, ...]
    specs: StorySpecs
    flow: Flow


def flowed(
    publication: Publication,
    story: Story,
    context: Context,
    view: Callable[[Page], PageInFlow],
    before: Flowed | None,
    given: Given = Given(),
) -> Flowed:
    """A story in its frames; `before` is how it was, `view` what a page shows."""
    pages = _pages(publication, context)
    if before is not None and _same(before.pages, pages):
        stops = before.stops
    else:
        stops = tuple(stops_of(publication, story, context, view))
        if before is not None and before.stops == stops:
            stops = before.stops
    text = story.text
    pages_here, about = len(all_pages(publication)), publication.about.language
    shown = (
        context.known, pages_here, publication.title, publication.details, about, story.name,
        given, given.today,
    )  # fmt: skip

    def value(marker: Marker) -> str:
        return steady_value(marker, pages_here, publication, story.name, given)

    now = Numbered(text, labels(text, context.known, _counted_before(publication, story, context)))
    if before is None or before.shown != shown:
        specs = story_specs(text, context.known, value, now.labels)
    elif before.text.text is text and before.text.labels == now.labels:
        specs = before.specs
    else:
        specs = edited_specs(before.specs, before.text, now, context.known, value)
    if before is not None and before.stops is stops and before.specs is specs:
        return before._replace(pages=pages)
    found = Flow(stops, specs, before.flow if before is not None else None)
    return Flowed(pages, stops, now, shown, specs, found)


def _counted_before(
    publication: Publication, story: Story, context: Context
) -> tuple[Counted, ...]:
    """What earlier stories count that this one goes on from."""
    at = publication.stories.index(story)
    return counting_on((s.text for s in publication.stories[:at]), context.known)


def _pages(publication: Publication, context: Context) -> tuple[object, ...]:
    return (
        publication.sections,
        publication.masters,
        publication.default_masters,
        context,
        *(story.path for story in publication.stories),
    )


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return len(one) == len(other) and all(map(is_, one, other))
