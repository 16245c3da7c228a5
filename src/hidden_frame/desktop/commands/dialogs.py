"""The dialogs of a window.  Each is loaded when it is first asked for: together they would take a
sixth of the time until the window is up."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt

from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Publication

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from hidden_frame.desktop.dialogs.find_text import FindTextDialog
    from hidden_frame.desktop.dialogs.folios import FoliosDialog
    from hidden_frame.desktop.dialogs.guide import GuideWindow
    from hidden_frame.desktop.dialogs.overrides import OverridesDialog
    from hidden_frame.desktop.dialogs.pairing import PairingDialog
    from hidden_frame.desktop.dialogs.rules import RulesDialog
    from hidden_frame.desktop.dialogs.size import SizeDialog
    from hidden_frame.desktop.dialogs.spelling import SpellingPanel
    from hidden_frame.desktop.panels.properties.panel import Properties
    from hidden_frame.storage.format import Opened
    from hidden_frame.storage.recovery import Left


class Dialogs(QObject):
    """Opens each over its window; `commands` and `properties` are set once
    there are some."""

    commands: Commands
    properties: Properties

    def __init__(
        self,
        session: Session,
        desk: Desk,
        window: QWidget,
        show_beside: Callable[[Publication, Mapping[str, bytes], str], object],
    ) -> None:
        super().__init__(window)
        self.session, self.desk, self.window = session, desk, window
        self.show_beside = show_beside
        self.recover: Callable[[Left], object] = lambda _: None
        self.go_on: Callable[[Left, Opened], object] = lambda *_: None
        self._guide: GuideWindow | None = None
        self._spelling: SpellingPanel | None = None

    def about(self) -> None:
        """What the publication says of itself."""
        from hidden_frame.desktop.dialogs.about import AboutDialog

        AboutDialog(self.session, self.window).exec()

    def replace_font(self) -> None:
        """One family for another, everywhere; a missing one first."""
        from hidden_frame.desktop.dialogs.fonts import ReplaceFontDialog

        ReplaceFontDialog(self.session, "", self.window).exec()

    def styles(self) -> None:
        """The paragraph style of the selected frame or edited paragraph, or the first one."""
        from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog

        session = self.session
        style = self.desk.text.dress.paragraph_style() if session.editing is not None else None
        if style is None and len(session.items) == 1:
            item = shown_item(
                session.publication, session.holder_id, session.items[0], session.side
            )
            style = item.text[0].style if isinstance(item, TextFrame) and item.text else None
        StyleDialog(session, style, self.window).exec()

    def character_styles(self) -> None:
        """The character style at the caret, or the first one."""
        from hidden_frame.desktop.dialogs.styles.character import CharacterDialog

        named = (
            self.desk.text.dress.now()["character"] if self.session.editing is not None else None
        )
        CharacterDialog(self.session, named, self.window).exec()

    def style(self, style_id: str) -> None:
        """The form of one style."""
        from hidden_frame.desktop.dialogs.styles.character import CharacterDialog
        from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog

        characters = {s.id for s in self.session.publication.character_styles}
        form = CharacterDialog if style_id in characters else StyleDialog
        form(self.session, style_id, self.window).exec()

    def settings(self) -> None:
        from hidden_frame.desktop.dialogs.desk_settings import DeskSettings

        DeskSettings(self.session, self.window).exec()

    def left_behind(self) -> None:
        """Work that was not closed normally."""
        from hidden_frame.desktop.dialogs.left import LeftDialog

        LeftDialog(self.recover, self.window).exec()

    def report(self) -> None:
        """What can be told to others of faults."""
        from hidden_frame.desktop.dialogs.report import ReportDialog

        ReportDialog(self.window).exec()

    def compare_left(self, left: Left) -> None:
        """What work that was left behind differs in from the file that is open."""
        from hidden_frame.desktop.dialogs.left_compared import LeftCompared
        from hidden_frame.storage.recovery import recovered

        try:
            opened = recovered(left)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return
        dialog = LeftCompared(self.session, opened, lambda: self.go_on(left, opened), self.window)
        dialog.exec()
        dialog.deleteLater()  # with the publication that it shows

    def versions(self) -> None:
        """What earlier saves of this file held."""
        from hidden_frame.desktop.dialogs.versions import VersionsDialog

        if self.session.path is None:
            self.session.noticed.emit("There are no versions yet; each save keeps one. Save first.")
            return
        dialog = VersionsDialog(self.session, self.session.path, self.show_beside, self.window)
        dialog.exec()
        dialog.deleteLater()  # with the version that it shows

    def rename_master(self, master_id: str) -> None:
        """Asks for another name."""
        from hidden_frame.desktop.dialogs.masters import RenameMasterDialog

        RenameMasterDialog(self.session, master_id, self.window).exec()

    def overrides(self) -> OverridesDialog:
        from hidden_frame.desktop.dialogs.overrides import OverridesDialog

        dialog = OverridesDialog(self.session, self.window)
        dialog.show()
        return dialog

    def pairing(self) -> PairingDialog:
        from hidden_frame.desktop.dialogs.pairing import PairingDialog

        dialog = PairingDialog(self.session, self.window)
        dialog.open()
        return dialog

    def guides(self) -> None:
        from hidden_frame.desktop.dialogs.guides import GuidesDialog

        GuidesDialog(self.session, self.window).exec()

    def goto(self) -> None:
        from hidden_frame.desktop.dialogs.goto import GoToDialog

        GoToDialog(self.session, self.window).exec()

    def folios(self) -> FoliosDialog:
        from hidden_frame.desktop.dialogs.folios import FoliosDialog

        dialog = FoliosDialog(self.session, self.desk, self.window)
        dialog.open()
        return dialog

    def rules(self) -> RulesDialog:
        from hidden_frame.desktop.dialogs.rules import RulesDialog

        dialog = RulesDialog(self.session, self.window)
        dialog.open()
        return dialog

    def size(self, trim: Size | None = None) -> SizeDialog:
        """Another page size, tried on the desk; begun with one that was typed elsewhere."""
        from hidden_frame.desktop.dialogs.size import SizeDialog

        dialog = SizeDialog(self.session, self.window, trim)
        dialog.open()
        return dialog

    def spelling(self) -> SpellingPanel:
        """The list of doubtful words; it stays while one works."""
        from hidden_frame.desktop.dialogs.spelling import SpellingPanel

        if self._spelling is None:
            self._spelling = SpellingPanel(self.session, self.desk, self.window)
        self._spelling.show()
        self._spelling.raise_()
        self._spelling.refresh()
        return self._spelling

    def finder(self) -> None:
        from hidden_frame.desktop.find.finder import Finder
        from hidden_frame.desktop.find.places import Fields

        fields = Fields(self.session, self.commands, self.properties)
        found = (self.style, self.guide)
        Finder(self.session, self.commands, fields, self.window, *found).exec()

    def guide(self, topic: str = "") -> GuideWindow:
        """The guide beside the window, at a page of that title."""
        from hidden_frame.desktop.dialogs.guide import GuideWindow

        if self._guide is None:
            self._guide = GuideWindow(self.commands, self.window)
        found = self._guide.list.findItems(topic, Qt.MatchFlag.MatchExactly)
        if found:
            self._guide.list.setCurrentItem(found[0])
        self._guide.show()
        self._guide.raise_()
        return self._guide

    def about_program(self) -> None:
        from hidden_frame.desktop.dialogs.guide import AboutProgram

        AboutProgram(self.window).exec()

    def manuscript(self, path: Path, section_id: str = "") -> None:
        """Reads a manuscript and asks what its styles become."""
        from hidden_frame.desktop.dialogs.manuscript import ManuscriptDialog, read_with_patience

        try:
            found = read_with_patience(path, "", self.window)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return
        if found is None:
            self.session.noticed.emit(f"“{path.name}” was not imported.")
            return
        ManuscriptDialog(self.session, found, section_id, self.window, path).exec()

    def find_text(self) -> FindTextDialog:
        """Find and replace, beside the desk."""
        from hidden_frame.desktop.dialogs.find_text import FindTextDialog

        dialog = FindTextDialog(self.session, self.desk, self.window)
        dialog.show()
        return dialog
