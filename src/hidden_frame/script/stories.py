"""Stories of a document: poured in, read, written, styled, sent out."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.heads import plain_words
from hidden_frame.edit.stories import (
    delete_story,
    flow_through,
    rename_story,
    set_grows,
    set_story_text,
)
from hidden_frame.edit.text.find import Query, hits, replaced
from hidden_frame.edit.text.sent import as_paragraphs, character_looks
from hidden_frame.edit.text.write import insert_marker, set_paragraph_style
from hidden_frame.interact.words.storied import StoryState, state
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import find_story
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Note, Run, Text
from hidden_frame.script.holders import PageOf
from hidden_frame.script.values import Words
from hidden_frame.storage.manuscripts.write import written

if TYPE_CHECKING:
    from hidden_frame.script.base import Base
    from hidden_frame.script.section import Section


class StoryOf:
    """A text of a document that flows through frames.

    >>> story = book.pour("The lamp was lit.\\nIt burned all night.", section="Body")
    >>> story.words, story.fits
    (8, True)
    """

    def __init__(self, document: Base, story_id: str) -> None:
        self._document = document
        self.id = story_id

    @property
    def story(self) -> Story:
        """The story as it is now, a value of the model.

        >>> book.pour("One.", section="Body").story.grows
        True
        """
        return find_story(self._document.publication, self.id)

    @property
    def name(self) -> str:
        """What it is called, on the Shelf and in markers.

        >>> book.pour("One.", section="Body", name="Numbers").name
        'Numbers'
        """
        return self.story.name

    @property
    def text(self) -> str:
        """Its words, a line for each paragraph; markers and notes are left out.

        >>> book.pour("One.\\nTwo.", section="Body").text
        'One.\\nTwo.'
        """
        return "\n".join(plain_words(p) for p in self.story.text)

    @property
    def styles(self) -> list[str]:
        """The name of each paragraph's style, in order.

        >>> book.pour("One.", section="Body", style="Heading").styles
        ['Heading']
        """
        names = {s.id: s.name for s in self._document.publication.paragraph_styles}
        return [names[p.style] for p in self.story.text]

    @property
    def words(self) -> int:
        """How many words it has.

        >>> book.pour("One or two.", section="Body").words
        3
        """
        return self._state().words

    @property
    def fits(self) -> bool:
        """Whether all of it has room.

        >>> book.pour("One.", section="Body").fits
        True
        """
        return self._state().fits

    @property
    def state(self) -> str:
        """How it stands, in a sentence.

        >>> book.pour("One.", section="Body").state
        'Fits, 27 lines left on 1 (#3).'
        """
        return self._state().sentence

    @property
    def pages(self) -> list[PageOf]:
        """The pages on which some of it stands, in order.

        >>> [page.folio for page in book.pour("One.", section="Body").pages]
        ['1']
        """
        flow = self._document.composition().flow(self.id)
        used = {s.page_id for s, part in zip(flow.stops, flow.parts, strict=True) if part.lines}
        order = page_facts(self._document.publication)
        return [PageOf(self._document, page) for page in order if page in used]

    def _state(self) -> StoryState:
        return state(self._document.composition(), self.id)

    # -- writing -----------------------------------------------------------------------

    def put(self, words: Words, *, style: str = "Body") -> StoryOf:
        """Other words in place of all of its; a string begins a paragraph at each line feed.

        >>> book.pour("One.", section="Body").put(["Two ", hf.run("or three", italic=True)]).text
        'Two or three'
        """
        return self._set("write a story", self._document.text(words, style, None))

    def append(self, words: Words, *, style: str = "Body") -> StoryOf:
        """More paragraphs at its end.

        >>> book.pour("One.", section="Body").append("Two.").styles
        ['Body', 'Body']
        """
        more = self._document.text(words, style, None)
        return self._set("append to a story", (*self.story.text, *more))

    def set_style(self, style: str, which: str | int | range) -> StoryOf:
        """Another paragraph style for paragraphs: one by its number (from 0), a range of numbers,
        or all that begin with these words.  Raises `Refusal` where there is none.

        >>> story = book.pour("The Lamp\\nIt was lit.", section="Body")
        >>> story.set_style("Heading", "The Lamp").styles
        ['Heading', 'Body']
        """
        text, style_id = self.story.text, self._document.paragraph_style(style)
        for number in self._meant(which):
            text = set_paragraph_style(text, number, number, style_id)
        return self._set(f"style {style}", text)

    def _meant(self, which: str | int | range) -> list[int]:
        """The numbers of paragraphs."""
        count = len(self.story.text)
        if isinstance(which, str):
            found = [n for n, p in enumerate(self.story.text)
                     if plain_words(p).strip().startswith(which)]  # fmt: skip
        else:
            found = [which] if isinstance(which, int) else list(which)
        if not found or not all(0 <= n < count for n in found):
            said = f"begins with “{which}”" if isinstance(which, str) else f"is number {which}"
            raise Refusal(f"No paragraph of “{self.name}” {said}; it has {count}.", field="which")
        return found

    def replace(
        self, words: str, by: str, *, case: bool = False, whole: bool = False,
        regular: bool = False,
    ) -> int:  # fmt: skip
        """Replaces words, or what a regular expression finds; how often it did.

        >>> book.pour("A lamp, a lamp.", section="Body").replace("lamp", "light")
        2
        """
        text, count = replaced(self.story.text, Query(words, case, whole, regular), by)
        if count:
            self._set("replace words", text)
        return count

    def add_note(self, behind: str, words: str) -> StoryOf:
        """A numbered note behind the first place where words stand.  Raises `Refusal` where they
        stand nowhere.

        >>> _ = book.pour("It was a lamp.", section="Body").add_note("lamp", "An oil lamp.")
        """
        hit = next(hits(self.story.text, Query(behind)), None)
        if hit is None:
            raise Refusal(f"“{behind}” is not in “{self.name}”; try other words.", field="behind")
        note = Note((Run(words),))
        text, _ = insert_marker(self.story.text, (hit.paragraph, hit.end), note)
        return self._set("note", text)

    def _set(self, name: str, text: Text) -> StoryOf:
        self._document.edit(name, lambda p: set_story_text(p, self.id, text))
        return self

    # -- its way -----------------------------------------------------------------------

    def rename(self, name: str) -> StoryOf:
        """Another name.  Raises `Refusal` for one that is taken.

        >>> book.pour("One.", section="Body").rename("Numbers").name
        'Numbers'
        """
        self._document.edit("rename a story", lambda p: rename_story(p, self.id, name))
        return self

    def flow_through(self, section: Section | str) -> StoryOf:
        """Lets it go on through the main frames of another section.

        >>> last = book.section_at(15, "Appendix")
        >>> _ = book.pour("One.", section="Body").flow_through("Appendix")
        >>> len(book.stories[0].story.path)
        2
        """
        section_id = self._document.section(section).id
        self._document.edit("flow on", lambda p: flow_through(p, self.id, section_id))
        return self

    def set_grows(self, grows: bool) -> StoryOf:
        """Whether pages are added and removed at its section's end as it needs them.

        >>> book.pour("One.", section="Body").set_grows(False).story.grows
        False
        """
        self._document.edit("let a story grow", lambda p: set_grows(p, self.id, grows))
        return self

    def export(self, path: str | Path) -> None:
        """Writes it to a .docx, .odt, .html, .md or .txt for its author to correct.

        >>> book.pour("One.", section="Body").export(folder / "one.md")
        >>> (folder / "one.md").read_text().strip()
        'One.'
        """
        target, publication = Path(path), self._document.publication
        paragraphs = as_paragraphs(publication, self.story.text, self._document.blobs)
        kind = target.suffix.lower().lstrip(".")
        data = written(paragraphs, kind, self.name, character_looks(publication))
        try:
            target.write_bytes(data)
        except OSError as error:
            raise Refusal(f"“{target}” can't be written: {error.strerror or error}.") from error

    def delete(self) -> None:
        """Deletes it with its words; its frames stay.

        >>> book.pour("One.", section="Body").delete()
        >>> book.stories
        []
        """
        self._document.edit("delete a story", lambda p: delete_story(p, self.id))
