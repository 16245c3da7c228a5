"""Masters by rule, put on the pages that they are for (R27)."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.ruling import ruled_pages
from hidden_frame.edit.change import change_pages
from hidden_frame.model.publication import MasterRule, Page, Publication
from hidden_frame.model.slices import at_once
from hidden_frame.model.sparse import Sparse
from hidden_frame.settle.slices import Slices

_ROUNDS = 60


def ruling(publication: Publication, composer: Composer, sliced: bool = True) -> Slices:
    """The publication with each automatic page in the masters that its rule gives it; itself if
    all are.

    What a page follows moves the text behind it alone, so each round settles at least one page
    more; most books need two.
    """
    for _ in range(_ROUNDS):
        composition = composer.compose(publication)
        if publication.rules:
            through = [s.id for s in publication.stories if s.sections]
            yield from composition.filling(through, sliced)
        after = _with(publication, ruled_pages(composition))
        if after is publication:
            break
        publication = after
    return publication


def ruled(publication: Publication, composer: Composer | None = None) -> Publication:
    """The same in one go."""
    return at_once(ruling(publication, composer or Composer(), sliced=False))


_follow_one: Sparse[Page, bool] = Sparse(lambda page: _other(page, None) or None)


def _with(publication: Publication, rules: dict[str, MasterRule | None]) -> Publication:
    wanted = {
        page.id for section in publication.sections for page in _asked(section.pages, bool(rules))
        if _other(page, rules.get(page.id))
    }  # fmt: skip
    if not wanted:
        return publication

    def new(page: Page) -> Page:
        rule = rules.get(page.id)
        if rule is None:
            return replace(page, ruled=None, rule="")
        return replace(page, ruled=rule.masters, rule=rule.id)

    return change_pages(publication, wanted, new)


def _asked(pages: tuple[Page, ...], by_rule: bool) -> Iterable[Page]:
    """The pages that may be in other masters than they are to be: without any rules only those
    that a rule has put there."""
    return pages if by_rule else (pages[n] for n, _ in _follow_one(pages))


def _other(page: Page, rule: MasterRule | None) -> bool:
    if rule is None:
        return page.ruled is not None or bool(page.rule)
    return (page.ruled, page.rule) != (rule.masters, rule.id)
