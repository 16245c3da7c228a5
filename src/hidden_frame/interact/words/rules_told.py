"""Rules for masters, in words: what each says, and which pages it catches."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from hidden_frame.compose.facts import page_facts
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, base_chain, masters_by_id
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import Master, MasterRule, Page, Publication

_WHEN = {
    "first": "First page of a section", "last": "Last page of a section",
    "odd": "Odd pages", "even": "Even pages", "no text": "Pages without any text",
}  # fmt: skip
_UNTIL = {
    "page": "that page only",
    "section": "until the section ends",
    "rule": "until another rule",
}


def cause_in_words(publication: Publication, rule: MasterRule) -> str:
    """“Chapter title begins”, “Odd pages of Spring”."""
    names = {s.id: s.name for s in publication.paragraph_styles}
    what = f"{names.get(rule.style, '?')} begins" if rule.when == "style" else _WHEN[rule.when]
    sections = [s.name or "a section without a name" for s in publication.sections
                if s.id in rule.sections]  # fmt: skip
    if rule.sections:
        what += f" in {' and '.join(sections) or 'a section that is gone'}"
    return what


def rule_in_words(publication: Publication, rule: MasterRule) -> str:
    """“Chapter title begins → Opener, that page only”."""
    known = masters_by_id(publication)
    stack = " + ".join(known[m].name for m in rule.masters if m in known) or "no master"
    until = f", {_UNTIL[rule.until]}" if rule.when == "style" else ""
    return f"{cause_in_words(publication, rule)} → {stack}{until}"


def caught(publication: Publication, rule_id: str) -> list[Page]:
    """The pages that follow a rule now, in order."""
    return [p for p in all_pages(publication) if p.rule == rule_id and p.masters is None]


def caught_in_words(publication: Publication, rule_id: str) -> str:
    """“14 pages: 1, 15, 29 …”."""
    facts = page_facts(publication)
    names = [facts[p.id].folio or f"#{facts[p.id].position}" for p in caught(publication, rule_id)]
    if not names:
        return "no page now"
    listed = ", ".join(names[:8]) + (" …" if len(names) > 8 else "")
    return f"{pages_counted(len(names))}: {listed}"


def followed_rule(publication: Publication, page: Page) -> MasterRule | None:
    """The rule that a page follows; None if it follows none."""
    if page.masters is not None or not page.rule:
        return None
    return next((r for r in publication.rules if r.id == page.rule), None)


def no_room(publication: Publication, rule: MasterRule) -> str:
    """Why text could not begin on the pages of a rule of a style: its masters have no main frame;
    "" if they have one, or no story flows through the rule's sections."""
    sections = set(rule.sections) or {s.id for s in publication.sections}
    through = any(sections & set(story.sections) for story in publication.stories)
    if rule.when != "style" or not through or any(map(_carries, _chain(publication, rule.masters))):
        return ""
    known = masters_by_id(publication)
    names = " and ".join(known[m].name for m in rule.masters if m in known) or "A page without any"
    return (
        f"{names} has no main frame, so no text could begin on its pages and the rule is passed "
        "over; give it one, or choose another master."
    )


def _chain(publication: Publication, stack: Iterable[str]) -> Iterator[Master]:
    for master in stack:
        yield from base_chain(publication, master)


def _carries(master: Master) -> bool:
    """Whether a master itself has a main frame."""
    return any(isinstance(i, TextFrame) and i.main and i.visible for i in master.items)


def master_for_rule(publication: Publication) -> str:
    """The master that a new rule puts pages in: the last one that takes text and that pages don't
    follow anyway; failing that, any that takes text, or is there."""
    usual = {m for s in publication.sections for m in (s.masters or publication.default_masters)}
    takes = [m.id for m in publication.masters if any(map(_carries, _chain(publication, [m.id])))]
    others = [m for m in takes if m not in usual]
    return next(iter([*others[-1:], *takes[-1:], *(m.id for m in publication.masters[-1:])]), "")
