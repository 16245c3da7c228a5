"""Rules for masters, in words: what each says, and which pages it catches."""

from __future__ import annotations

from hidden_frame.compose.facts import page_facts
from hidden_frame.model.lookup import all_pages, masters_by_id
from hidden_frame.model.publication import MasterRule, Page, Publication

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
    return f"{len(names)} page{'s' * (len(names) != 1)}: {listed}"


def followed_rule(publication: Publication, page: Page) -> MasterRule | None:
    """The rule that a page follows; None if it follows none."""
    if page.masters is not None or not page.rule:
        return None
    return next((r for r in publication.rules if r.id == page.rule), None)
