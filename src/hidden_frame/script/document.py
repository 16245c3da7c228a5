"""A document: a value of the model that edits replace, with undo."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from hidden_frame.checks.findings import findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import PageFacts, page_facts
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.edit.about import set_detail, set_title
from hidden_frame.edit.history import History, redo, undo
from hidden_frame.edit.looks.colours import add_colour
from hidden_frame.edit.looks.styles import new_paragraph_style, put_paragraph_style
from hidden_frame.edit.masters.apply import (
    add_master,
    apply_masters,
    set_default_masters,
    set_page_layout,
)
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import add_pages_after, delete_pages
from hidden_frame.edit.pages.sections import begin_with, start_section
from hidden_frame.edit.size.resize import Items, resize
from hidden_frame.interact.words.beginning import paragraph_saying
from hidden_frame.interact.words.storied import running_into
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Columns, Size
from hidden_frame.model.lookup import all_pages, paragraph_style
from hidden_frame.model.numbering import NumberingStyle
from hidden_frame.model.publication import Numbering, Publication, Setup
from hidden_frame.model.text import Alignment, Text
from hidden_frame.model.valid import check_change
from hidden_frame.output.pdf import export_pdf
from hidden_frame.output.png import export_png
from hidden_frame.script.holders import MasterPage, PageOf, property_of
from hidden_frame.script.values import (
    Length,
    MarginsLike,
    Words,
    length,
    margins_of,
    text_of,
    trim_of,
)
from hidden_frame.settle.opening import opened_settled
from hidden_frame.settle.step import step
from hidden_frame.storage.format import load, save

Where = int | str | PageOf
_WEB = re.compile(r"^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$", re.IGNORECASE)


class Section:
    """A section of a document; `name` as it is now."""

    def __init__(self, document: Document, section_id: str) -> None:
        self._document = document
        self.id = section_id

    @property
    def name(self) -> str:
        sections = self._document.publication.sections
        return next(s.name for s in sections if s.id == self.id)

    @property
    def pages(self) -> list[PageOf]:
        """Its pages in order."""
        section = next(s for s in self._document.publication.sections if s.id == self.id)
        return [PageOf(self._document, page.id) for page in section.pages]


class Document:
    """A publication in a script's hands.

    Edits replace `publication`, a value that never changes, and are steps that `undo` takes
    back.  What an edit brings with it (pages that a text needs, masters by rule, lists,
    references) is part of its step.  What can't be done raises `Refusal` with a sentence, and
    changes nothing.  `notices` say what was found when it was opened.
    """

    def __init__(self, publication: Publication, blobs: Mapping[str, bytes] | None = None) -> None:
        self._composer = Composer()
        publication, told = opened_settled(publication, self._composer)
        self._history = History.of(publication)
        self._draft: Publication | None = None  # while several edits are made as one step
        self.blobs = dict(blobs or {})
        self.notices = [told] if told else []

    @staticmethod
    def new(
        title: str, trim: str | Size | tuple[Length, Length] = "A4", pages: int = 1, *,
        bleed: Length = "3mm", margins: MarginsLike = "ninths", columns: int = 1,
        gutter: Length = 12.0, facing: bool = True,
    ) -> Document:  # fmt: skip
        """A publication with one empty master, “Base”, which all pages follow.

        >>> from hidden_frame import Document
        >>> len(Document.new("Notes", trim=("120mm", "190mm"), pages=8).pages)
        8
        """
        size = trim_of(trim)
        setup = Setup(
            trim=size, bleed=length(bleed), margins=margins_of(margins, size),
            columns=Columns(columns, length(gutter)), facing=facing,
        )  # fmt: skip
        return Document(new_publication(title, setup, pages))

    @staticmethod
    def open(path: str | Path) -> Document:
        """A document from a file.  Raises `Refusal` for one that is none."""
        opened = load(Path(path))
        return Document(opened.publication, opened.blobs)

    def save(self, path: str | Path) -> None:
        """Writes the whole document to a file, which is replaced only when complete."""
        save(Path(path), self.publication, self.blobs)

    # -- the value -------------------------------------------------------------------

    @property
    def publication(self) -> Publication:
        """The model's value as it is now."""
        return self._history.now if self._draft is None else self._draft

    @property
    def facts(self) -> Mapping[str, PageFacts]:
        """What can be said of each page from its place, by page id."""
        return page_facts(self.publication)

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
        """Takes back the last steps, as far as there are any."""
        for _ in range(steps):
            self._history = undo(self._history)

    def redo(self, steps: int = 1) -> None:
        """Brings back what was undone."""
        for _ in range(steps):
            self._history = redo(self._history)

    # -- pages and sections ------------------------------------------------------------

    @property
    def pages(self) -> list[PageOf]:
        """Every page in order."""
        return [PageOf(self, page.id) for page in all_pages(self.publication)]

    def page(self, where: Where) -> PageOf:
        """A page by its position (a number), or as a range names it: "iv", "#5"."""
        (found,) = self.page_ids(where)
        return PageOf(self, found)

    def page_ids(self, where: Where | Iterable[Where]) -> list[str]:
        """Ids of the pages meant: positions, ranges such as "3-16" or "iv-ix, odd", pages."""
        if isinstance(where, PageOf):
            return [where.id]
        if isinstance(where, str):
            return pages_in_range(self.publication, where)
        if isinstance(where, int):
            return pages_in_range(self.publication, f"#{where}")
        return [page_id for each in where for page_id in self.page_ids(each)]

    def add_pages(self, count: int, after: Where | None = None) -> list[PageOf]:
        """Empty pages behind a page, or at the end; they follow what their section does."""
        behind = self.pages[-1].id if after is None else self.page(after).id
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, ids = add_pages_after(publication, behind, count)
            made.extend(ids)
            return publication

        self.edit(f"add {count} pages", change)
        return [PageOf(self, page_id) for page_id in made]

    def delete_pages(self, pages: Where | Iterable[Where]) -> None:
        """Takes pages away with what stands on them."""
        ids = self.page_ids(pages)
        self.edit("delete pages", lambda p: delete_pages(p, ids))

    def section_at(
        self, where: Where, name: str = "", numbering: NumberingStyle = "decimal",
        start: int | None = None, prefix: str = "", begins: str = "",
    ) -> Section:  # fmt: skip
        """Starts a section at a page; it carries on counting unless it has a `start`.

        A text that runs over the page goes on through it and stays where it stands.  A section
        that `begins` with words begins with the first paragraph on that page that starts with
        them, and follows it when text before it comes or goes.

        >>> book.section_at(3, name="Body", numbering="decimal", start=1).name
        'Body'
        >>> book.page(5).folio
        '3'
        """
        page_id = self.page(where).id
        counted = Numbering(style=numbering, start=start, prefix=prefix)
        made: list[str] = []

        composition = self._composer.compose(self.publication)
        carrying = running_into(composition, page_id)
        first = paragraph_saying(composition, page_id, begins) if begins else None

        def change(publication: Publication) -> Publication:
            publication, section_id = start_section(publication, page_id, name, counted, carrying)
            made.append(section_id)
            return publication if first is None else begin_with(publication, section_id, first)

        self.edit("start a section", change)
        return Section(self, made[-1])

    # -- masters -----------------------------------------------------------------------

    def add_master(
        self, name: str, margins: MarginsLike | None = None, base: MasterPage | str | None = None
    ) -> MasterPage:
        """A new master, empty or built on another one."""
        made: list[str] = []
        below = None if base is None else self.master(base).id

        def change(publication: Publication) -> Publication:
            publication, master_id = add_master(publication, name, below)
            made.append(master_id)
            if margins is None:
                return publication
            own = margins_of(margins, publication.setup.trim)
            return set_page_layout(publication, master_id, margins=own, columns=None, guides=None)

        self.edit("new master", change)
        return MasterPage(self, made[-1])

    def master(self, name: MasterPage | str) -> MasterPage:
        """A master by its name."""
        if isinstance(name, MasterPage):
            return name
        return MasterPage(self, self._named("master", name, self.publication.masters))

    def apply(
        self,
        masters: MasterPage | str | Iterable[MasterPage | str],
        pages: Where | Iterable[Where] = "all",
    ) -> None:
        """Lets pages follow masters, bottom to top, in place of what they follow now."""
        several = [masters] if isinstance(masters, MasterPage | str) else list(masters)
        stack = tuple(self.master(m).id for m in several)
        ids = self.page_ids(pages)
        self.edit("apply masters", lambda p: apply_masters(p, ids, stack))

    def follow_by_default(self, *masters: MasterPage | str) -> None:
        """The masters of every page to which no other was applied."""
        stack = tuple(self.master(m).id for m in masters)
        self.edit("default masters", lambda p: set_default_masters(p, stack))

    def resize(
        self, trim: str | Size | tuple[Length, Length], items: Items = "follow", *,
        type_too: bool = False,
    ) -> None:  # fmt: skip
        """Another trim size: everything follows the edges, is scaled, or stays (R30).

        >>> book.resize(("148mm", "200mm"))
        >>> round(book.publication.setup.trim.height, 2)
        566.93
        """
        size = trim_of(trim)
        self.edit("page size", lambda p: resize(p, size, items=items, type_too=type_too))

    # -- words and looks ---------------------------------------------------------------

    def set_title(self, title: str) -> None:
        """The publication's title, which markers show."""
        self.edit("title", lambda p: set_title(p, title))

    def set_detail(self, name: str, value: str) -> None:
        """A detail's value, which markers that name it show."""
        self.edit(f"detail {name}", lambda p: set_detail(p, name, value))

    def style(self, name: str, *, based_on: str | None = None, **properties: Any) -> None:
        """Changes a paragraph style, or makes one that is based on another.

        >>> book.style("Small print", based_on="Body", size=7.5, leading=10)
        >>> book.publication.paragraph_styles[-1].size
        7.5
        """
        known = {s.name: s.id for s in self.publication.paragraph_styles}
        changes = self._style_changes(properties)

        def change(publication: Publication) -> Publication:
            style_id = known.get(name, "")
            if not style_id:
                like = self.paragraph_style(based_on or "Body")
                publication, style_id = new_paragraph_style(publication, like, based=True)
            style = replace(paragraph_style(publication, style_id), name=name, **changes)
            return put_paragraph_style(publication, style)

        self.edit(f"style {name}", change)

    def _style_changes(self, properties: Mapping[str, Any]) -> dict[str, Any]:
        changes = dict(properties)
        for name in ("colour", "on_dark"):
            if changes.get(name) is not None:
                changes[name] = self.colour(changes[name])
        for name in ("size", "leading", "space_before", "space_after", "indent_left",
                     "indent_right", "indent_first"):  # fmt: skip
            if name in changes:
                changes[name] = length(changes[name])
        return changes

    def paragraph_style(self, name: str) -> str:
        """A paragraph style's id by its name."""
        return self._named("paragraph style", name, self.publication.paragraph_styles)

    def colour(self, name: str) -> str:
        """A colour's id by its name; one written as "#1f6f5c" is added if it is new."""
        try:
            return self._named("colour", name, self.publication.colours)
        except Refusal:
            web = _WEB.match(name)
            if web is None:
                raise
        values = tuple(int(part, 16) / 255 for part in web.groups())
        self.edit("new colour", lambda p: add_colour(p, name.lower(), "rgb", values)[0])
        return self.publication.colours[-1].id

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
        """What a script says, as the model's paragraphs."""
        characters = self.publication.character_styles
        return text_of(
            words, style, align, self.paragraph_style,
            lambda name: self._named("character style", name, characters),
        )  # fmt: skip

    def properties(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """An item's properties as the model has them."""
        changes = {name: property_of(name, v, self.colour) for name, v in given.items()}
        if changes.get("text_style") is not None:
            changes["text_style"] = self.paragraph_style(changes["text_style"])
        if isinstance(changes.get("text"), str):
            changes["text"] = self.text(changes["text"], "Body", None)
        return changes

    # -- out -----------------------------------------------------------------------------

    def check(self) -> list[str]:
        """What is doubtful about order and masters, a sentence each."""
        return [finding.sentence for finding in findings(self.publication)]

    def export(
        self, path: str | Path, pages: Where | Iterable[Where] = "all",
        bleed: Length | None = None, dpi: float = 144,
    ) -> None:  # fmt: skip
        """Writes pages to a PDF, or a PNG each to "page-%d.png" (`dpi` pixels to an inch)."""
        ids = self.page_ids(pages)
        composition = self._composer.compose(self.publication)
        kind = Path(path).suffix.lower()
        if kind == ".pdf":
            around = None if bleed is None else length(bleed)
            export_pdf(composition, self.blobs, path, ids, bleed=around)
        elif kind == ".png":
            export_png(composition, self.blobs, str(path), ids, dpi)
        else:
            raise Refusal(f"“{path}” ends in neither .pdf nor .png; name the file by its kind.")
