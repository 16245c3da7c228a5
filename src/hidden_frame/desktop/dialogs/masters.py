"""Questions about masters: a new one, masters from another publication, items sent to one."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QListWidget, QListWidgetItem, QWidget

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.carry.masters import masters_copied, masters_pasted
from hidden_frame.edit.masters.apply import add_master, free_name, rename_master
from hidden_frame.edit.masters.family import How, copy_master
from hidden_frame.edit.masters.promote import (
    master_of_page,
    new_master_for,
    page_stack_names,
    to_master,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Faces
from hidden_frame.model.lookup import find_master, section_of
from hidden_frame.model.publication import Publication
from hidden_frame.storage.format import EXTENSION, Opened, load

KINDS: tuple[tuple[str, str], ...] = (
    ("an empty master", "empty"),
    ("based on another master", "based"),
    ("a copy of a master, on the same base", "on the same base"),
    ("a copy of only a master’s own items", "without the base"),
    ("a copy of a master that looks the same, without a base", "all as its own"),
)


class NewMasterDialog(EditQuestion):
    """A new master: empty, based on another, or a copy; `made` is its id."""

    def __init__(
        self, session: Session, base: str | None = None, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent, "New master", "Create")
        publication = session.publication
        self.made = ""
        self.name = TextField("Name")
        self.name.setText(free_name("Master", (m.name for m in publication.masters)))
        self.name.selectAll()
        self.form.row("Name", self.name)
        self.kind = Choice("Starts as")
        self.kind.show_choice(KINDS, "based" if base else "empty")
        self.kind.activated.connect(self._explain)
        self.form.row("Starts as", self.kind)
        self.other = Choice("Which master")
        self._masters = [(m.name, m.id) for m in publication.masters]
        first = self._masters[0][1] if self._masters else None
        self.other.show_choice(self._masters, base or session.master_id or first)
        self.form.row("Which master", self.other)
        self.what = self.form.note()
        self._explain()
        self.finish()

    def _explain(self) -> None:
        kind = KINDS[self.kind.currentIndex()][1]
        self.other.setEnabled(kind != "empty" and bool(self._masters))
        self.what.setText(_EXPLAINED[kind])

    def answer(self) -> None:
        kind = KINDS[self.kind.currentIndex()][1]
        name = self.name.text()
        other = self._masters[self.other.currentIndex()][1] if self._masters else None
        if kind != "empty" and other is None:
            raise Refusal("There is no other master yet; make an empty one.")

        def change(publication: Publication) -> Publication:
            if kind in ("empty", "based"):
                base = other if kind == "based" else None
                publication, self.made = add_master(publication, name, base)
                return publication
            assert other is not None
            how: How = kind  # type: ignore[assignment]
            publication, self.made = copy_master(publication, other, how)
            clean = free_name(
                " ".join(name.split()) or "Master",
                (m.name for m in publication.masters if m.id != self.made),
            )
            return rename_master(publication, self.made, clean)

        self.edit("new master", change)
        self.session.show_master(self.made)


class RenameMasterDialog(EditQuestion):
    """Another name for a master; whoever follows it follows it on."""

    def __init__(self, session: Session, master_id: str, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Rename the master", "Rename")
        self.master_id = master_id
        self.name = TextField("Name")
        self.name.setText(find_master(session.publication, master_id).name)
        self.name.selectAll()
        self.form.row("Name", self.name)
        self.finish()

    def answer(self) -> None:
        name = self.name.text()
        self.edit("rename master", lambda p: rename_master(p, self.master_id, name))


_EXPLAINED = {
    "empty": "Nothing on it yet; margins and columns are the publication's.",
    "based": "Shows everything its base shows, and follows it wherever it isn’t changed.",
    "on the same base": "The same items and the same departures, on the same base.",
    "without the base": "The items that stand on that master itself, and nothing of its base.",
    "all as its own": "Looks the same now; later changes to the base don’t affect it.",
}


class BringMastersDialog(EditQuestion):
    """Masters brought in from another publication's file."""

    def __init__(
        self, session: Session, opened: Opened, name: str, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent, f"Masters from “{name}”", "Import")
        self.opened = opened
        self.form.note(
            "Their bases, styles, colours, layers and pictures come along. Identical ones here "
            "are reused; those that only share a name are renamed."
        )
        self.list = QListWidget()
        self.list.setAccessibleName("Masters")
        for master in opened.publication.masters:
            row = QListWidgetItem(master.name)
            row.setData(Qt.ItemDataRole.UserRole, master.id)
            row.setFlags(row.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            row.setCheckState(Qt.CheckState.Unchecked)
            self.list.addItem(row)
        self.form.column.addWidget(self.list)
        self.finish()

    def answer(self) -> None:
        rows = [self.list.item(n) for n in range(self.list.count())]
        wanted = [
            r.data(Qt.ItemDataRole.UserRole) for r in rows
            if r.checkState() == Qt.CheckState.Checked
        ]  # fmt: skip
        if not wanted:
            raise Refusal("No master is ticked; tick those to import.")
        parcel = masters_copied(self.opened.publication, wanted)
        for picture in parcel.clip.pictures:
            if picture.hash in self.opened.blobs:
                self.session.blobs.setdefault(picture.hash, self.opened.blobs[picture.hash])
        count = len(parcel.masters)
        name = "bring in a master" if count == 1 else f"bring in {count} masters"
        self.edit(name, lambda p: masters_pasted(p, parcel)[0])


def bring_masters(session: Session, parent: QWidget) -> None:
    """Asks for a publication's file, then for its masters."""
    title, kinds = "Masters from another publication", f"Publications (*{EXTENSION})"
    name, _ = QFileDialog.getOpenFileName(parent, title, "", kinds)
    if not name:
        return
    try:
        opened = load(Path(name))
    except Refusal as refusal:
        session.noticed.emit(str(refusal))
        return
    if not opened.publication.masters:
        session.noticed.emit(f"“{Path(name).name}” has no masters.")
        return
    BringMastersDialog(session, opened, Path(name).name, parent).exec()


class ToMasterDialog(EditQuestion):
    """The selected items of a page moved or copied to a master (R13)."""

    def __init__(self, session: Session, *, keep: bool, parent: QWidget | None = None) -> None:
        verb = "Copy" if keep else "Move"
        count = len(session.items)
        what = "item" if count == 1 else f"{count} items"
        super().__init__(session, parent, f"{verb} {what} to a master", verb)
        self.keep = keep
        publication = session.publication
        self.page = session.holder_id
        facts = page_facts(publication)[self.page]
        followed = page_stack_names(publication, self.page)
        ids = {i for i, _ in followed}
        section = facts.section_name or "this section"
        self._options: list[tuple[str, object]] = [(name, i) for i, name in followed]
        self._options += [(f"a new master for page {page_name(facts)}", ("these pages",))]
        self._options += [(f"a new master for {section}", ("this section",))]
        if len(session.pages) > 1 and self.page in session.pages:
            label = f"a new master for the {len(session.pages)} selected pages"
            self._options[len(followed)] = (label, ("these pages",))
        self._options += [(m.name, m.id) for m in publication.masters if m.id not in ids]
        self._followed = ids
        self.master = Choice("Master")
        self.master.setMinimumContentsLength(26)
        self.master.show_choice(self._options, self._options[0][1])
        self.master.activated.connect(self._explain)
        self.form.row("Master", self.master)
        self.name = TextField("Name")
        self.name.setText(section if facts.section_name else "Master")
        self.form.row("Its name", self.name)
        self.face = Choice("Stands on")
        self._faces: tuple[tuple[str, Faces], ...] = (
            ("both faces, mirrored", "both"), (f"the {session.side} face only", session.side)
        )  # fmt: skip
        self.face.show_choice(self._faces, "both")
        self.face.setEnabled(publication.setup.facing)
        self.form.row("Stands on", self.face)
        self.what = self.form.note()
        self._explain()
        self.finish()

    def _explain(self) -> None:
        chosen = self._options[self.master.currentIndex()][1]
        self.name.setEnabled(isinstance(chosen, tuple))
        publication = self.session.publication
        if isinstance(chosen, tuple):
            self.what.setText(
                "It is built on the topmost master the page follows, and takes its place there."
            )
            return
        count = len(self.session.composition.followers(str(chosen)))
        name = find_master(publication, str(chosen)).name
        pages = f"{count} page{'s follow' if count != 1 else ' follows'} “{name}”"
        if chosen in self._followed:
            self.what.setText(f"{pages} and will show it in the same place.")
        else:
            self.what.setText(f"{pages}; this page doesn’t, so it will not appear here.")

    def answer(self) -> None:
        session = self.session
        chosen = self._options[self.master.currentIndex()][1]
        face, items, side, keep = (
            self._faces[self.face.currentIndex()][1], session.items, session.side, self.keep,
        )  # fmt: skip
        pages = session.pages if self.page in session.pages else (self.page,)
        name = self.name.text()

        def change(publication: Publication) -> Publication:
            target = chosen
            if isinstance(chosen, tuple):
                first = [self.page, *(p for p in pages if p != self.page)]
                publication, target = new_master_for(publication, first, name, chosen[0])
            publication, _ = to_master(
                publication, self.page, items, str(target), side, face=face, keep=keep
            )
            return publication

        self.edit("copy to master" if keep else "move to master", change)


class PageMasterDialog(EditQuestion):
    """A page's look made a master, which the page then follows."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        publication = session.publication
        facts = page_facts(publication)[session.page_id]
        title = f"Make a master of page {page_name(facts)}"
        super().__init__(session, parent, title, "Create")
        self.page = session.page_id
        followed = page_stack_names(publication, self.page)
        section = section_of(publication, self.page).name
        self.name = TextField("Name")
        self.name.setText(free_name(section or "Master", (m.name for m in publication.masters)))
        self.form.row("Name", self.name)
        on = f", built on “{followed[0][1]}”" if followed else ""
        self.form.note(
            f"The page’s own items, guides and overrides move to the new master{on}. The page "
            "follows it and looks the same."
        )
        self.finish()

    def answer(self) -> None:
        page, name = self.page, self.name.text()
        side = page_facts(self.session.publication)[page].side
        self.edit("make a master of the page", lambda p: master_of_page(p, page, side, name)[0])
