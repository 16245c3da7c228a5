"""What a step of the history did, in words: what was typed or taken away, and what it brought with
it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from hidden_frame.compose.facts import page_facts
from hidden_frame.edit.text.steps import letters
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.same import same_ends
from hidden_frame.model.text import Paragraph, Text

_MOST = 28  # characters that are quoted
_QUOTED = ("typing", "delete text", "paste text", "move words", "copy words", "correct a word")


def step_told(name: str, before: Publication, after: Publication, page: str = "") -> str:
    """A step's name, what it typed or took away, the folio of the `page` it was done on, and what
    came of it besides.

    >>> from hidden_frame.edit.about import set_title
    >>> step_told("title", publication, set_title(publication, "New"))
    'Title'
    >>> step_told("typing", publication, publication, page).startswith("Typing · ")
    True
    """
    told = [name[:1].upper() + name[1:]]
    if name in _QUOTED:
        words = _words(before, after, page)
        if words:
            told[0] += f" “{words}”"
    known = page_facts(after).get(page) or page_facts(before).get(page)
    if page and known is not None:
        told.append(known.folio or f"#{known.position}")
    if name in _QUOTED or not name.startswith(_OF_PAGES):
        told += brought_along(before, after)
    return " · ".join(told)


# What these do to pages is what they say.
_OF_PAGES = ("add", "delete", "duplicate", "move", "cut", "paste", "remove", "insert", "apply",
             "bring in", "start")  # fmt: skip


def brought_along(before: Publication, after: Publication) -> list[str]:
    """What an edit of something else did to pages: how many more or fewer stories need, and how
    many a rule gave other masters."""
    told: list[str] = []
    if before.sections is after.sections:
        return told
    old, new = all_pages(before), all_pages(after)
    more = sum(p.made for p in new) - sum(p.made for p in old)
    if more:
        told.append(f"{pages_counted(abs(more))} {'more' if more > 0 else 'fewer'}")
    ruled = _ruled(old, new)
    if ruled:
        told.append(f"other masters by rule on {ruled}")
    return told


def _ruled(old: Sequence[Page], new: Sequence[Page]) -> int:
    head, foot = same_ends(old, new)
    was = {p.id: p.ruled for p in old[head : len(old) - foot]}
    there = new[head : len(new) - foot]
    return sum(p.id in was and (was[p.id] or ()) != (p.ruled or ()) for p in there)


def _words(before: Publication, after: Publication, page: str) -> str:
    """The characters that came in, or where none did those that went."""
    for old, new in _changed(before, after, page):
        head, foot = same_ends(old, new)
        was = _line(old[head : len(old) - foot])
        now = _line(new[head : len(new) - foot])
        start = next((n for n, (a, b) in enumerate(zip(was, now, strict=False)) if a != b), None)
        start = min(len(was), len(now)) if start is None else start
        end = 0
        while end < min(len(was), len(now)) - start and was[-1 - end] == now[-1 - end]:
            end += 1
        came = now[start : len(now) - end] or was[start : len(was) - end]
        if came.strip():
            return _short(came)
    return ""


def _changed(before: Publication, after: Publication, page: str) -> Iterator[tuple[Text, Text]]:
    """The texts that are others now: of stories, and of frames on a page."""
    stories = {s.id: s.text for s in before.stories}
    for story in after.stories:
        old = stories.get(story.id, ())
        if story.text is not old and not story.lists:
            yield old, story.text
    if page in page_facts(before) and page in page_facts(after):
        was = {i.id: i for i in find_page(before, page).items}
        for item in find_page(after, page).items:
            old_item = was.get(item.id)
            if not isinstance(item, TextFrame) or not isinstance(old_item, TextFrame):
                continue
            if item.text is not old_item.text:
                yield old_item.text, item.text


def _line(paragraphs: Sequence[Paragraph]) -> str:
    # As far as anybody would look: a cut chapter need not be joined.
    return "\n".join(letters(p) for p in paragraphs[:40])


def _short(words: str) -> str:
    line = " ".join(words.replace("\ufffc", "").split())
    return line if len(line) <= _MOST else f"{line[:_MOST].rsplit(' ', 1)[0]} …"
