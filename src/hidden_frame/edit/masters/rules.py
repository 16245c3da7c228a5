"""The ordered list of rules for masters."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.change import new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import MasterRule, Publication


def find_rule(publication: Publication, rule_id: str) -> MasterRule:
    """A rule by its id.  Raises `Refusal`."""
    for rule in publication.rules:
        if rule.id == rule_id:
            return rule
    raise Refusal("This rule for masters is not there any more.")


def add_rule(publication: Publication, **said: object) -> tuple[Publication, str]:
    """A rule at the end of the list, and its id."""
    publication, (rule_id,) = new_ids(publication, "rule", 1)
    rule = MasterRule(id=rule_id, **said)  # type: ignore[arg-type]
    return replace(publication, rules=(*publication.rules, rule)), rule_id


def change_rule(publication: Publication, rule_id: str, **said: object) -> Publication:
    """A rule that says something else."""
    find_rule(publication, rule_id)
    return replace(
        publication,
        rules=tuple(replace(r, **said) if r.id == rule_id else r for r in publication.rules),
    )


def remove_rule(publication: Publication, rule_id: str) -> Publication:
    """Without a rule; its pages go back to what they follow anyway."""
    return replace(publication, rules=tuple(r for r in publication.rules if r.id != rule_id))


def move_rule(publication: Publication, rule_id: str, by: int) -> Publication:
    """A rule so many places further down the list: the first one that is for a page counts."""
    rule = find_rule(publication, rule_id)
    rest = [r for r in publication.rules if r.id != rule_id]
    at = min(max(publication.rules.index(rule) + by, 0), len(rest))
    return replace(publication, rules=(*rest[:at], rule, *rest[at:]))
