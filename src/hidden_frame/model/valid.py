"""The limits of the model, asked before a change is taken: what is kept can be opened again.

The limits stand in the types of the model (`Meta`) and in `invariants`, once.  Opening a file
decodes it by these types; the same is done here with whatever a change has made anew, so the
work is in proportion to the change.

>>> from hidden_frame.model.styles import ComputedStyle
>>> check_change(publication, publication) is publication  # raises `Refusal` for what is wrong
True
>>> tuple(limits(ComputedStyle, "size"))
(0, 2000)
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from functools import cache
from typing import Any, NamedTuple

import msgspec
from msgspec import Struct
from msgspec.inspect import FloatType, IntType, UnionType, type_info

from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import (
    check,
    fresh_paragraphs,
    holder_problems,
    id_problems,
    named_problems,
    story_problems,
    style_problems,
)
from hidden_frame.model.lookup import all_pages, masters_by_id, positions
from hidden_frame.model.number_format import figure
from hidden_frame.model.publication import Master, Page, Publication, Section
from hidden_frame.model.same import same_ends
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Paragraph

# What others refer to by id: where one of these goes, everything is looked at.
_NAMED = ("layers", "colours", "paragraph_styles", "character_styles", "pictures", "masters")


def check_change(before: Publication, after: Publication) -> Publication:
    """The changed publication, or a `Refusal` with one sentence about what is beyond a limit."""
    if after is before:
        return after
    changed = list(_changed(before, after))
    for value in changed:
        check_value(value)
    if any(_gone(getattr(before, name), getattr(after, name)) for name in _NAMED):
        return check(after)
    problems: list[Iterator[str]] = []
    if any(not isinstance(v, Page | Master | Story | Paragraph) for v in changed):
        problems.append(style_problems(after))
    if before.stories is not after.stories:
        problems.append(story_problems(after, before))
    owners = [v for v in changed if isinstance(v, Page | Master)]
    problems.append(holder_problems(after, owners, _sound(before, owners)))
    if _ids(before) != _ids(after):
        known = _only_new_ids(before, after, owners)
        problems.append(named_problems(after) if known else id_problems(after))
    for found in problems:
        for problem in found:
            raise Refusal(problem)
    return after


def _sound(before: Publication, owners: Iterable[Page | Master]) -> frozenset[int]:
    """The items that these pages and masters had before: they were looked at then."""
    earlier = (_earlier(before, holder.id) for holder in owners)
    return frozenset(id(item) for old in earlier if old is not None for item in old.items)


def _earlier(before: Publication, holder_id: str) -> Page | Master | None:
    """The page or master that had an id."""
    position = positions(before).get(holder_id)
    return (
        all_pages(before)[position - 1] if position is not None
        else masters_by_id(before).get(holder_id)
    )  # fmt: skip


def _gone(before: tuple[Any, ...], after: tuple[Any, ...]) -> bool:
    """Whether something that may be referred to is not there any more."""
    if before is after:
        return False
    return bool(set(map(_key, before)) - set(map(_key, after)))


def _key(value: Any) -> str:
    return str(getattr(value, "id", "") or value.hash)


def _ids(publication: Publication) -> tuple[object, ...]:
    """What tells whether ids may have come or gone: cheap, and different if they did."""
    pages = sum(len(s.pages) for s in publication.sections)
    named = len(publication.masters), len(publication.sections), len(publication.stories)
    return (publication.next_id, *named, pages)


def _only_new_ids(
    before: Publication, after: Publication, changed: Iterable[Page | Master]
) -> bool:
    """Whether nothing but pages and items came into being, under numbers that were given just now,
    or went: these can't be anything else's, so that the other ids need not be looked at."""
    if _ids(before)[1:-1] != _ids(after)[1:-1] or after.next_id < before.next_id:
        return False
    if len(positions(after)) < len(all_pages(after)):
        return False
    made: list[str] = []
    for holder in changed:
        old = _earlier(before, holder.id)
        if old is None:
            made.append(holder.id)
        there = {item.id for item in old.items} if old is not None else set()
        made += [item.id for item in holder.items if item.id not in there]
    numbers = [int(tail) if (tail := i.rpartition("-")[2]).isdecimal() else -1 for i in made]
    fresh = all(before.next_id <= number < after.next_id for number in numbers)
    return fresh and len(set(made)) == len(made)


def _changed(before: Publication, after: Publication) -> Iterator[Struct]:
    """What is not the same object as before: pages and masters, or small parts of the whole."""
    known = {id(m) for m in before.masters}
    yield from (m for m in after.masters if id(m) not in known)
    if before.sections is not after.sections:
        yield from _fresh_pages(before.sections, after.sections)
        sections = {id(s) for s in before.sections}
        for section in after.sections:
            if id(section) not in sections:
                yield msgspec.structs.replace(section, pages=())
    if before.stories is not after.stories:
        earlier = {s.id: s for s in before.stories}
        for story in after.stories:
            old = earlier.get(story.id)
            if old is not story:
                yield msgspec.structs.replace(story, text=())
                yield from fresh_paragraphs(story, old)
    large = ("masters", "sections", "stories")
    parts = [n for n in Publication.__struct_fields__ if n not in large]
    if any(getattr(before, n) is not getattr(after, n) for n in parts):
        yield msgspec.structs.replace(after, masters=(), sections=(), stories=())


def _fresh_pages(before: tuple[Section, ...], after: tuple[Section, ...]) -> Iterator[Page]:
    """The pages that are not the same objects as before: most stand where they stood."""
    old = {section.id: section.pages for section in before}
    moved: list[Page] = []
    there: set[int] = set()
    for section in after:
        was = old.pop(section.id, ())
        head, foot = same_ends(was, section.pages)
        moved += section.pages[head : len(section.pages) - foot]
        there.update(map(id, was[head : len(was) - foot]))
    there.update(id(page) for pages in old.values() for page in pages)
    yield from (page for page in moved if id(page) not in there)


def check_value(value: Struct) -> None:
    """Raises `Refusal` for a value that its own type would not take from a file."""
    try:
        opened = msgspec.json.decode(msgspec.json.encode(value), type=type(value))
    except msgspec.ValidationError as error:
        raise Refusal(_sentence(str(error), value)) from error
    except UnicodeEncodeError as error:
        raise Refusal("This text contains a broken character; delete it.") from error
    if opened != value:  # infinities come back as nothing at all
        name = getattr(value, "name", "")
        where = f"“{name}” holds" if name else "This holds"
        raise Refusal(f"{where} a number that is not finite; enter another.")


_STEP = re.compile(r"\.(\w+)|\[(\d+)\]")
_LIMIT = re.compile(r"Expected `\w+` (<=|>=|<|>) ([\d.e+-]+)")
_WORDS = {"<=": "at most", ">=": "at least", "<": "less than", ">": "more than"}


def _sentence(message: str, value: Any) -> str:
    """“Heading”: size is 3000; it must be at most 2000."""
    what, _, path = message.partition(" - at ")
    named, name, at = "", "", value
    for step in _STEP.finditer(path):
        named = getattr(at, "name", "") or named
        name = step[1] or name
        try:
            at = getattr(at, step[1]) if step[1] else at[int(step[2])]
        except (AttributeError, IndexError, TypeError):
            break
    label = name.replace("_", " ") or "A value"
    where = f"“{named}”: {label}" if named else label[:1].upper() + label[1:]
    limit = _LIMIT.search(what)
    if limit:
        return f"{where} is {figure(at)}; it must be {_WORDS[limit[1]]} {figure(float(limit[2]))}."
    if isinstance(at, float):
        return f"{where} is no number; give another."
    return f"{where} can't be “{str(at)[:40]}”: {what[:1].lower()}{what[1:]}."


class FieldLimits(NamedTuple):
    """The least and the most that a field takes; None where there is no limit."""

    low: float | None
    high: float | None


@cache
def limits(kind: type[Struct], name: str) -> FieldLimits:
    """The least and the most that a field of the model takes; None where there is no limit.

    A bound that is itself left out ("more than 0") counts as the bound.
    """
    info: Any = next(f.type for f in type_info(kind).fields if f.name == name)  # type: ignore[attr-defined]
    kinds = info.types if isinstance(info, UnionType) else (info,)
    number = next(t for t in kinds if isinstance(t, FloatType | IntType))
    low = number.ge if number.ge is not None else number.gt
    high = number.le if number.le is not None else number.lt
    return FieldLimits(low, high)
