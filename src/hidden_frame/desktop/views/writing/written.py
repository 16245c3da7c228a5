"""The text that is edited in place: what it is, and how it changes."""

from __future__ import annotations

import time
from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from hidden_frame.compose.composition import StoryOnPages
from hidden_frame.compose.scene import Placed, TextPrimitive
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.anchors import TextAnchors
from hidden_frame.desktop.views.writing.dress import TextDress
from hidden_frame.desktop.views.writing.making import Making
from hidden_frame.desktop.views.writing.places import TextPlaces
from hidden_frame.desktop.views.writing.step_carets import StepCaret, StepCarets
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text import steps
from hidden_frame.edit.text import write as edit_text
from hidden_frame.edit.text.typing import typed
from hidden_frame.interact.hands.carets import FrameText, Standing, at_point, stop_at
from hidden_frame.interact.hands.shown import change_shown, shown_item
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_story
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Publication
from hidden_frame.model.same import same_ends
from hidden_frame.model.styles import computed_style
from hidden_frame.model.text import STEADY, Marker, Text, TextPlace
from hidden_frame.spelling.checked import is_code

_REST = 2.0  # seconds without a key after which typing is a new step
_STEP = 48  # characters of one step, to the end of their word


class WrittenText(QObject):
    """The text of the frame named by `session.editing`, its caret and its selection."""

    moved = Signal()

    def __init__(self, session: Session, placed: Callable[[], Placed | None]) -> None:
        super().__init__()
        self.session = session
        self.placed = placed
        self.caret: TextPlace = (0, 0)
        self.anchor: TextPlace = (0, 0)
        self._typed, self._typed_at = "", 0.0
        self._standing = Standing((0, 0))
        self.making = Making(self)
        self._steps = StepCarets()
        self._story = ""  # the one that is written in, if it is one
        session.stepped.connect(self._take_step)
        self._seen: tuple[str, Text] = "", ()  # the story's text in which the caret stands
        session.changed.connect(self.making.watch)
        session.changed.connect(self._go_along)
        session.changed.connect(self._regain)
        self.dress = TextDress(self)
        self.anchors = TextAnchors(self)
        self.places = TextPlaces(self)

    # -- the text ----------------------------------------------------------------

    @property
    def text(self) -> Text:
        """The text being edited, with at least one paragraph."""
        editing = self.session.editing
        if editing is None:
            return ()
        now = self.session.history.now if self.making.on else self.session.publication
        told = self.told()
        if told is not None:
            return find_story(now, told.story.id).text if self.making.on else told.story.text
        item = shown_item(now, editing.holder_id, editing.item_id, editing.side)
        first = self.session.publication.paragraph_styles[0].id
        return edit_text.start_of(item.text, first) if isinstance(item, TextFrame) else ()

    def told(self) -> StoryOnPages | None:
        """The story that is being written; None for a frame's own text."""
        editing = self.session.editing
        if editing is None or editing.holder_id not in self.session.composition.facts:
            return None
        return self.session.composition.told(editing.holder_id, editing.item_id)

    def first(self) -> int:
        """The number in the text of the paragraph from which the edited frame counts."""
        told, editing = self.told(), self.session.editing
        if told is None or editing is None:
            return 0
        return told.flow.first_paragraph(editing.holder_id, editing.item_id)

    def block(self) -> TextPrimitive | None:
        placed = self.placed()
        return None if placed is None else placed.drawing.text

    def begin(self, editing: Editing, at: tuple[float, float] | None = None) -> None:
        """Puts the caret at a point of the page (points); without one at the text's end, in a
        story where the frame's part begins."""
        self.session.edit_text(editing)
        told = self.told()
        if told is None:
            self.caret = self.anchor = steps.end_of(self.text)
            found = self.standing_at(*at) if at is not None else None
            if found is not None:
                self.stand(found)
                self.anchor = self.caret = clamped(self.text, self.caret)
        else:
            start = told.flow.starts[told.flow.index[editing.holder_id, editing.item_id]]
            found = self.standing_at(*at) if at is not None else None
            self.stand(found or Standing((start.paragraph, start.place.offset)))
            self.anchor = self.caret = clamped(self.text, self.caret)
        self._follow()

    def write_at(self, story_id: str, caret: TextPlace, anchor: TextPlace | None = None) -> bool:
        """Puts the caret into a story, wherever that place stands; False if it has no frame."""
        flow = self.session.composition.flow(story_id)
        at = flow.stop_of(*caret)
        if at is None and flow.stops:
            at = len(flow.stops) - 1
        if at is None:
            return False
        stop = flow.stops[at]
        text = find_story(self.session.publication, story_id).text
        self.caret = clamped(text, caret)  # before anybody looks at it
        self.anchor = self.caret if anchor is None else clamped(text, anchor)
        self.session.write_in(Editing(stop.page_id, stop.room.item_id, stop.side))
        self._follow()
        return True

    def _go_along(self) -> None:
        """Where paragraphs come or go before the caret by what is done elsewhere, it stays with its
        words."""
        told = self.told()
        story, text = (told.story.id, self.text) if told is not None else ("", ())
        (known, old), self._seen = self._seen, (story, text)
        if story != known or text is old or not text:
            return
        head, foot = same_ends(old, text)
        for name in ("anchor", "caret"):
            paragraph, offset = getattr(self, name)
            if paragraph >= max(len(old) - foot, head):
                setattr(self, name, (paragraph + len(text) - len(old), offset))

    def _follow(self) -> None:
        """Goes on in the frame in which the caret has come to stand."""
        told, editing = self.told(), self.session.editing
        self._story = told.story.id if told is not None else ""
        self._seen = self._story, self.text if self._story else ()
        if told is not None and editing is not None:
            at = stop_at(told, self.standing)
            stop = told.flow.stops[at] if at is not None else None
            if stop is not None and stop.key != (editing.holder_id, editing.item_id):
                self.session.write_in(Editing(stop.page_id, stop.room.item_id, stop.side))
        self.moved.emit()

    def _take_step(self, back: bool) -> None:
        """After an undo the caret stands where the step began, after a redo where it ended."""
        self.making.lose()
        session = self.session
        known = self._steps.at(session.history.now, back)
        if known is None or (session.editing is None and session.lost is None):
            return
        session.find_lost()
        if known.story:
            self.write_at(known.story, known.caret, known.anchor)
            return
        self.anchor, self.caret = known.anchor, known.caret
        if session.editing != known.editing:
            session.write_in(known.editing)
        self.clamp()
        self._follow()

    def _regain(self) -> None:
        """The caret is a place of its story: where what one does takes the frame away, one goes on
        in the one that shows it now."""
        lost = self.session.find_lost()
        known = {s.id for s in self.session.publication.stories}
        if lost is not None and self.session.editing is None and self._story in known:
            self.write_at(self._story, self.caret, self.anchor)

    def clamp(self) -> None:
        """Keeps the caret within the text after an undo."""
        text = self.text
        if not text:
            return
        self.caret = clamped(text, self.caret)
        self.anchor = clamped(text, self.anchor)

    @property
    def selection(self) -> tuple[TextPlace, TextPlace]:
        return min(self.anchor, self.caret), max(self.anchor, self.caret)

    @property
    def standing(self) -> Standing:
        """The caret with what it knows besides its place."""
        return self._standing if self._standing.place == self.caret else Standing(self.caret)

    def stand(self, standing: Standing) -> None:
        """The caret goes to a place."""
        self.caret, self._standing = standing.place, standing

    def shown(self) -> FrameText | None:
        """What stands in the frame that is written in; None if nothing has room there."""
        block, told, editing = self.block(), self.told(), self.session.editing
        if block is None or editing is None or not block.text.lines:
            return None
        at = told.flow.index[editing.holder_id, editing.item_id] if told is not None else 0
        return FrameText(block.text, told, at)

    def standing_at(self, x: float, y: float) -> Standing | None:
        """The place nearest to a point of the page, in points, in the frame that is written in."""
        placed, block, shown = self.placed(), self.block(), self.shown()
        if placed is None or block is None or shown is None:
            return Standing(clamped(self.text, (self.first(), 0))) if self.text else None
        px, py = placed.matrix.inverse().apply(x, y)
        found = at_point(shown, px - block.x, py - block.y)
        return found._replace(place=clamped(self.text, found.place))

    # -- changes -----------------------------------------------------------------

    def has_room(self, more: int) -> bool:
        """Whether the frame takes so many more characters; says so if not."""
        most = edit_text.MAX_CHARACTERS
        # A story is counted only when much is put in: counting it takes as long as setting it.
        if self.told() is not None:
            most, quick = edit_text.MAX_STORY, more < 1_000
            if quick:
                return True
        room = edit_text.total(self.text) + more <= most
        if not room:
            limit = grouped(most)
            self.session.noticed.emit(
                f"A frame can hold {limit} characters; put the rest into another one."
            )
        return room

    def change(
        self,
        name: str,
        text: Text,
        place: TextPlace,
        merge: str = "",
        before: Callable[[Publication], Publication] = lambda p: p,
        begun: StepCaret | None = None,
    ) -> None:
        """The text as another one, the caret at a place; `before` belongs to the same step, which
        began where the caret is, or where it says."""
        editing, change, begun = self.session.editing, self.as_edit(), begun or self.here()
        if editing is None or change is None or begun is None:
            return
        told, session = self.told(), self.session
        about = told.story.id if told is not None else editing.item_id
        page = editing.holder_id if session.mode == "pages" else ""
        merge = merge and f"{merge} {about}"
        if not session.edit(name, lambda p: change(before(p), text), merge, page):
            return
        self.caret = self.anchor = place
        self._follow()

        def ended() -> None:
            past = session.kept.past
            if past and past[-1].publication is begun.publication:  # else it went on with the last
                self._steps.began(begun)
            self.mark_end()

        session.once_settled(ended)

    def here(self) -> StepCaret | None:
        """Where the caret stands, as a step remembers it."""
        editing, told = self.session.editing, self.told()
        if editing is None:
            return None
        story = told.story.id if told is not None else ""
        return StepCaret(self.session.history.now, editing, story, self.anchor, self.caret)

    def mark_end(self) -> None:
        """The last step has ended with the caret, and what is selected, as they are now."""
        here = self.here()
        if here is not None:
            self._steps.ended(here)

    def as_edit(self) -> Callable[[Publication, Text], Publication] | None:
        """What makes the text another one in a publication; None, with the reason told, where it
        can't be written in."""
        editing, told = self.session.editing, self.told()
        if editing is None:
            return None
        if told is None:
            return lambda p, text: change_shown(
                p, editing.holder_id, editing.side, {editing.item_id: {"text": text}}
            )
        if told.story.lists:
            self.session.noticed.emit(
                "This list is made from the headings; change those, or what it lists, in "
                "Contents list…"
            )
            return None
        story_id = told.story.id
        return lambda p, text: set_story_text(p, story_id, text)

    def without_selection(self) -> tuple[Text, TextPlace]:
        """The text without what is selected, and where that stood."""
        start, end = self.selection
        text = self.text
        return edit_text.delete(text, start, end) if start != end else (text, start)

    def insert(self, string: str, merge: str = "typing") -> None:
        if not self.has_room(len(string)):
            return
        if merge:
            self._pause(string)
        text, place = self.without_selection()
        text, place = edit_text.insert(text, place, string)
        self.change("typing" if merge else "paste text", text, place, merge)

    def insert_form(self, character: str, form: str) -> None:
        """A character in another form than the usual one (a look's `alternate`), if one is said."""
        if not form or not self.has_room(1):
            self.insert(character)
            return
        text, start = self.without_selection()
        text, place = edit_text.insert(text, start, character)
        text = edit_text.set_look(text, start, place, alternate=form)
        self.change("character", text, place)
        self.session.seal()

    def _typed_key(self, key: str) -> None:
        """A key as a typist means it: quotes and dashes of the language, unless that is off, or the
        style is one for code."""
        if key not in "\"'-." or not settings().now.typographic:
            self.insert(key)
            return
        (index, offset), _ = self.selection
        paragraph = self.text[index]
        publication = self.session.publication
        style = computed_style(publication.paragraph_styles, paragraph.style)
        if is_code(style.name):
            self.insert(key)
            return
        own = self.dress.now()["language"]
        language = str(own or style.language or publication.about.language)
        before = edit_text.plain((paragraph,), (0, max(offset - 400, 0)), (0, offset))
        gone, made = typed(before, key, language)
        if gone and self.caret == self.anchor:
            self.anchor = (index, offset - gone)
        self.insert(made)

    def _pause(self, string: str) -> None:
        """Ends an undo step as people write: after a rest, with a new paragraph, and with
        the next word once a step holds a line's worth of characters."""
        now = time.monotonic()
        begins_word = string.strip() != "" and self._typed.endswith((" ", "\n"))
        long = begins_word and len(self._typed) >= _STEP
        if now - self._typed_at > _REST or "\n" in string or long:
            self.session.seal()
            self._typed = ""
        self._typed_at = now
        self._typed += string

    def erase(self, begun: StepCaret | None = None) -> None:
        """Takes what is selected away; the step began where the caret is, or where it says."""
        start, end = self.selection
        if start != end:
            text, place = edit_text.delete(self.text, start, end)
            self.change("delete text", text, place, "deleting", begun=begun)

    def marker(self) -> Marker | None:
        """The marker that is selected by itself, or that stands right before the caret."""
        text, (start, end) = self.text, self.selection
        if not text or (start != end and end != (start[0], start[1] + 1)):
            return None
        at = start if start != end else (start[0], start[1] - 1)
        found = edit_text.object_at(text, at)
        return found if isinstance(found, Marker) else None

    def insert_marker(self, marker: Marker) -> None:
        """A marker in place of what is selected, a running head in that of the one at the caret."""
        before = self.marker()
        heads = marker.head is not None and before is not None and before.head is not None
        if heads and self.caret == self.anchor:
            self.anchor = (self.caret[0], self.caret[1] - 1)
        if self.told() is not None and marker.shows not in STEADY:
            self.session.noticed.emit(
                "A story runs over many pages and can’t show one page’s folio; put the marker "
                "into a frame of the master."
            )
            return
        text, place = self.without_selection()
        text, place = edit_text.insert_marker(text, place, marker)
        self.change("insert marker", text, place)
        self.session.seal()

    def keep(
        self,
        name: str,
        text: Text,
        before: Callable[[Publication], Publication] = lambda p: p,
    ) -> None:
        """A change that moves neither caret nor selection."""
        caret, anchor = self.caret, self.anchor
        self.change(name, text, caret, before=before)
        self.caret, self.anchor = caret, anchor
        self.session.seal()
        self._follow()
        self.mark_end()


def clamped(text: Text, place: TextPlace) -> TextPlace:
    index = min(place[0], len(text) - 1)
    return index, min(place[1], steps.length(text[index]))
