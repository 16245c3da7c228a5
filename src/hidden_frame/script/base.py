"""What a document is at its core: a value of the model that edits replace, and things by their
names."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from typing import Any

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import PageFacts, page_facts
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.edit.history import History, redo, undo
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Alignment, Text
from hidden_frame.model.valid import check_change
from hidden_frame.script.holders import MasterPage, PageOf, property_of
from hidden_frame.script.section import Section
from hidden_frame.script.values import Words, text_of
from hidden_frame.settle.opening import opened_settled
from hidden_frame.settle.step import step

Where = int | str | PageOf


class Base:
    """Part of `Document`."""

    def __init__(self, publication: Publication, blobs: Mapping[str, bytes] | None = None) -> None:
        self._composer = Composer()
        publication, told = opened_settled(publication, self._composer)
        self._history = History.of(publication)
        self._draft: Publication | None = None  # while several edits are made as one step
        self.blobs = dict(blobs or {})
        self.notices = [told] if told else []

    # -- the value -------------------------------------------------------------------

    @property
    def publication(self) -> Publication:
        """The model's value as it is now.

        >>> book.publication.title
        'Field notes'
        """
        return self._history.now if self._draft is None else self._draft

    @property
    def facts(self) -> Mapping[str, PageFacts]:
        """What can be said of each page from its place, by page id.

        >>> book.facts[book.page(3).id].side
        'recto'
        """
        return page_facts(self.publication)

    def composition(self) -> Composition:
        """All pages laid out, as they are now.

        >>> len(book.composition().scenes())
        16
        """
        return self._composer.compose(self.publication)

    def edit(self, name: str, change: Callable[[Publication], Publication]) -> None:
        """Any edit of `hidden_frame.edit`, as one step.

        >>> from hidden_frame.edit.pages.ties import tie
        >>> book.edit("tie", lambda p: tie(p, book.page(2).id, book.page(3).id))
        >>> book.page(2).page.tie == book.page(3).page.tie
        True
        """
        if self._draft is not None:
            changed = change(self._draft)
            self._draft = check_change(self._draft, changed)
        else:
            self._history = step(self._history, name, change, self._composer)

    @contextmanager
    def step(self, name: str) -> Iterator[None]:
        """Several edits as one step, which pages, lists and references follow once, at its end.

        An exception within takes all of them back.

        >>> with book.step("small notes"):
        ...     book.style("Small note", based_on="Body", size=7)
        ...     added = book.add_pages(2)
        >>> book.undo()
        >>> len(book.pages)
        16
        """
        if self._draft is not None:  # part of the step that is under way
            yield
            return
        self._draft = self.publication
        try:
            yield
            draft = self._draft
        finally:
            self._draft = None
        self._history = step(self._history, name, lambda _: draft, self._composer)

    def undo(self, steps: int = 1) -> None:
        """Takes back the last steps, as far as there are any.

        >>> book.set_title("Other")
        >>> book.undo()
        >>> book.publication.title
        'Field notes'
        """
        for _ in range(steps):
            self._history = undo(self._history)

    def redo(self, steps: int = 1) -> None:
        """Brings back what was undone.

        >>> book.set_title("Other")
        >>> book.undo()
        >>> book.redo()
        >>> book.publication.title
        'Other'
        """
        for _ in range(steps):
            self._history = redo(self._history)

    # -- things by their names ---------------------------------------------------------

    @property
    def pages(self) -> list[PageOf]:
        """Every page in order.

        >>> len(book.pages)
        16
        """
        return [PageOf(self, page.id) for page in all_pages(self.publication)]

    def page(self, where: Where) -> PageOf:
        """A page by its position (a number), or as a range names it: "iv", "#5".  Raises `Refusal`
        for what names none, or several.

        >>> book.page("1-3")
        Traceback (most recent call last):
        ...
        hidden_frame.model.errors.Refusal: “1-3” names 3 pages; name one, or use page_ids.
        """
        found = self.page_ids(where)
        if len(found) != 1:
            raise Refusal(f"“{where}” names {len(found)} pages; name one, or use page_ids.",
                          field="where")  # fmt: skip
        return PageOf(self, found[0])

    def page_ids(self, where: Where | Iterable[Where]) -> list[str]:
        """Ids of the pages meant: positions, ranges such as "3-16" or "iv-ix, odd", pages.

        >>> len(book.page_ids("#1-#4")), len(book.page_ids([1, "i-ii"]))
        (4, 3)
        """
        if isinstance(where, PageOf):
            return [where.id]
        if isinstance(where, str):
            return pages_in_range(self.publication, where)
        if isinstance(where, int):
            return pages_in_range(self.publication, f"#{where}")
        return [page_id for each in where for page_id in self.page_ids(each)]

    @property
    def sections(self) -> list[Section]:
        """Every section in order.

        >>> [section.name for section in book.sections]
        ['Front matter', 'Body']
        """
        return [Section(self, section.id) for section in self.publication.sections]

    def section(self, name: Section | str) -> Section:
        """A section by its name.  Raises `Refusal` for one that is not there.

        >>> book.section("Body").pages[0].folio
        '1'
        """
        if isinstance(name, Section):
            return name
        return Section(self, self._named("section", name, self.publication.sections))

    def master(self, name: MasterPage | str) -> MasterPage:
        """A master by its name.

        >>> book.master("base").name
        'Base'
        """
        if isinstance(name, MasterPage):
            return name
        return MasterPage(self, self._named("master", name, self.publication.masters))

    def paragraph_style(self, name: str) -> str:
        """A paragraph style's id by its name.

        >>> book.paragraph_style("Heading")
        'heading'
        """
        return self._named("paragraph style", name, self.publication.paragraph_styles)

    def character_style_id(self, name: str) -> str:
        """A character style's id by its name.

        >>> book.character_style_id("Strong")
        'strong'
        """
        return self._named("character style", name, self.publication.character_styles)

    def layer(self, name: str) -> str:
        """A layer's id by its name.

        >>> book.layer("Above")
        'above'
        """
        return self._named("layer", name, self.publication.layers)

    def colour(self, name: str) -> str:
        """A colour's id by its name.

        >>> book.colour("Ochre")
        'ochre'
        """
        return self._named("colour", name, self.publication.colours)

    def _named(self, kind: str, name: str, values: Iterable[Any]) -> str:
        """The id of what has this name, or this id."""
        wanted = name.casefold()
        several = list(values)
        for value in several:
            if wanted in (value.name.casefold(), value.id):
                return str(value.id)
        names = ", ".join(value.name for value in several)
        raise Refusal(f"There is no {kind} “{name}”; there are {names}.")

    def text(self, words: Words, style: str, align: Alignment | None) -> Text:
        """What a script says, as the model's paragraphs.

        >>> two = hf.paragraph("Two", style="Heading")
        >>> [p.style for p in book.text(["One", two], "Body", None)]
        ['body', 'heading']
        """
        return text_of(words, style, align, self.paragraph_style, self.character_style_id)

    def properties(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """An item's properties as the model has them.

        >>> book.properties({"x": "1in", "fill": "Ochre"})["x"]
        72.0
        """
        changes = {name: property_of(name, v, self.colour) for name, v in given.items()}
        if changes.get("text_style") is not None:
            changes["text_style"] = self.paragraph_style(changes["text_style"])
        if "layer" in changes:
            changes["layer"] = self.layer(changes["layer"])
        if isinstance(changes.get("text"), str):
            changes["text"] = self.text(changes["text"], "Body", None)
        return changes
