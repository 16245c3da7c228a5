"""A finder of characters: by name, by block, by likeness, as the font at hand has them."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QTransform
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QLabel,
    QLineEdit,
    QListView,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.painter.fonts import OUTLINE_SIZE, glyph_path
from hidden_frame.interact.finds.characters import BLOCKS, OtherForm, forms, found, has, name_of
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.fonts.fallback import stretches
from hidden_frame.typeset.shaping import Lettering, shape

_CELL, _SIZE = 40, 22.0  # pixels
_FORM = Qt.ItemDataRole.UserRole  # the feature of another form
_RECENT, _LIKED = "recent", "liked"
_KEPT = 60  # characters used of late that are remembered
_UNSEEN = {" ": "space", "\u00a0": "hard", "\u00ad": "soft", "\u2028": "line", "\u200b": "zero",
           "\u2060": "join", "\u202f": "nnbsp", "\u2009": "thin"}  # fmt: skip


class _Cell(QStyledItemDelegate):
    """A character as its font draws it; a word for one that can't be seen."""

    face: FontFace | None = None

    def sizeHint(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QSize:
        return QSize(_CELL, _CELL)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> None:  # fmt: skip
        colours, rect = theme.current(), QRectF(option.rect)  # type: ignore[attr-defined]
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = bool(option.state & option.state.State_Selected)  # type: ignore[attr-defined]
        painter.setPen(QPen(QColor(colours.action if chosen else colours.line), 1))
        painter.setBrush(QColor(colours.field))
        painter.drawRoundedRect(rect.adjusted(1.5, 1.5, -1.5, -1.5), 4, 4)
        form = str(index.data(_FORM) or "")
        self._character(painter, rect, str(index.data()), form, QColor(colours.text))
        painter.restore()

    def _character(
        self, painter: QPainter, rect: QRectF, character: str, form: str, ink: QColor
    ) -> None:
        name = _UNSEEN.get(character)
        unseen = unicodedata.category(character) in ("Cf", "Zs", "Zl", "Zp", "Cc", "Cn", "Co")
        if name is not None or self.face is None or unseen:
            font = painter.font()
            font.setPixelSize(9)
            painter.setFont(font)
            painter.setPen(ink)
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, name or f"{ord(character):04X}")
            return
        face = stretches(character, self.face)[0][1]
        shaped = shape(face, character, manner=Lettering((form,) if form else ()))
        scale = _SIZE / OUTLINE_SIZE
        width = shaped.width / face.upem * _SIZE
        x, y = rect.center().x() - width / 2, rect.center().y() + _SIZE * 0.32
        for glyph, advance in zip(shaped.glyphs, shaped.advances, strict=True):
            base = painter.transform()
            painter.setTransform(QTransform(scale, 0, 0, scale, x, y), True)
            painter.fillPath(glyph_path(face, glyph), ink)
            painter.setTransform(base)
            x += advance / face.upem * _SIZE


class CharacterFinder(QDialog):
    """Stays while one writes; a double click puts a character in at the caret."""

    def __init__(
        self, parent: QWidget | None, face: Callable[[], FontFace], put: Callable[[str, str], None]
    ) -> None:
        super().__init__(parent)
        self._face, self._put = face, put
        self.setWindowTitle("Characters")
        self.setModal(False)
        self.resize(460, 480)
        column = QVBoxLayout(self)
        self.word = QLineEdit()
        self.word.setPlaceholderText("A name (em dash), a code (2014), or a letter like it (e)")
        self.word.setAccessibleName("Name, code or letter")
        self.word.setClearButtonEnabled(True)
        column.addWidget(self.word)
        self.block = Choice("Which")
        options: list[tuple[str, object]] = [
            ("Recently used", _RECENT), ("Favourites", _LIKED), ("All", ""),
            *((name, name) for name in BLOCKS),
        ]  # fmt: skip
        self.block.show_choice(options, _RECENT if settings().now.characters else "")
        column.addWidget(self.block)
        self.list, self.cell = self._grid("Characters")
        column.addWidget(self.list, 1)
        self.forms, self._form_cell = self._grid("Other forms in this font")
        self.forms.setFixedHeight(_CELL + 8)
        self.forms.setWrapping(False)
        self.forms.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.forms_heading = QLabel("OTHER FORMS IN THIS FONT")
        self.forms_heading.setObjectName("Heading")
        column.addWidget(self.forms_heading)
        column.addWidget(self.forms)
        self.told = QLabel(" ")
        self.told.setWordWrap(True)
        self.told.setMinimumHeight(36)
        column.addWidget(self.told)
        self.only = QCheckBox("Only characters in the font at the caret")
        column.addWidget(self.only)
        grid = QGridLayout()
        self.insert, self.like = QPushButton("Insert"), QPushButton("Favourite")
        for n, button in enumerate((self.insert, self.like)):
            button.setAutoDefault(False)
            grid.addWidget(button, 0, n)
        column.addLayout(grid)
        self.word.textChanged.connect(lambda _: self.refresh())
        self.word.returnPressed.connect(self.put)
        self.block.committed.connect(lambda _: self.refresh())
        self.only.clicked.connect(lambda _: self.refresh())
        self.list.currentItemChanged.connect(lambda *_: self._tell())
        self.list.itemDoubleClicked.connect(lambda _: self.put())
        self.forms.currentItemChanged.connect(lambda *_: self._tell_form())
        self.forms.itemDoubleClicked.connect(lambda _: self.put())
        self.insert.clicked.connect(self.put)
        self.like.clicked.connect(self.favour)
        self.refresh()

    def _grid(self, name: str) -> tuple[QListWidget, _Cell]:
        """A list of characters side by side."""
        found = QListWidget()
        found.setAccessibleName(name)
        found.setViewMode(QListView.ViewMode.IconMode)
        found.setResizeMode(QListView.ResizeMode.Adjust)
        found.setMovement(QListView.Movement.Static)
        found.setUniformItemSizes(True)
        cell = _Cell(found)
        found.setItemDelegate(cell)
        return found, cell

    def refresh(self) -> None:
        """The characters that are asked for, in the font at the caret."""
        face = self.cell.face = self._face()
        kept, block = settings().now, str(self.block.value() or "")
        words = self.word.text()
        if not words.strip() and block in (_RECENT, _LIKED):
            among = list(kept.characters if block == _RECENT else kept.favourites)
        else:
            asked = "" if block in (_RECENT, _LIKED) else block
            among = found(words, asked, face if self.only.isChecked() else None)
        self.list.clear()
        for character in among:
            row = QListWidgetItem(character)
            row.setToolTip(name_of(character))
            self.list.addItem(row)
        if among:
            self.list.setCurrentRow(0)
        self._tell()

    def chosen(self) -> str:
        """The character that is chosen; "" if none is."""
        row = self.list.currentItem()
        return row.text() if row is not None else ""

    def form(self) -> str:
        """The feature of the form that is chosen; "" for the usual one."""
        row = self.forms.currentItem()
        return str(row.data(_FORM) or "") if row is not None else ""

    def _show_forms(self, character: str) -> None:
        """The forms that the font has of a character, the usual one first."""
        face = self._form_cell.face = self.cell.face
        others = forms(face, character) if face is not None and character else []
        self.forms.blockSignals(True)
        self.forms.clear()
        for each in (OtherForm("", "The usual form"), *others) if others else ():
            row = QListWidgetItem(character)
            row.setData(_FORM, each.alternate)
            row.setToolTip(each.called)
            self.forms.addItem(row)
        self.forms.blockSignals(False)
        for widget in (self.forms, self.forms_heading):
            widget.setVisible(bool(others))

    def _tell_form(self) -> None:
        row = self.forms.currentItem()
        if row is not None:
            self.told.setText(f"{name_of(self.chosen())} · {row.toolTip()}")

    def _tell(self) -> None:
        character = self.chosen()
        self._show_forms(character)
        self.insert.setEnabled(bool(character))
        self.like.setEnabled(bool(character))
        if not character:
            self.told.setText("Nothing has that name; try fewer words, or another block.")
            return
        face = self.cell.face
        other = "" if face is None or has(face, character) else f" · not in {face.family}"
        self.told.setText(name_of(character) + other)
        liked = character in settings().now.favourites
        self.like.setText("Remove from favourites" if liked else "Favourite")

    def put(self) -> None:
        """The chosen character at the caret; it is remembered."""
        character = self.chosen()
        if character:
            recent = character + settings().now.characters.replace(character, "")
            settings().change(characters=recent[:_KEPT])
            self._put(character, self.form())

    def favour(self) -> None:
        """The chosen character among the favourites, or out of them."""
        character, liked = self.chosen(), settings().now.favourites
        made = liked.replace(character, "") if character in liked else liked + character
        settings().change(favourites=made)
        self._tell()
