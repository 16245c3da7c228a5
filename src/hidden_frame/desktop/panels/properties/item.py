"""Properties of the selected item."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QPushButton

from hidden_frame.compose.cascade import Resolved
from hidden_frame.desktop.fields.fields import (
    Choice,
    Typed,
)
from hidden_frame.desktop.fields.item_rows import ItemRows
from hidden_frame.desktop.fields.lengths import add_length, add_rotation
from hidden_frame.desktop.panels.properties.kinds import add_around, add_kind_rows, handled
from hidden_frame.desktop.panels.properties.look import (
    BLENDS,
    add_colour,
    add_dash,
    add_stroke_width,
    add_tint,
)
from hidden_frame.desktop.panels.properties.place import add_arrange, add_reference
from hidden_frame.desktop.panels.properties.worn import WORN
from hidden_frame.desktop.state.choices import (
    go_to_item,
    hide_item,
    make_item_local,
    show_item,
)
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.masters.faces import set_face
from hidden_frame.interact.words.remedies import Remedy
from hidden_frame.model.items import (
    Faces,
    Item,
    Placing,
    TextFrame,
    is_level,
)
from hidden_frame.model.lookup import masters_by_id

PLACINGS = (
    ("both faces, mirrored", ("both", "mirrored")),
    ("both faces, same place", ("both", "repeated")),
    ("verso only", ("verso", "mirrored")),
    ("recto only", ("recto", "mirrored")),
)
_LENGTHS = (("X", "x"), ("Y", "y"), ("Width", "width"), ("Height", "height"))

SHOW_AGAIN = "Show again"


class ItemForm(ItemRows):
    """One for each kind of item; `load` makes it that of the item selected."""

    folds = True

    def __init__(
        self, session: Session, item: Item, resolved: Resolved, run: Callable[[str], None]
    ) -> None:
        super().__init__(session, item.id)
        self._offered: list[str] = []
        unit = session.publication.setup.unit
        self.title(handled(item).title)
        own = resolved.carrier in (None, self.holder)
        if own:
            self.text("Name", "name")
            if resolved.carrier is not None:
                self._faces()
        else:
            self._origin(resolved)
        self.points = add_reference(self, session)
        for label, name in _LENGTHS:
            if is_level(item) and name == "height":
                continue
            text = "Length" if is_level(item) and name == "width" else label
            add_length(self, text, name, unit, beside=label in ("Y", "Height"))
        self.grid = None  # labels of other lengths have a column of their own
        add_rotation(self)
        add_kind_rows(self, item, unit, inherited=not own)
        self.heading("LOOK")
        if not is_level(item):
            add_colour(self, "Fill", "fill")
            add_tint(self, "Fill tint", "fill")
        add_colour(self, "Stroke", "stroke")
        add_tint(self, "Stroke tint", "stroke")
        add_stroke_width(self)
        add_dash(self)
        if self.grid is not None:
            self.grid.setColumnStretch(4, 0)
            self.grid = None  # longer labels follow
        self.number("Opacity", "opacity", "%", 0, 100, 100.0)
        self.choice("Blending", "blend", lambda _: BLENDS)
        self.choice("Layer", "layer", lambda p: [(x.name, x.id) for x in p.layers])
        self.poor = self.note()
        self.poor.setObjectName("Error")
        self.arrange = add_arrange(self, session, run)
        add_around(self, unit)
        self.end()

    # -- rows ----------------------------------------------------------------------

    def _origin(self, resolved: Resolved) -> None:
        """Where a master item comes from, and the four choices."""
        self.origin = self.note()
        session = self.session
        on_page = session.mode == "pages"
        where, kind = ("here", "master") if on_page else ("on this master", "base")
        self._hide = f"Hide {where}"
        here, hide, local, go = self.buttons(
            f"Override {where}", self._hide, "Make local", f"Go to {kind}",
            abreast=2 if on_page else 1,
        )  # fmt: skip
        here.clicked.connect(lambda: session.unlock(self.holder, self.item_id))
        self.here_button = here
        self.hide_button = hide
        hide.clicked.connect(self._hide_or_show)
        local.clicked.connect(lambda: make_item_local(session, self.item_id))
        local.setVisible(on_page)
        go.clicked.connect(lambda: go_to_item(session, self.item_id))
        self.all_follow: QPushButton = self.buttons(f"Follow the {kind} in everything")[0]
        self.all_follow.clicked.connect(lambda: self.follow_again())

    def _hide_or_show(self) -> None:
        hidden = self.hide_button.text() == SHOW_AGAIN
        (show_item if hidden else hide_item)(self.session, self.item_id)

    def _faces(self) -> None:
        field = Choice("Stands on")

        def load(item: Item) -> None:
            placing = "mirrored" if item.face != "both" else item.placing
            field.show_choice(PLACINGS, (item.face, placing))

        def commit(value: object) -> None:
            chosen: tuple[Faces, Placing] = value  # type: ignore[assignment]
            self.session.edit(
                "faces", lambda p: set_face(p, self.holder, self.item_id, *chosen, self.side)
            )

        field.committed.connect(commit)
        self.row("Stands on", field)
        self.fields["faces"] = field
        self.loaders.append(load)

    # -- values ----------------------------------------------------------------------

    def load(
        self, item: Item, resolved: Resolved, overflow: str, offers: list[Remedy], poor: str
    ) -> None:
        """Shows an item's values, which of them are overridden, and what is wrong."""
        session = self.session
        about = (session.holder_id, session.side, item.id)
        if about != (self.holder, self.side, self.item_id):
            self.holder, self.side, self.item_id = about
            self.say("")
            for field in self.fields.values():
                if isinstance(field, Typed):
                    field.forget()
        self.points.show_point(self.session.reference)
        allowed = self.open()
        at_once = WORN if resolved.carrier not in (None, self.holder) else ()
        for name, field in self.fields.items():
            field.setEnabled(allowed or name in at_once)  # type: ignore[attr-defined]
        for loader in self.loaders:
            loader(item)
        for name, button in self.follows.items():
            button.setVisible(name in resolved.overridden)
        if hasattr(self, "all_follow"):
            self.all_follow.setVisible(bool(resolved.overridden))
            self.hide_button.setText(self._hide if item.visible else SHOW_AGAIN)
            self.here_button.setDisabled(allowed)
            master = masters_by_id(session.publication)[str(resolved.carrier)]
            kind = "master" if session.mode == "pages" else "base"
            self.origin.setText(f"From the {kind} “{master.name}”")
        self.arrange.load()
        self.arrange.setEnabled(allowed)
        self.poor.setText(poor)
        self.poor.setVisible(bool(poor))
        if isinstance(item, TextFrame):
            self._tell_story(item.id)
            self.overflow.setText(overflow)
            self.overflow.setVisible(bool(overflow))
            self._show_offers(offers if allowed else [])

    def _tell_story(self, item_id: str) -> None:
        """Which story a frame shows, and which of its stops it is."""
        session = self.session
        on_page = session.mode == "pages"
        told = session.composition.told(self.holder, item_id) if on_page else None
        self.story.setVisible(told is not None)
        if told is not None:
            at = told.flow.index[self.holder, item_id] + 1
            self.story.setText(f"“{told.story.name}”, frame {at} of {len(told.flow.stops)}")

    def _show_offers(self, offers: list[Remedy]) -> None:
        """A button for each thing that makes the text fit."""
        titles = [offer.title for offer in offers]
        if titles == self._offered:
            return
        self._offered = titles
        while self.offers.count():
            old = self.offers.takeAt(0)
            widget = old.widget() if old is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for offer in offers:
            button = QPushButton(offer.title)
            button.clicked.connect(
                lambda _=False, o=offer: self.change("fit the text", **o.changes)
            )
            self.offers.addWidget(button)
