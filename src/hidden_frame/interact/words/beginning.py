"""Which paragraph a section can begin with: a heading that begins on its page."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.heads import plain_words
from hidden_frame.edit.pages.sections import StoryPlace
from hidden_frame.interact.hands.likely import heading_styles
from hidden_frame.model.errors import Refusal


class Start(NamedTuple):
    """A paragraph of a story that begins on a page, what it says, and the id by which it is
    referred to ("": nothing does)."""

    place: StoryPlace
    words: str
    style: str
    named: str


def shortened(words: str, most: int = 36) -> str:
    """Words to call a paragraph by: the first of them, where there are many.

    >>> shortened("The Ledger and all that was written in it", 20)
    'The Ledger and all…'
    """
    if len(words) <= most:
        return words
    return words[:most].rsplit(" ", 1)[0].rstrip(" ,;:.") + "…"


def starts_on(composition: Composition, page_id: str) -> list[Start]:
    """The paragraphs of stories that begin on a page and say something, in their order."""
    found: list[Start] = []
    for story in composition.publication.stories:
        flow = composition.flow(story.id)
        if story.lists or page_id not in flow.frames:
            continue
        for item in flow.frames[page_id]:
            at = flow.index[page_id, item]
            (first, offset), (end, behind) = flow.start_of(at), flow.start_of(at + 1)
            for n in range(first + (offset > 0), min(end + (behind > 0), len(story.text))):
                words = plain_words(story.text[n])
                if words:
                    text = story.text[n]
                    found.append(Start(StoryPlace(story.id, n), words, text.style, text.place))
    return found


def heading_on(composition: Composition, page_id: str) -> Start | None:
    """The heading with which a section that starts on a page can begin: the highest that begins
    there, and of several the first; None where none does."""
    styles = heading_styles(composition.publication)
    here = [s for s in starts_on(composition, page_id) if s.style in styles]
    return min(here, key=lambda s: styles.index(s.style), default=None)


def paragraph_saying(composition: Composition, page_id: str, words: str) -> StoryPlace:
    """The first paragraph that begins on a page and says these words at its head."""
    wanted = " ".join(words.split()).casefold()
    here = starts_on(composition, page_id)
    for start in here:
        if start.words.casefold().startswith(wanted):
            return start.place
    there = ", ".join(f"“{s.words[:40]}”" for s in here[:5]) or "none"
    raise Refusal(
        f"No paragraph that begins on that page starts with “{words}”; those that begin there are "
        f"{there}.",
        field="words",
    )
