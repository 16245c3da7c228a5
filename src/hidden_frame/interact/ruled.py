"""Masters by rule, put on the pages that they are for (R27)."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.ruling import ruled_pages
from hidden_frame.edit.change import change_pages
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import MasterRule, Page, Publication

_ROUNDS = 60


def ruled(publication: Publication, composer: Composer | None = None) -> Publication:
    """The publication with each automatic page in the masters that its rule gives it; itself if
    all are.

    What a page follows moves the text behind it alone, so each round settles at least one page
    more; most books need two.
    """
    composer = composer or Composer()
    for _ in range(_ROUNDS):
        after = _with(publication, ruled_pages(composer.compose(publication)))
        if after is publication:
            break
        publication = after
    return publication


def _with(publication: Publication, rules: dict[str, MasterRule | None]) -> Publication:
    wanted = {page.id for page in all_pages(publication) if _other(page, rules.get(page.id))}
    if not wanted:
        return publication

    def new(page: Page) -> Page:
        rule = rules.get(page.id)
        if rule is None:
            return replace(page, ruled=None, rule="")
        return replace(page, ruled=rule.masters, rule=rule.id)

    return change_pages(publication, wanted, new)


def _other(page: Page, rule: MasterRule | None) -> bool:
    if rule is None:
        return page.ruled is not None or bool(page.rule)
    return (page.ruled, page.rule) != (rule.masters, rule.id)
