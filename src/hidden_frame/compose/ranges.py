"""Ranges of pages as people type them (R9).

>>> len(pages_in_range(publication, "3, 7, 10-14"))
7
>>> len(pages_in_range(publication, "i–ii, #9, odd"))
9
"""

from __future__ import annotations

import re

from hidden_frame.compose.facts import PageFacts, page_facts
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication

_DASH = re.compile(r"\s*[-–—]\s*")


def pages_in_range(publication: Publication, text: str) -> list[str]:
    """Ids of the pages meant, in order, each once.

    A part is `all`, `odd`, `even`, `rectos`, `versos`, `first pages` (of sections), `without items`
    of their own, a page, or two pages with a dash.  A page is its
    folio as printed, or its position: always so after `#`, and for a plain number
    that is no page's folio.  Odd and even go by the printed number, by the position
    where none is printed.  Raises `Refusal` naming the part that means nothing.
    """
    facts = list(page_facts(publication).values())
    parts = [part.strip() for part in text.split(",")]
    if not any(parts):
        raise Refusal("The range is empty; write for example 3, 7, 12-18 or all.", field="pages")
    chosen: set[int] = set()
    for part in parts:
        chosen.update(_part(part, facts, publication))
    return [f.page_id for f in facts if f.position in chosen]


def _part(part: str, facts: list[PageFacts], publication: Publication) -> list[int]:
    word = " ".join(part.casefold().split())
    if word == "all":
        return [f.position for f in facts]
    if word in ("odd", "even"):
        wanted = word == "odd"
        return [f.position for f in facts if _number(f) % 2 == wanted]
    if word in ("rectos", "versos"):
        return [f.position for f in facts if f"{f.side}s" == word]
    if word == "first pages":
        opening = {s.pages[0].id for s in publication.sections if s.pages}
        return [f.position for f in facts if f.page_id in opening]
    if word == "without items":
        bare = {p.id for s in publication.sections for p in s.pages if not p.items}
        return [f.position for f in facts if f.page_id in bare]
    single = _find(part, facts)
    if single is not None:
        return [single]
    # A folio may hold a dash itself (“A-3”), so every dash is tried as the divider.
    for dash in _DASH.finditer(part):
        first = _find(part[: dash.start()], facts)
        last = _find(part[dash.end() :], facts)
        if first is not None and last is not None:
            if last < first:
                raise Refusal(
                    f"“{part}” runs backwards; write the earlier page first.", field="pages"
                )
            return list(range(first, last + 1))
    raise Refusal(
        f"“{part}” names no page; write folios or positions such as 3, 12-18, #5, odd or all.",
        field="pages",
    )


def _number(facts: PageFacts) -> int:
    return facts.number if facts.number is not None and facts.folio else facts.position


def _find(text: str, facts: list[PageFacts]) -> int | None:
    """The position that a folio or `#position` names."""
    text = text.strip()
    if text.startswith("#"):
        digits = text[1:].strip()
        known = digits.isdecimal() and 1 <= int(digits) <= len(facts)
        return int(digits) if known else None
    matches = [f for f in facts if f.folio and f.folio == text]
    matches = matches or [f for f in facts if f.folio and f.folio.casefold() == text.casefold()]
    if len(matches) > 1:
        names = " or ".join(f"#{f.position}" for f in matches[:4])
        raise Refusal(
            f"“{text}” is the folio of {len(matches)} pages; write {names}.", field="pages"
        )
    if matches:
        return matches[0].position
    if text.isdecimal() and 1 <= int(text) <= len(facts):
        return int(text)
    return None


def echo(publication: Publication, page_ids: list[str]) -> str:
    """What a range means, in words: “pages 3, 7 and 12–18: 9 pages, 2 of them set by hand”."""
    known = page_facts(publication)
    positions = sorted(known[i].position for i in page_ids)
    by_position = {f.position: f for f in known.values()}
    spans: list[list[int]] = []
    for position in positions:
        if spans and spans[-1][1] == position - 1:
            spans[-1][1] = position
        else:
            spans.append([position, position])
    label = lambda n: by_position[n].folio or f"#{n}"  # noqa: E731
    names = [label(a) if a == b else f"{label(a)}–{label(b)}" for a, b in spans]
    listed = names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]
    by_hand = sum(
        page.masters is not None
        for section in publication.sections
        for page in section.pages
        if page.id in set(page_ids)
    )
    count = f"{len(positions)} page" + ("" if len(positions) == 1 else "s")
    word = "page" if len(positions) == 1 else "pages"
    return f"{word} {listed}: {count}" + (f", {by_hand} of them set by hand" if by_hand else "")
