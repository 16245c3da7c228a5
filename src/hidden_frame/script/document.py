"""A document: a value of the model that edits replace, with undo."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path
from typing import Any, NamedTuple

from hidden_frame.checks.content import content_findings
from hidden_frame.checks.findings import findings
from hidden_frame.compose.departures import departures
from hidden_frame.edit.about import set_detail, set_title
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
from hidden_frame.model.items import changed_properties
from hidden_frame.model.lookup import holder
from hidden_frame.model.numbering import NumberingStyle
from hidden_frame.model.publication import Master, Numbering, Publication, Setup
from hidden_frame.output.pdf import export_pdf
from hidden_frame.output.png import export_png
from hidden_frame.script.holders import MasterPage, PageOf
from hidden_frame.script.looks import Looks
from hidden_frame.script.section import Section
from hidden_frame.script.texts import Texts
from hidden_frame.script.values import (
    Length,
    MarginsLike,
    length,
    margins_of,
    trim_of,
)
from hidden_frame.storage.format import load, save

Where = int | str | PageOf
_WEB = re.compile(r"^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$", re.IGNORECASE)


class Problem(NamedTuple):
    """One of the checks: its kind, what is wrong in a sentence, and the positions of the pages that
    it is about (none: the publication)."""

    kind: str
    sentence: str
    pages: tuple[int, ...]


class Overridden(NamedTuple):
    """An override: where it is (a page or a master), the name of the item, the master that carries
    it ("" if none does any more), what differs, by the model's names, and why it has no effect now
    ("" if it has)."""

    where: PageOf | MasterPage
    item: str
    master: str
    properties: dict[str, Any]
    asleep: str


class Document(Looks, Texts):
    """A publication in a script's hands.

    Edits replace `publication`, a value that never changes, and are steps that `undo` takes
    back.  What an edit brings with it (pages that a text needs, masters by rule, lists,
    references) is part of its step.  What can't be done raises `Refusal` with a sentence, and
    changes nothing.  `notices` say what was found when it was opened.
    """

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
        """A document from a file.  Raises `Refusal` for one that is none.

        >>> book.save(folder / "notes.hframe")
        >>> hf.Document.open(folder / "notes.hframe").publication == book.publication
        True
        """
        opened = load(Path(path))
        return Document(opened.publication, opened.blobs)

    def save(self, path: str | Path) -> None:
        """Writes the whole document to a file, which is replaced only when complete.

        >>> book.save(folder / "notes.hframe")
        >>> (folder / "notes.hframe").exists()
        True
        """
        save(Path(path), self.publication, self.blobs)

    # -- pages and sections ------------------------------------------------------------

    def add_pages(self, count: int, after: Where | None = None) -> list[PageOf]:
        """Empty pages behind a page, or at the end; they follow what their section does.

        >>> [page.position for page in book.add_pages(2, after=3)]
        [4, 5]
        """
        behind = self.pages[-1].id if after is None else self.page(after).id
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, ids = add_pages_after(publication, behind, count)
            made.extend(ids)
            return publication

        self.edit(f"add {count} pages", change)
        return [PageOf(self, page_id) for page_id in made]

    def delete_pages(self, pages: Where | Iterable[Where]) -> None:
        """Takes pages away with what stands on them.

        >>> book.delete_pages("#15-#16")
        >>> len(book.pages)
        14
        """
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
        """A new master, empty or built on another one.

        >>> opener = book.add_master("Opener", base="Base", margins="20mm")
        >>> opener.master.base == book.master("Base").id
        True
        """
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

    def apply(
        self,
        masters: MasterPage | str | Iterable[MasterPage | str],
        pages: Where | Iterable[Where] = "all",
    ) -> None:
        """Lets pages follow masters, bottom to top, in place of what they follow now.

        >>> book.apply(["Base", book.add_master("Frame")], "#3-#6")
        >>> book.page(4).masters
        ('Base', 'Frame')
        """
        several = [masters] if isinstance(masters, MasterPage | str) else list(masters)
        stack = tuple(self.master(m).id for m in several)
        ids = self.page_ids(pages)
        self.edit("apply masters", lambda p: apply_masters(p, ids, stack))

    def follow_by_default(self, *masters: MasterPage | str) -> None:
        """The masters of every page to which no other was applied.

        >>> book.follow_by_default(book.add_master("Plain"))
        >>> book.page(16).masters
        ('Plain',)
        """
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

    # -- what it says of itself ----------------------------------------------------------

    def set_title(self, title: str) -> None:
        """The publication's title, which markers show.

        >>> book.set_title("Field notes 2")
        >>> book.publication.title
        'Field notes 2'
        """
        self.edit("title", lambda p: set_title(p, title))

    def set_detail(self, name: str, value: str) -> None:
        """A detail's value, which markers that name it show.

        >>> book.set_detail("Issue", "12")
        >>> book.publication.details[-1].value
        '12'
        """
        self.edit(f"detail {name}", lambda p: set_detail(p, name, value))

    # -- out -----------------------------------------------------------------------------

    def check(self) -> list[str]:
        """Possible problems of order, numbering and names, a sentence each.

        >>> _ = book.section_at(9, start=1)
        >>> book.check()[0]
        'A section counts from 1 again: 6 folios are printed twice, 1 to 6, the first on #3 and #9.'
        """
        return [finding.sentence for finding in findings(self.publication)]

    def problems(self) -> list[Problem]:
        """All that the checks find, on every page, the contents too.

        >>> _ = book.page(3).add_text_frame(20, 20, 40, 8, text="More than has room here.")
        >>> found = next(f for f in book.problems() if f.kind == "text does not fit")
        >>> found.pages
        (3,)
        """
        composition = self.composition()
        every = [*content_findings(composition, self.blobs), *findings(self.publication)]
        return [
            Problem(f.kind, f.sentence,
                    tuple(self.facts[p].position for p in f.pages if p in self.facts))
            for f in every
        ]  # fmt: skip

    @property
    def overrides(self) -> list[Overridden]:
        """Everything that differs from its master, on derived masters and pages, in order.

        >>> head = book.master("Base").add_text_frame(20, 20, 200, 14, text="Head", name="Head")
        >>> book.page(4).override(head, x=30)
        >>> [(o.where.position, o.item, o.properties) for o in book.overrides]
        [(4, 'Head', {'x': 30.0})]
        """
        found = []
        for each in departures(self.publication):
            owner = holder(self.publication, each.holder_id)
            said = next(o for o in owner.overrides if o.item == each.item_id)
            where = (MasterPage if isinstance(owner, Master) else PageOf)(self, owner.id)
            found.append(Overridden(where, each.item_name, each.master_name,
                                    changed_properties(said), each.asleep))  # fmt: skip
        return found

    def export(
        self, path: str | Path, pages: Where | Iterable[Where] = "all",
        bleed: Length | None = None, dpi: float = 144,
    ) -> None:  # fmt: skip
        """Writes pages to a PDF, or a PNG each to "page-%d.png" (`dpi` pixels to an inch).

        >>> book.export(folder / "notes.pdf", "#1-#4", bleed="3mm")
        >>> (folder / "notes.pdf").read_bytes()[:5]
        b'%PDF-'
        """
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
