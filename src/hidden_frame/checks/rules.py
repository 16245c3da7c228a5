"""What is doubtful about masters by rule: those that catch no page, and pages on which a rule's
effect has moved its cause."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.checks.finding import Finding
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_name
from hidden_frame.compose.ruling import unsettled
from hidden_frame.interact.words.rules_told import caught, no_room, rule_in_words
from hidden_frame.model.lookup import masters_by_id


def rule_findings(composition: Composition) -> Iterator[Finding]:
    """Doubts about rules, in the order of the list."""
    publication, facts = composition.publication, composition.facts
    names = {s.id: s.name for s in publication.paragraph_styles}
    known = masters_by_id(publication)
    for rule in publication.rules:
        if not caught(publication, rule.id):
            why = no_room(publication, rule)
            said = f"The rule “{rule_in_words(publication, rule)}” catches no page"
            yield Finding("idle rule", f"{said}: {why}" if why else f"{said}.")
    for page_id, rule in unsettled(composition):
        stack = " + ".join(known[m].name for m in rule.masters if m in known) or "no master"
        yield Finding(
            "moved cause",
            f"Page {page_name(facts[page_id])} follows {stack} by rule, but with that master the "
            f"paragraph in “{names.get(rule.style, 'its style')}” that triggers the rule moves to "
            "another page. Let the style start on a new page, or give both masters the same text "
            "area.",
            page_id, (page_id,),
        )  # fmt: skip
