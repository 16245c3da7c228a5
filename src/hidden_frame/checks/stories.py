"""Stories that do not fit, each with the place where they stop and what helps."""

from __future__ import annotations

from hidden_frame.checks.finding import Finding, Fix, Way
from hidden_frame.compose.composer import Composition
from hidden_frame.interact.storied import Help, helped, offers, state
from hidden_frame.model.publication import Publication


def story_findings(composition: Composition) -> list[Finding]:
    """A finding for each story with words that have no room."""
    found = []
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


def _help(story_id: str, kind: Help, publication: Publication) -> Fix:
    section = publication.sections[-1].id
    return lambda p: helped(p, story_id, kind, section)
