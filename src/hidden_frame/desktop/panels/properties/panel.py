"""The Properties panel: the form for what is selected."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QCheckBox, QFrame, QScrollArea, QVBoxLayout, QWidget

from hidden_frame.compose.contrast import poor_contrast
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.panels.properties.anchored import AnchoredForm
from hidden_frame.desktop.panels.properties.guide import GuideForm
from hidden_frame.desktop.panels.properties.item import ItemForm
from hidden_frame.desktop.panels.properties.master import MasterForm
from hidden_frame.desktop.panels.properties.page import PageForm
from hidden_frame.desktop.panels.properties.several import SeveralForm
from hidden_frame.desktop.panels.properties.text import TextForm
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.interact.hands.shown import items_on, shown_item
from hidden_frame.interact.words.remedies import remedies


class Properties(QScrollArea):
    """Shows the selected item, or else the page or master on the desk."""

    apply_wanted = Signal()
    size_wanted = Signal(object)

    def __init__(self, session: Session, text: TextEdit, run: Callable[[str], None]) -> None:
        super().__init__()
        self.session = session
        self.text = text
        self.run = run
        self.form: Form | None = None
        self._key: tuple[object, ...] = ()
        # Forms stay in one column, all but one hidden: making one takes longer than loading it.
        self._kept: dict[tuple[object, ...], Form] = {}
        self._column = QVBoxLayout()
        self._column.setContentsMargins(0, 0, 0, 0)
        self._holder = QWidget()
        self._holder.setObjectName("Panel")
        self._holder.setLayout(self._column)
        self.setWidget(self._holder)
        self.setObjectName("Panel")
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setMinimumWidth(284)
        self.setAccessibleName("Properties")
        # While a hand is at work the desk comes first: values follow a few times a second.
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(80)
        self._later.timeout.connect(self.refresh)
        session.changed.connect(self._changed)
        session.looked.connect(self.refresh)
        text.moved.connect(self._caret_moved)
        self.refresh()

    def _changed(self) -> None:
        if not self.session.busy:
            self.refresh()
        elif not self._later.isActive():
            self._later.start()

    def refresh(self) -> None:
        """Loads the values again, in a new form only if the kind of selection changed."""
        session = self.session
        form: Form | None
        if session.editing is not None:
            anchored = self.text.anchors.now() is not None
            kind = AnchoredForm if anchored else TextForm
            serves = session.editing if anchored else session.publication.setup.unit
            form = self._form((kind, serves)) or self._set(kind(session, self.text))
            assert isinstance(form, TextForm | AnchoredForm)
            form.load()
        elif len(session.items) == 1:
            self._item(session.items[0])
        elif session.items:
            form = self._form(("several", session.publication.setup.unit))
            form = form or self._set(SeveralForm(session, self.run))
            assert isinstance(form, SeveralForm)
            form.load()
        elif session.guide is not None:
            form = self._form(("guide", session.guide)) or self._set(GuideForm(session))
            assert isinstance(form, GuideForm)
            form.load()
        elif session.mode == "masters":
            form = self._form(("master", session.publication.setup.unit))
            if form is None:
                form = self._set(MasterForm(session))
            assert isinstance(form, MasterForm)
            form.load()
        else:
            form = self._form(("page",))
            if form is None:
                page = PageForm(session)
                page.apply_wanted.connect(self.apply_wanted)
                page.size_wanted.connect(self.size_wanted)
                form = self._set(page)
            assert isinstance(form, PageForm)
            form.load()

    def _caret_moved(self) -> None:
        if self.session.editing is not None and not self._later.isActive():
            self._later.start()

    def focus_field(self, label: str, level: str = "") -> bool:
        """The keyboard goes to the field of this label in the form that is shown, and that is
        unfolded; of two, to the one on the `level`, or to the one in sight.  Whether there is one.
        """
        self.refresh()
        if self.form is None:
            return False
        if level and self.form.levels is not None:
            self.form.levels.show_level(level)
        fields = [f for f in self.form.findChildren(QWidget) if _called(f) == label]
        fields.sort(key=lambda f: not f.isVisibleTo(self))
        for field in fields[:1]:
            self.form.reveal(field)
            field.setFocus(Qt.FocusReason.OtherFocusReason)
            self.ensureWidgetVisible(field)
        return any(field.isVisibleTo(self) for field in fields[:1])

    def _form(self, key: tuple[object, ...]) -> Form | None:
        """The form of this kind, in sight, if there is one."""
        if key == self._key and self.form is not None:
            return self.form
        self._key = key
        return self._show(self._kept[key]) if key in self._kept else None

    def _set(self, form: Form) -> Form:
        """Puts a new form into sight, and keeps it if others of its kind may need it."""
        form.setObjectName("Panel")
        self._column.addWidget(form)
        self._kept[self._key] = form
        return self._show(form)

    def _show(self, form: Form) -> Form:
        old, self.form = self.form, form
        if old is not None and old is not form:
            old.hide()
            # Each of these serves one thing.
            if isinstance(old, (AnchoredForm, GuideForm)):
                self._kept = {k: f for k, f in self._kept.items() if f is not old}
                # One of its own buttons may be what is being clicked: it goes a moment later.
                old.deleteLater()
        for group in form.groups:
            group.refresh()  # another form may have folded it meanwhile
        form.show()
        self.verticalScrollBar().setValue(0)
        return form

    def _item(self, item_id: str) -> None:
        session = self.session
        holder, side = session.holder_id, session.side
        resolved = next(
            (r for r in items_on(session.publication, holder, side) if r.item.id == item_id), None
        )
        item = shown_item(session.publication, holder, item_id, side)
        if resolved is None or item is None:
            return
        own = resolved.carrier in (None, holder)
        setup = session.publication.setup
        key = (type(item), own, resolved.carrier is None, session.mode, setup.unit, setup.facing)
        form = self._form(key)
        if form is None:
            form = self._set(ItemForm(session, item, resolved, self.run))
        assert isinstance(form, ItemForm)
        overflow, poor = self._faults(item_id)
        offers = remedies(session.composition, holder, item_id, side) if overflow else []
        form.load(item, resolved, overflow, offers, poor)

    def _faults(self, item_id: str) -> tuple[str, str]:
        """Why the item's text does not fit, and why it is hard to read; "" if it is not so."""
        session = self.session
        composition = session.composition
        if session.mode == "masters":
            scene = composition.master_scene(session.holder_id, session.side)
        else:
            scene = composition.scene(session.holder_id)
        overflow = ""
        for placed in scene.placed:
            if placed.item_id == item_id and placed.drawing.overflow is not None:
                overflow = placed.drawing.overflow.sentence
        # What lies under a moving text changes with every step; it is told once it rests.
        poor = poor_contrast(scene, item_id) if session.draft is None else None
        return overflow, poor.sentence if poor is not None else ""


def _called(field: QWidget) -> str:
    """A field's name: its label, or what stands on it."""
    if isinstance(field, QCheckBox):
        return field.accessibleName() or field.text()
    return field.accessibleName()
