"""Menus at the pointer: of items, master items, pages, sections and masters."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QCursor
from PySide6.QtWidgets import QMenu, QWidget

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.look.ribbon import ribbon_icon
from hidden_frame.desktop.panels.properties.page import PageForm
from hidden_frame.desktop.panels.properties.panel import Properties
from hidden_frame.desktop.state.choices import go_to_item, hide_item, make_item_local
from hidden_frame.desktop.state.command import Commands
from hidden_frame.edit.masters.apply import RIBBONS, Applying, apply_masters
from hidden_frame.edit.masters.family import set_ribbon
from hidden_frame.edit.text.write import set_paragraph_style
from hidden_frame.interact.hands.shown import change_shown, items_on, shown_item
from hidden_frame.interact.words.remedies import remedies
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_section, masters_by_id
from hidden_frame.model.number_format import figure
from hidden_frame.model.styles import computed_paragraphs


class PointerMenus:
    """Each method shows a menu, or makes one that its caller shows."""

    def __init__(
        self, parts: Workplace, commands: Commands, properties: Properties, parent: QWidget
    ) -> None:
        self.parts, self.commands, self.properties = parts, commands, properties
        self.session, self.parent = parts.session, parent

    def choices(self, point: QPoint) -> None:
        """The four choices for a master item that someone tried to change on a page: a card
        beside the pointer, so that nothing of it lies under a hand."""
        self.choice().popup(point + QPoint(10, 8))

    def choice(self) -> QMenu:
        session = self.session
        item_id = session.items[0]
        holder = session.holder_id
        menu = self._menu("Choices")
        on_page = session.mode == "pages"
        here = "here" if on_page else "on this master"
        # A section's title is a bare line in most styles.
        title = menu.addAction(f"It comes from {self._carrier(item_id)}")
        title.setEnabled(False)
        menu.addAction(f"Override {here}", lambda: session.unlock(holder, item_id))
        menu.addAction(f"Hide {here}", lambda: hide_item(session, item_id))
        if on_page:
            menu.addAction("Make local", lambda: make_item_local(session, item_id))
        target = "master" if on_page else "base"
        menu.addAction(f"Go to {target}", lambda: go_to_item(session, item_id))
        return menu

    def _carrier(self, item_id: str) -> str:
        """The master that an item stands on, named."""
        session = self.session
        found = items_on(session.publication, session.holder_id, session.side)
        carrier = next((r.carrier for r in found if r.item.id == item_id), None)
        known = masters_by_id(session.publication).get(carrier or "")
        kind = "master" if session.mode == "pages" else "base"
        return f"the {kind} “{known.name}”" if known is not None else f"a {kind}"

    def _menu(self, name: str) -> QMenu:
        menu = QMenu(self.parent)
        menu.setObjectName(name)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        return menu

    def overflow(self) -> QMenu:
        """Why a text does not fit, and what makes it fit."""
        session = self.session
        menu = self._menu("Overflow")
        holder, side, item_id = session.holder_id, session.side, session.items[0]
        for placed, _ in self.parts.desk.selected.placed_all().values():
            if placed.drawing.overflow is not None:
                menu.addAction(placed.drawing.overflow.sentence).setEnabled(False)
        menu.addSeparator()

        def fit(changes: dict[str, object]) -> None:
            session.edit(
                "fit the text", lambda p: change_shown(p, holder, side, {item_id: changes})
            )

        for offer in remedies(session.composition, holder, item_id, side):
            menu.addAction(offer.title, lambda o=offer: fit(o.changes))
        styles = menu.addMenu("Use another style")
        item = shown_item(session.publication, holder, item_id, side)
        if isinstance(item, TextFrame):
            known = computed_paragraphs(session.publication.paragraph_styles)
            for style in known.values():
                text = set_paragraph_style(item.text, 0, len(item.text), style.id)
                styles.addAction(
                    f"{style.name}, {figure(style.size)}/{figure(style.leading)} pt",
                    lambda t=text: fit({"text": t}),
                )
        return menu

    def item(self, point: QPoint) -> None:
        session = self.session
        if not session.items:
            return
        if not session.may_change(session.holder_id, session.items[0]):
            self.choices(point)
            return
        self.commands.refresh()
        menu = self._menu("ItemMenu")
        for name in ("cut", "copy", "duplicate", "repeat", "delete", "", "front", "forward",
                     "backward", "back", "", "anchor item", "", "group", "ungroup",
                     "lock"):  # fmt: skip
            if name:
                menu.addAction(self.commands[name])
            else:
                menu.addSeparator()
        menu.addMenu(self.commands.menus["Arrange > Line up"])
        menu.popup(point)

    def pages(self, point: QPoint) -> None:
        menu = self._menu("PageMenu")
        self.commands.refresh()
        for name in ("page one", "start section", "end section", "join section", "",
                     "add pages", "duplicate pages", "move pages", "delete pages", "",
                     "cut", "copy", "paste", "new from pages", "",
                     "apply", "blind", "tie", "hold"):  # fmt: skip
            if name:
                menu.addAction(self.commands[name])
            else:
                menu.addSeparator()
        menu.popup(point)

    def section(self, section: str, point: QPoint) -> None:
        """What can be done with a section, at its head on the flatplan."""
        self.session.select_section(section)
        menu = self._menu("SectionMenu")
        menu.addAction("Name and numbering…", lambda: self._open_section(section))
        menu.addAction("Join with the section before", self.commands["join section"].trigger)
        menu.addAction("Duplicate", lambda: self.parts.pages.duplicate_section(section))
        menu.addAction("One place earlier", lambda: self.parts.pages.move_section(section, -1))
        menu.addAction("One place later", lambda: self.parts.pages.move_section(section, 1))
        menu.addSeparator()
        menu.addAction(
            "Delete, its pages stay", lambda: self.parts.pages.delete_section(section, pages=False)
        )
        menu.addAction(
            "Delete with its pages", lambda: self.parts.pages.delete_section(section, pages=True)
        )
        menu.popup(point)

    def _open_master(self, master_id: str) -> None:
        """Lays a master on the desk, wherever its menu was opened."""
        self.session.show_desk()
        self.session.show_master(master_id)

    def _open_section(self, section: str) -> None:
        """Properties of a section's first page, where it is named and numbered."""
        session = self.session
        pages = find_section(session.publication, section).pages
        if pages:
            session.select_section(section)
            form = self.properties.form
            if isinstance(form, PageForm):
                form.reveal(form.section)
                form.section.setFocus()
                form.section.selectAll()

    def master(self, master_id: str, point: QPoint) -> None:
        session = self.session
        menu = self._menu("MasterMenu")
        menu.addAction("Open on the desk", lambda: self._open_master(master_id))
        menu.addAction("New master based on it", lambda: self.parts.shelf.new_master(master_id))
        menu.addAction("Rename…", lambda: self.parts.dialogs.rename_master(master_id))
        menu.addAction("Duplicate", lambda: self.parts.shelf.duplicate(master_id))
        menu.addSeparator()
        menu.addAction("Apply to the selected pages", lambda: self._apply(master_id, "replace"))
        menu.addAction("Add to the selected pages", lambda: self._apply(master_id, "add"))
        menu.addSeparator()
        menu.addAction("Select the pages that follow it", lambda: self._select_pages(master_id))
        ribbons = menu.addMenu("Colour of its ribbon")
        for number in range(RIBBONS):
            ribbons.addAction(
                ribbon_icon(number),
                f"Colour {number + 1}",
                lambda n=number: session.edit("ribbon", lambda p: set_ribbon(p, master_id, n)),
            )
        menu.addSeparator()
        menu.addAction("Delete…", lambda: self.parts.pages.delete_master(master_id))
        menu.popup(point if not point.isNull() else QCursor.pos())

    def _apply(self, master_id: str, mode: Applying) -> None:
        pages = self.parts.pages.chosen()
        self.session.edit("apply master", lambda p: apply_masters(p, pages, (master_id,), mode))

    def _select_pages(self, master_id: str) -> None:
        session = self.session
        found = set(session.composition.followers(master_id))
        order = session.composition.facts
        session.select_pages(tuple(p for p in order if p in found))
