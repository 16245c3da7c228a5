"""Stories that do not fit, each with the place where they stop and what helps."""

from __future__ import annotations

from hidden_frame.checks.finding import Finding, Fix, Way
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.compose.notes import notes_in
from hidden_frame.interact.words.storied import Help, helped, offers, state
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Publication


def story_findings(composition: Composition) -> list[Finding]:
    """A finding for each story with words that have no room, and one for notes without a list."""
    found = _unlisted(composition)
    for story in composition.publication.stories:
        flow = composition.flow(story.id)
        if flow.rest is None or not flow.words_left:
            continue
        now = state(composition, story.id)
        last = flow.stops[-1] if flow.stops else None
        page = last.page_id if last is not None else next(iter(composition.facts))
        ways = tuple(
            Way(offer.title, _help(story.id, offer.kind, composition.publication))
            for offer in offers(composition, story.id)
            if offer.kind != "jump"
        )
        found.append(
            Finding(
                "story does not fit", f"The story “{story.name}”: {now.sentence}", page, (page,),
                ways, last.room.item_id if last is not None else None,
            )
        )  # fmt: skip
    return found


def _unlisted(composition: Composition) -> list[Finding]:
    """Notes whose numbers stand in stories while nothing shows what they say."""
    publication = composition.publication
    lists = any(s.notes for s in publication.stories)
    if lists or any(f.notes for f in frames_with_lists(publication.sections)):
        return []
    for story in publication.stories:
        first = next(notes_in(story.text), None)
        if first is not None:
            (paragraph, offset), _ = first
            flow = composition.flow(story.id)
            at = flow.stop_of(paragraph, offset)
            page = flow.stops[at].page_id if at is not None else next(iter(composition.facts))
            count = sum(1 for s in publication.stories for _ in notes_in(s.text))
            what = "1 note is" if count == 1 else f"{grouped(count)} notes are"
            sentence = f"{what} not printed anywhere; choose List of notes on this page."
            return [Finding("notes without a list", sentence, page, (page,))]
    return []


def _help(story_id: str, kind: Help, publication: Publication) -> Fix:
    section = publication.sections[-1].id
    return lambda p: helped(p, story_id, kind, section)
