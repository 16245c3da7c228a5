"""A running head chosen: of which style, which paragraph, and what of it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.compose.dates import FORMS, written
from hidden_frame.compose.facts import page_name
from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.dialogs.colour_choice import NO_DARK, ON_DARK_HINT, ColourChoice
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.looks.colours import check_dark
from hidden_frame.interact.hands.likely import first_heading
from hidden_frame.interact.hands.shown import change_shown, shown_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.text import Head, Marker

_WHICH = (
    ("the first on the page", "first"), ("the last on the page", "last"),
    ("the one in force at its top", "at the top"), ("the latest before the page", "before"),
)  # fmt: skip
_PART = (
    ("its text", "text"), ("its number", "number"), ("its number and text", "number and text"),
)  # fmt: skip
_OVER = (
    ("this page", "page"), ("the whole spread", "spread"), ("the facing page", "facing page"),
)  # fmt: skip


_NO_HEADING = (
    "No page has a heading yet. Give a paragraph a heading style, or choose the style to be shown."
)


class RunningHeadDialog(Question):
    """Says beforehand what pages would show."""

    aside = True

    def __init__(
        self, session: Session, parent: QWidget | None, put: Callable[[Marker], None],
        head: Head | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent, "Running head", "Insert" if head is None else "Change")
        self.session, self._put = session, put
        publication = session.publication
        self.form.note("Shows on each page a paragraph found there, or on an earlier page.")
        self.style_field = Choice("Style")
        styles: list[tuple[str, object]] = [(s.name, s.id) for s in publication.paragraph_styles]
        styles += [(f"{s.name} (characters)", s.id) for s in publication.character_styles]
        likely = head.style if head is not None else first_heading(publication)
        self.style_field.setPlaceholderText("choose one")
        self.style_field.show_choice(styles, likely or None)
        self.form.row("Of style", self.style_field)
        self.which, self.part, self.over = Choice("Which"), Choice("What of it"), Choice("Looks at")
        self.between = TextField("Between number and text")
        now = head or Head(likely)
        self.which.show_choice(_WHICH, now.which)
        self.part.show_choice(_PART, now.part)
        self.over.show_choice(_OVER, now.over)
        self.between.show_text(now.between)
        self.form.row("Which", self.which)
        self.form.row("Looks at", self.over)
        self.form.row("Shows", self.part)
        self.form.row("Between", self.between)
        self.frame = self._frame()
        self.on_dark = ColourChoice("On dark ground", session)
        self.on_dark.setToolTip(ON_DARK_HINT)
        self.form.row("On dark ground", self.on_dark)
        self.on_dark.show_colours(self.frame.on_dark if self.frame is not None else None, NO_DARK)
        self.form.show_row(self.on_dark, self.frame is not None)
        self.stops = QCheckBox("Empty between a higher-level heading and the next of these")
        self.stops.setChecked(now.stops)
        self.form.column.addWidget(self.stops)
        self.stops.toggled.connect(lambda *_: self._tell())
        self.sample = self.form.note(" ")
        self.sample.setMinimumHeight(64)
        for field in (self.style_field, self.which, self.part, self.over):
            field.committed.connect(lambda *_: self._tell())
        self.between.textChanged.connect(lambda *_: self._tell())
        self._tell()
        self.finish()

    def _frame(self) -> TextFrame | None:
        """The frame that is written in, whose words may take another colour on dark ground."""
        written = self.session.editing
        if written is None:
            return None
        publication = self.session.history.now
        item = shown_item(publication, written.holder_id, written.item_id, written.side)
        return item if isinstance(item, TextFrame) else None

    def _darken(self) -> None:
        """The frame's colour on dark ground, where another was chosen."""
        written, frame, chosen = self.session.editing, self.frame, self.on_dark.value()
        if written is None or frame is None or chosen == frame.on_dark:
            return
        changes: dict[str, dict[str, object]] = {frame.id: {"on_dark": chosen}}
        check_dark(
            self.session.publication, frame.text_colour, None if chosen is None else str(chosen)
        )
        self.session.edit(
            "colour on dark ground",
            lambda p: change_shown(p, written.holder_id, written.side, changes),
        )

    def head(self) -> Head:
        """What is chosen."""
        return Head(
            style=str(self.style_field.value() or ""),
            which=self.which.value(),  # type: ignore[arg-type]
            part=self.part.value(),  # type: ignore[arg-type]
            between=self.between.text()[:40],
            over=self.over.value(),  # type: ignore[arg-type]
            stops=self.stops.isChecked(),
        )

    def _tell(self) -> None:
        """What the pages around the one on the desk would show."""
        self.form.show_row(self.between, self.part.value() == "number and text")
        if not self.head().style:
            self.sample.setText(_NO_HEADING)
            return
        composition, marker = self.session.composition, Marker("running head", head=self.head())
        pages = all_pages(self.session.publication)
        at = next((n for n, p in enumerate(pages) if p.id == self.session.page_id), 0)
        said = []
        for page in pages[max(at - 1, 0) : at + 2]:
            words = composition.value(marker, page.id)
            shown = f"“{words}”" if words else "nothing"
            said.append(f"{page_name(composition.facts[page.id])}: {shown}")
        self.sample.setText("\n".join(said))

    def answer(self) -> None:
        head = self.head()
        if not head.style:
            raise Refusal(_NO_HEADING)
        if len(self.between.text()) > 40:
            raise self.between.refusal(
                "Between number and text stand at most 40 characters; shorten it."
            )
        self._darken()
        self._put(Marker("running head", head=head))


class DateDialog(Question):
    """The form of a date that is that of the day on which it is printed."""

    def __init__(
        self, session: Session, parent: QWidget | None, put: Callable[[Marker], None]
    ) -> None:
        super().__init__(parent, "Date", "Insert")
        self._put = put
        self.form.note("The date of export, in the publication’s language.")
        given, language = session.composer.given, session.publication.about.language
        self.how = Choice("Form")
        self.how.show_choice([(written(given.today, f, language), f) for f in FORMS],
                             "day month year")  # fmt: skip
        self.form.row("Form", self.how)
        self.finish()

    def answer(self) -> None:
        self._put(Marker("date", form=str(self.how.value())))
