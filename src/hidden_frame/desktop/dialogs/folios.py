"""Folios…: where they stand, what they say, on which pages; shown on the desk while one
chooses."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QCheckBox, QListWidget, QListWidgetItem, QMenu, QWidget

from hidden_frame.compose.facts import page_name
from hidden_frame.compose.markers import every_marker
from hidden_frame.compose.placing import on_side
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.desktop.dialogs.colour_choice import NO_DARK, ON_DARK_HINT, ColourChoice
from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.look.chips import ChipField
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.pages.folios import (
    Departing,
    FolioPlace,
    FolioPlan,
    PageEdge,
    departing_folios,
    first_pages,
    folio_of,
    leave_out,
    masters_with_folio,
    place_folios,
    place_section_folios,
    plan_of,
    put_away,
    remove_folios,
)
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.interact.words.told import FOLIOS_PUT_AWAY
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Shape
from hidden_frame.model.lookup import (
    all_pages,
    base_chain,
    find_page,
    masters_by_id,
    section_of,
    stack_of,
)
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Anchor, IndexMark, Marker, Note, Piece, Run

PLACES: tuple[tuple[str, tuple[PageEdge, FolioPlace]], ...] = (
    ("foot, outside", ("foot", "outside")),
    ("foot, centre", ("foot", "centre")),
    ("foot, inside", ("foot", "inside")),
    ("head, outside", ("head", "outside")),
    ("head, centre", ("head", "centre")),
    ("head, inside", ("head", "inside")),
)
_KEPT = ("where they are now", ("foot", "kept"))
_POINT = ("where you clicked", ("foot", "point"))
_FOLIO, _COUNT = Marker("folio"), Marker("page count")
FORMS: tuple[tuple[Piece, ...], ...] = (
    (_FOLIO,),
    (Run("Page "), _FOLIO),
    (Run("Page "), _FOLIO, Run(" of "), _COUNT),
    (_FOLIO, Run(" / "), _COUNT),
    (Run("– "), _FOLIO, Run(" –")),
    (Marker("section name"), Run(" "), _FOLIO),
)


def _in_words(content: tuple[Piece, ...]) -> str:
    """A form that is none of the list's, its markers by their names: “⟨Folio⟩ of ⟨Page count⟩”."""
    return "".join(
        f"⟨{piece.shows.capitalize()}⟩" if isinstance(piece, Marker) else piece.text
        for piece in content if isinstance(piece, Marker | Run)
    )  # fmt: skip


class FoliosDialog(EditQuestion):
    """Run again, it finds the folio that is there and changes that."""

    aside = True

    def __init__(self, session: Session, desk: Desk, parent: QWidget | None = None) -> None:
        publication = session.publication
        there = masters_with_folio(publication)
        away = put_away(publication)
        super().__init__(session, parent, "Folios", "Change" if there else "Place")
        self.desk = desk
        session.edit_text(None)
        styles = [s.id for s in publication.paragraph_styles]
        style = next((i for i in ("folio", "foot-folio") if i in styles), styles[0])
        self.plan = FolioPlan(style=style)
        carrier = self._carrier(there or away)
        if carrier:
            self.plan = plan_of(publication, carrier, self.plan)
        self._point = (self.plan.x, self.plan.y)
        form = self.form
        self.place = Choice("Position")
        self.place.committed.connect(self._preview)
        form.row("Position", self.place)
        self._show_places()
        (self.by_click,) = form.buttons("Choose the place by clicking…")
        self.by_click.clicked.connect(self._ask)
        self.form_field = Choice("Form")
        self.form_field.committed.connect(self._take_form)
        form.row("Form", self.form_field)
        self.written = ChipField("What the folio says")
        self.written.show_content(self.plan.content)
        self.written.edited.connect(self._written)
        form.row("Says", self.written)
        (self.marker,) = form.buttons("Insert marker ▾")
        self.marker.setMenu(self._markers())
        self._show_form()
        self.style_field = Choice("Style")
        self._styles = [(s.name, s.id) for s in publication.paragraph_styles]
        self.style_field.show_choice(self._styles, self.plan.style)
        self.style_field.committed.connect(self._preview)
        form.row("Style", self.style_field)
        self.on_dark = ColourChoice("On dark ground", session)
        self.on_dark.setToolTip(ON_DARK_HINT)
        self.on_dark.show_colours(self.plan.on_dark, NO_DARK)
        self.on_dark.committed.connect(self._preview)
        form.row("On dark ground", self.on_dark)
        form.heading("WHERE THEY APPEAR")
        self.where = Choice("Pages of")
        self.section = section_of(publication, session.page_id)
        name = self.section.name
        alone = f"the section {name} alone" if name else "this section alone"
        self.where.show_choice([("these masters", "masters"), (alone, "section")], "masters")
        self.where.committed.connect(self._preview)
        form.row("Pages of", self.where)
        self.masters = QListWidget()
        self.masters.setAccessibleName("Masters")
        self.masters.setFixedHeight(76)
        self._fill_masters(there or away)
        self.masters.itemChanged.connect(self._preview)
        form.column.addWidget(self.masters)
        self.departing = departing_folios(publication)
        self.departs = QListWidget()
        self.departs.setAccessibleName("Departures to be changed too")
        self._fill_departing()
        form.heading("LEFT OUT: COUNTED, NOT PRINTED")
        blind = [p.id for p in all_pages(publication) if p.blind]
        firsts = first_pages(publication)
        self.first = QCheckBox("The first page of each section")
        self.first.setChecked(set(firsts) <= set(blind))
        self.first.clicked.connect(self._preview)
        form.column.addWidget(self.first)
        facts = session.composition.facts
        rest = [i for i in blind if not (self.first.isChecked() and i in firsts)]
        self.out = TextField("Pages left out")
        self.out.setPlaceholderText("none, or 3, 7, iv, #1")
        self.out.setText(", ".join(f"#{facts[i].position}" for i in rest))
        self.out.textChanged.connect(self._preview)
        self.out.committed.connect(self._preview)
        form.row("Pages left out", self.out)
        (self.remove,) = form.buttons("Remove all folios")
        self.remove.setEnabled(bool(there))
        self.remove.clicked.connect(self._remove)
        self.rejected.connect(lambda: session.set_draft(None))
        self.finish()
        self._preview()

    # -- what is there -------------------------------------------------------------

    def _carrier(self, there: list[str]) -> str:
        """The master whose folio the page on the desk shows, or the first that has one."""
        session = self.session
        if session.mode == "masters" and folio_of(session.publication, session.master_id):
            return session.master_id
        page = find_page(session.publication, session.page_id)
        for master_id in reversed(stack_of(session.publication, page)):
            if folio_of(session.publication, master_id) is not None:
                return master_id
        return there[0] if there else ""

    def _show_places(self) -> None:
        options: list[tuple[str, tuple[PageEdge, FolioPlace]]] = list(PLACES)
        if self.plan.place == "kept":
            options.insert(0, _KEPT)  # type: ignore[arg-type]
        if self.plan.place == "point":
            options.insert(0, _POINT)  # type: ignore[arg-type]
        self._places = options
        wanted = (self.plan.edge, self.plan.place)
        if self.plan.place in ("kept", "point"):
            wanted = ("foot", self.plan.place)
        self.place.show_choice(options, wanted)

    def _fill_masters(self, there: list[str]) -> None:
        """Masters that are a base or have none; those with a folio are ticked, or else those
        that pages follow."""
        publication = self.session.publication
        roots = {base_chain(publication, m.id)[0].id for m in publication.masters}
        used = {
            base_chain(publication, master_id)[0].id
            for page in all_pages(publication)
            for master_id in stack_of(publication, page)
        }
        ticked = set(there) or used
        for master in publication.masters:
            if master.id not in roots and master.id not in there:
                continue
            row = QListWidgetItem(master.name)
            row.setData(Qt.ItemDataRole.UserRole, master.id)
            row.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsUserCheckable)
            on = master.id in ticked
            row.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
            self.masters.addItem(row)

    def _fill_departing(self) -> None:
        """Pages and masters whose folios say something of their own; those that are ticked say the
        same as all others from now on."""
        if not self.departing:
            return
        count = len(self.departing)
        self.form.note(
            plural(
                count,
                "{n} of them differs. Tick it to change it too:",
                "{n} of them differ. Tick those to change too:",
            )
        )
        self.departs.setFixedHeight(24 * min(count, 4) + 8)
        facts, masters = self.session.composition.facts, masters_by_id(self.session.publication)
        for each in self.departing:
            known = masters.get(each.holder)
            name = f"Master “{known.name}”" if known else f"Page {page_name(facts[each.holder])}"
            row = QListWidgetItem(f"{name}, an item of its own" if each.own else name)
            row.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsUserCheckable)
            row.setCheckState(Qt.CheckState.Unchecked)
            self.departs.addItem(row)
        self.departs.itemChanged.connect(self._preview)
        self.form.column.addWidget(self.departs)

    # -- what it says ----------------------------------------------------------------

    def _sample(self, content: tuple[Piece, ...]) -> str:
        """How a form prints on the page on the desk, or on the first that prints a folio."""
        facts = self.session.composition.facts
        here = facts[self.session.page_id]
        if not here.folio:
            here = next((f for f in facts.values() if f.folio), here)
        return "".join(
            self.session.composition.value(c, here.page_id) if isinstance(c, Marker) else c.text
            for c in content
            if not isinstance(c, Anchor | IndexMark | Note)
        )

    def _show_form(self) -> None:
        """The form in the list that is written, or that it is none of them."""
        content = self.written.content()
        options: list[tuple[str, object]] = [(self._sample(f), f) for f in FORMS]
        if content not in FORMS:
            options.append((_in_words(content), content))
        self.form_field.show_choice(options, content)

    def _take_form(self, content: object) -> None:
        self.written.show_content(content)  # type: ignore[arg-type]

    def _written(self) -> None:
        self._show_form()
        self._preview()

    def _markers(self) -> QMenu:
        menu = QMenu(self.marker)
        for label, marker in every_marker(self.session.publication.details):
            menu.addAction(label, lambda m=marker: self.written.put(m))
        return menu

    # -- what is chosen --------------------------------------------------------------

    def chosen_masters(self) -> list[str]:
        rows = [self.masters.item(n) for n in range(self.masters.count())]
        return [
            r.data(Qt.ItemDataRole.UserRole)
            for r in rows
            if r.checkState() == Qt.CheckState.Checked
        ]

    def chosen_plan(self) -> FolioPlan:
        edge, place = self._places[self.place.currentIndex()][1]
        style = self._styles[self.style_field.currentIndex()][1]
        x, y = self._point
        dark = self.on_dark.value()
        on_dark = None if dark is None else str(dark)
        return FolioPlan(edge, place, self.written.content(), style, x, y, on_dark)

    def also(self) -> list[Departing]:
        """Departures to be changed too."""
        return [
            each for n, each in enumerate(self.departing)
            if self.departs.item(n).checkState() == Qt.CheckState.Checked
        ]  # fmt: skip

    def changed(self, publication: Publication) -> Publication:
        """The publication with folios as chosen; raises what is wrong with the choice."""
        plan = self.chosen_plan()
        if self.where.currentIndex() == 1:
            publication = place_section_folios(publication, self.section.id, plan)
            among = [p.id for p in self.section.pages]
        else:
            publication = place_folios(publication, self.chosen_masters(), plan, self.also())
            among = [p.id for p in all_pages(publication)]
        out = set(first_pages(publication)) if self.first.isChecked() else set()
        if self.out.text().strip():
            out |= set(pages_in_range(publication, self.out.text()))
        return leave_out(publication, out, among)

    def _preview(self, *_: object) -> None:
        """The desk shows what would come of it."""
        self.masters.setEnabled(self.where.currentIndex() == 0)
        self.departs.setEnabled(self.where.currentIndex() == 0)
        try:
            self.session.set_draft(self.changed(self.session.history.now))
            self.form.say("")
        except Refusal as refusal:
            self.session.set_draft(None)
            self.form.say(refusal)

    def _ask(self) -> None:
        self.hide()
        self.session.set_draft(None)
        self.desk.ask_for_point(self._clicked, self.open)
        self.session.noticed.emit("Click where the folio should go, on either page.")

    def _clicked(self, spot: Spot, point: QPointF) -> None:
        """The point as it is on a recto, so that a click on either side means the same."""
        width = self.session.publication.setup.trim.width
        at = on_side(Shape(id="", x=spot.x, y=spot.y, width=0, height=0), spot.face.side, width)
        self._point = (at.x, at.y)
        self.plan = replace(self.plan, place="point")
        self._show_places()
        self.open()
        self._preview()

    # -- answers ---------------------------------------------------------------------

    def answer(self) -> None:
        self.changed(self.session.history.now)
        self.session.edit("folios", self.changed)
        self.session.set_draft(None)

    def _remove(self) -> None:
        self.session.set_draft(None)
        if self.session.edit("remove all folios", remove_folios):
            self.session.noticed.emit(FOLIOS_PUT_AWAY)
        self.accept()
