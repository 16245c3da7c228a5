"""Properties of the selected guide."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox

from hidden_frame.desktop.fields.fields import LengthField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.guides import lock_guide, move_guide, own_guides, remove_guide
from hidden_frame.interact.sight.value import GuideAt
from hidden_frame.model.geometry import Guide
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.plane.mirror import guide_x


class GuideForm(Form):
    """Where it stands, typed; locked or free; away with it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.name = self.title("Guide")
        self.what = self.note()
        self.place = LengthField("Position", session.publication.setup.unit)
        self.place.committed.connect(lambda value: self._move(float(value)))
        self.row("Position", self.place)
        self.locked = QCheckBox("Locked")
        self.locked.clicked.connect(self._lock)
        self.column.addWidget(self.locked)
        (self.remove,) = self.buttons("Remove this guide")
        self.remove.clicked.connect(self._remove)
        self.end()

    def _at(self) -> GuideAt:
        at = self.session.guide
        assert at is not None
        return at

    def _guide(self) -> Guide:
        return own_guides(self.session.publication, self._at().holder_id)[self._at().number]

    def _seen(self, position: float) -> float:
        """From the guide's own measure to the rulers', and back: each is the other's inverse."""
        session, guide = self.session, self._guide()
        if guide.axis == "horizontal":
            return position
        side = session.side_of(self._at().holder_id)
        return guide_x(position, side, session.publication.setup.trim.width)

    def load(self) -> None:
        session, at = self.session, self._at()
        if at.number >= len(own_guides(session.publication, at.holder_id)):
            return  # it is being dragged away; nothing is decided yet
        guide = self._guide()
        level = guide.axis == "horizontal"
        self.name.setText("Horizontal guide" if level else "Vertical guide")
        on_master = self._at().holder_id in masters_by_id(session.publication)
        where = "the master, and all pages that follow it" if on_master else "this page"
        self.what.setText(f"On {where}")
        zero = session.zero[1 if level else 0]
        self.place.show_value(self._seen(guide.position) - zero)
        self.place.setEnabled(not guide.locked)
        self.locked.setChecked(guide.locked)

    def _move(self, value: float) -> None:
        at = self._at()
        level = self._guide().axis == "horizontal"
        position = self._seen(value + self.session.zero[1 if level else 0])
        self.session.edit("move a guide", lambda p: move_guide(p, *at, position))

    def _lock(self, locked: bool) -> None:
        at = self._at()
        self.session.edit("lock a guide", lambda p: lock_guide(p, *at, locked))

    def _remove(self) -> None:
        at = self._at()
        self.session.edit("remove a guide", lambda p: remove_guide(p, *at))
