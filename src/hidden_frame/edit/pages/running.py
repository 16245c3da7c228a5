"""Stories that run through sections, as these come, go and move."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.change import change_lists
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import base_chain, stack_of, story_through
from hidden_frame.model.publication import Publication, Section
from hidden_frame.model.stories import Link, MainFrames, Station, Story
from hidden_frame.model.text import Contents


def carried_on(publication: Publication, known: str, new: str, story_ids: set[str]) -> Publication:
    """Stories that flow through a section go on through another one behind it."""
    station = MainFrames(known)

    def through(story: Story) -> Story:
        if story.id not in story_ids or station not in story.path:
            return story
        at = story.path.index(station) + 1
        return replace(story, path=(*story.path[:at], MainFrames(new), *story.path[at:]))

    after = _with_stories(publication, [through(s) for s in publication.stories])
    ended = after is publication and any(station in s.path for s in publication.stories)
    return after if ended else _with_rules(after, known, new)


def _with_rules(publication: Publication, known: str, new: str) -> Publication:
    """What was for a section is for the one that was part of it, too: rules for masters, and what
    contents lists list."""

    def both(sections: tuple[str, ...]) -> tuple[str, ...]:
        return (*sections, new) if known in sections else sections

    if any(known in rule.sections for rule in publication.rules):
        rules = tuple(replace(r, sections=both(r.sections)) for r in publication.rules)
        publication = replace(publication, rules=rules)
    frames = _contents_of(publication)
    if any(known in contents.sections for contents in frames):
        publication = change_lists(
            publication,
            lambda contents: replace(contents, sections=both(contents.sections)),
            lambda index: index,
            lambda notes: notes,
        )
    return publication


def _contents_of(publication: Publication) -> list[Contents]:
    """The contents lists of pages and stories."""
    found = [s.contents for s in publication.stories]
    for section in publication.sections:
        for page in section.pages:
            found += [i.contents for i in page.items if isinstance(i, TextFrame)]
    return [contents for contents in found if contents is not None]


def _with_stories(publication: Publication, stories: list[Story]) -> Publication:
    same = all(a is b for a, b in zip(stories, publication.stories, strict=True))
    return publication if same else replace(publication, stories=tuple(stories))


def in_page_order(before: Publication, after: Publication) -> Publication:
    """Stories that ran through sections in the order of their pages do so after a move."""
    was = {s.id: n for n, s in enumerate(before.sections)}
    now = {s.id: n for n, s in enumerate(after.sections)}

    def new(story: Story) -> Story:
        there = [s for s in story.sections if s in was and s in now]
        if len(there) < 2 or there != sorted(there, key=was.__getitem__):
            return story
        order = iter(sorted(there, key=now.__getitem__))
        path = tuple(
            MainFrames(next(order)) if isinstance(s, MainFrames) and s.section in there else s
            for s in story.path
        )
        return story if path == story.path else replace(story, path=path)

    return _with_stories(after, [new(story) for story in after.stories])


def handed_on(publication: Publication, gone: Section, heir: Section) -> Publication:
    """A publication in which the pages of a section that is gone are another's: stories that flowed
    through the one flow through the other now.

    Where another story flows through that one, each keeps its pages: their frames are linked by
    hand.
    """
    old, new = MainFrames(gone.id), MainFrames(heir.id)

    def through(story: Story) -> Story:
        if old not in story.path:
            return story
        at = story.path.index(old)
        kept = (*story.path[:at], *story.path[at + 1 :])
        if new in story.path:
            return replace(story, path=kept)
        other = story_through(publication, heir.id)
        stations = [new] if other is None else _main_links(publication, gone)
        return replace(story, path=(*kept[:at], *stations, *kept[at:]))

    return _with_stories(publication, [through(s) for s in publication.stories])


def _main_links(publication: Publication, section: Section) -> list[Station]:
    """The main frames that the pages of a section have now, each as a station of its own."""
    links: list[Station] = []
    for page in section.pages:
        chains = [base_chain(publication, m) for m in stack_of(publication, page)]
        carried = [i for chain in chains for master in chain for i in master.items]
        frames = [i for i in (*carried, *page.items) if isinstance(i, TextFrame) and i.main]
        found = {frame.id: frame for frame in frames}
        links += [Link(page.id, f.id) for f in sorted(found.values(), key=lambda f: f.main)]
    return links
