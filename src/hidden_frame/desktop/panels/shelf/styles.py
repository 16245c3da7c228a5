"""Styles on the Shelf: each with a sample and how often it is used; a click puts it on."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QGridLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.panels.shelf.samples import HEIGHT, WIDTH, nothing, sample
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.history import History
from hidden_frame.edit.looks.colours import in_rgb
from hidden_frame.edit.looks.styles import (
    move_character_style,
    move_paragraph_style,
    uses_of_styles,
)
from hidden_frame.interact.hands.styling import put_style, styles_shown
from hidden_frame.model.number_format import figure, grouped
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import (
    CharacterStyle,
    ComputedStyle,
    computed_characters,
    computed_style,
)

_ID = Qt.ItemDataRole.UserRole
_NONE = "none"  # the row that takes a character style off
_REST = 200  # milliseconds after which what a burst of edits changed is taken up


class _Rows(QTreeWidget):
    """One kind of styles; a row that is dropped between others is `moved` before one, or last."""

    moved = Signal(str, object)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setColumnCount(2)
        self.setHeaderHidden(True)
        self.setRootIsDecorated(False)
        self.setUniformRowHeights(True)
        self.setIconSize(QSize(WIDTH, HEIGHT))
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        header = self.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        with_tones(self)

    def dropEvent(self, event: QDropEvent) -> None:
        row, target = self.currentItem(), self.itemAt(event.position().toPoint())
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        if row is None or not row.data(0, _ID) or row.data(0, _ID) == _NONE:
            return
        at = self.indexOfTopLevelItem(target) if target is not None else self.topLevelItemCount()
        above = QAbstractItemView.DropIndicatorPosition.AboveItem
        if target is not None and self.dropIndicatorPosition() != above:
            at += 1
        before = self.topLevelItem(at)
        self.moved.emit(row.data(0, _ID), before.data(0, _ID) if before is not None else None)


class StyleList(QWidget):
    """Paragraph styles and character styles, in the order of their keys and lists."""

    def __init__(self, session: Session, desk: Desk, edit: Callable[[str], object]) -> None:
        super().__init__()
        self.session, self.desk, self._edit = session, desk, edit
        self._shown: object = None
        self._uses: object = None
        self._clicks: tuple[History, History] | None = None  # before and after the last click
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        column.setSpacing(6)
        self.paragraphs, self.characters = _Rows("Paragraph styles"), _Rows("Character styles")
        for heading, rows, share in (
            ("PARAGRAPH STYLES", self.paragraphs, 3), ("CHARACTER STYLES", self.characters, 2),
        ):  # fmt: skip
            title = QLabel(heading)
            title.setObjectName("Heading")
            column.addWidget(title)
            column.addWidget(rows, share)
            rows.itemClicked.connect(lambda row, _: self._clicked(row))
            rows.itemDoubleClicked.connect(lambda row, _: self._twice(row))
        self.told = QLabel()
        self.told.setObjectName("Quiet")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        grid = QGridLayout()
        grid.setSpacing(6)
        self.change, self.clear = QPushButton("Change…"), QPushButton("Clear local formatting")
        self.change.setToolTip("Change the selected style wherever it is used (or double-click it)")
        self.clear.setToolTip("Clears local formatting of the paragraph and its characters")
        grid.addWidget(self.change, 0, 0)
        grid.addWidget(self.clear, 0, 1)
        column.addLayout(grid)
        self.change.clicked.connect(lambda: self._open(self.paragraphs.currentItem()))
        self.clear.clicked.connect(desk.text.dress.clear_departures)
        self.paragraphs.moved.connect(lambda s, b: self._move(move_paragraph_style, s, b))
        self.characters.moved.connect(lambda s, b: self._move(move_character_style, s, b))
        self._later = QTimer(self)  # counting uses in a long book takes longer than a key
        self._later.setSingleShot(True)
        self._later.setInterval(_REST)
        self._later.timeout.connect(self.refresh)
        for changed in (session.changed, session.looked, desk.text.moved):
            changed.connect(self._soon)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    def _soon(self) -> None:
        if self.isVisible() and not self._later.isActive():
            self._later.start()

    def refresh(self) -> None:
        """Takes up what changed; nothing while it is not seen or something is tried."""
        session = self.session
        if not self.isVisible() or session.draft is not None:
            return
        publication = session.publication
        styles = (publication.paragraph_styles, publication.character_styles, publication.colours,
                  theme.current().dark)  # fmt: skip
        if styles != self._shown:
            self._shown, self._uses = styles, None
            self._fill(publication)
        if publication is not self._uses:
            self._uses = publication
            self._count(publication)
        self._mark()

    def _fill(self, publication: Publication) -> None:
        computed = [computed_style(publication.paragraph_styles, s.id)
                    for s in publication.paragraph_styles]  # fmt: skip
        names = {s.id: s.name for s in publication.paragraph_styles}
        colours = {c.id: in_rgb(c) for c in publication.colours}
        self.paragraphs.clear()
        for number, style in enumerate(publication.paragraph_styles, 1):
            key = f"; Ctrl+{number}" if number < 10 else ""
            base = names.get(style.based_on or "")
            self._row(self.paragraphs, style.id, style.name, base, key, computed[number - 1],
                      colours)  # fmt: skip
        self.characters.clear()
        ground = computed[0]
        looks = computed_characters(publication.character_styles)
        names = {s.id: s.name for s in publication.character_styles}
        if names:
            none = QTreeWidgetItem(["none", ""])
            none.setData(0, _ID, _NONE)
            none.setIcon(0, nothing())
            self.characters.addTopLevelItem(none)
        for each in publication.character_styles:
            base = names.get(each.based_on or "")
            self._row(self.characters, each.id, each.name, base, "",
                      _over(ground, looks[each.id]), colours)  # fmt: skip

    def _row(
        self, rows: _Rows, style_id: str, name: str, base: str | None, key: str,
        look: ComputedStyle, colours: dict[str, tuple[float, ...]],
    ) -> None:  # fmt: skip
        row = QTreeWidgetItem([name, ""])
        row.setData(0, _ID, style_id)
        red, green, blue = colours.get(look.colour, (0.0, 0.0, 0.0))
        row.setIcon(0, sample(look.family, look.bold, look.italic, look.size, (red, green, blue)))
        based = f"based on {base}" if base else "based on no other"
        row.setToolTip(0, f"{name}, {look.family} {figure(look.size)} pt, {based}{key}")
        row.setTextAlignment(1, Qt.AlignmentFlag.AlignRight)
        set_tone(row, "quiet", 1)
        rows.addTopLevelItem(row)

    def _count(self, publication: Publication) -> None:
        uses = uses_of_styles(publication)
        for rows in (self.paragraphs, self.characters):
            for n in range(rows.topLevelItemCount()):
                row = rows.topLevelItem(n)
                if row is not None and row.data(0, _ID) != _NONE:
                    row.setText(1, grouped(uses[row.data(0, _ID)]))

    def _mark(self) -> None:
        """Which style is worn where one works, and what departs from it."""
        session, dress = self.session, self.desk.text.dress
        worn: set[str] = set()
        character: str | None = None
        departs: tuple[str, ...] = ()
        if session.editing is not None:
            now = dress.now()
            worn = {now["style"]} if now["style"] else set()
            character, departs = now["character"], dress.departures()
        elif session.items:
            at = (session.holder_id, session.side, session.items)
            worn = styles_shown(session.composition, *at)
        _go_to(self.paragraphs, worn.pop() if len(worn) == 1 else "")
        _go_to(self.characters, character or (_NONE if session.editing is not None else ""))
        self.clear.setEnabled(bool(departs))
        self.change.setEnabled(self.paragraphs.currentItem() is not None)
        if departs:
            self.told.setText(f"Local formatting: {', '.join(departs)}")
        elif session.editing is not None or session.items:
            self.told.setText("Click to apply a style to the selection; drag to change the order.")
        else:
            self.told.setText("Select a text, or click into one, then click a style to apply it.")

    def _clicked(self, row: QTreeWidgetItem) -> None:
        """The style put on the paragraphs, characters or frames that are selected."""
        session, style = self.session, str(row.data(0, _ID))
        before = session.kept
        paragraph = row.treeWidget() is self.paragraphs
        dress = self.desk.text.dress
        if session.editing is not None:
            if paragraph and dress.now()["style"] != style:
                dress.set_paragraph_style(style)
            elif not paragraph:
                dress.set_character_style(None if style == _NONE else style)
            self.desk.setFocus()
        elif paragraph and session.items:
            at = (session.holder_id, session.side, session.items)
            if styles_shown(session.composition, *at) not in (set(), {style}):
                made = put_style(session.composition, *at, style)
                session.edit("paragraph style", lambda _: made)
        self._clicks = (before, session.kept)
        self.refresh()

    def _twice(self, row: QTreeWidgetItem) -> None:
        """The first click of two put the style on something: that was not meant."""
        before, after = self._clicks or (None, None)
        if before is not None and before is not after and self.session.kept is after:
            self.session.take_back(before)
        self._open(row)

    def _open(self, row: QTreeWidgetItem | None) -> None:
        style = row.data(0, _ID) if row is not None else None
        if style and style != _NONE:
            self._edit(style)

    def _move(
        self, move: Callable[[Publication, str, str | None], Publication], style: str,
        before: str | None,
    ) -> None:  # fmt: skip
        if style != before:
            self.session.edit("order of styles", lambda p: move(p, style, before))


def _over(ground: ComputedStyle, look: CharacterStyle) -> ComputedStyle:
    """A paragraph style's look with what a character style changes of it."""
    said = {n: v for n in ("family", "bold", "italic", "size", "colour")
            if (v := getattr(look, n)) is not None}  # fmt: skip
    return replace(ground, **said)


def _go_to(rows: _Rows, style: str) -> None:
    found = next(
        (row for n in range(rows.topLevelItemCount())
         if (row := rows.topLevelItem(n)) is not None and row.data(0, _ID) == style), None,
    )  # fmt: skip
    if found is not rows.currentItem():
        rows.setCurrentItem(found)  # type: ignore[arg-type]
