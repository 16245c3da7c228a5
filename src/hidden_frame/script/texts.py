"""What a script does with a document's texts: stories, lists that follow the text, index, rules."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from hidden_frame.edit.masters.rules import add_rule
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.bring import brought
from hidden_frame.edit.text.listing import list_style, note_style, set_list
from hidden_frame.interact.finds.indexing import marked_everywhere
from hidden_frame.interact.hands.main_frames import has_main_frame, with_main_frame
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import MasterRule, Publication, RuleUntil, RuleWhen
from hidden_frame.model.text import Contents, Index, IndexMark, ListLevel, NoteList, Text
from hidden_frame.script.base import Base
from hidden_frame.script.holders import ItemOn, MasterPage
from hidden_frame.script.section import Section
from hidden_frame.script.stories import StoryOf
from hidden_frame.script.values import Words
from hidden_frame.storage.manuscripts.read import read


def _with_main_frame(publication: Publication, section_id: str) -> Publication:
    """The section's master with a main frame, where it has none."""
    if has_main_frame(publication, section_id):
        return publication
    return with_main_frame(publication, section_id)


class Texts(Base):
    """Part of `Document`."""

    @property
    def stories(self) -> list[StoryOf]:
        """Every story, in the order of the Shelf.

        >>> _ = book.pour("One.", section="Body", name="Numbers")
        >>> [story.name for story in book.stories]
        ['Numbers']
        """
        return [StoryOf(self, story.id) for story in self.publication.stories]

    def story(self, name: StoryOf | str) -> StoryOf:
        """A story by its name.  Raises `Refusal` for one that is not there.

        >>> _ = book.pour("One.", section="Body", name="Numbers")
        >>> book.story("numbers").text
        'One.'
        """
        if isinstance(name, StoryOf):
            return name
        return StoryOf(self, self._named("story", name, self.publication.stories))

    def pour(
        self, source: Words | Path, section: Section | str = "", *, name: str = "",
        style: str = "Body", encoding: str = "",
    ) -> StoryOf:  # fmt: skip
        """Puts words, or a manuscript (a path to a .docx, .odt, .md, .html or .txt), behind the
        story of a section (by default the last one), or begins one there.

        The section's masters need a main frame; one that is missing is made, within the margins.
        Pages are added as they are needed.

        >>> story = book.pour("One.\\nTwo.", section="Body", name="Numbers")
        >>> story.name, len(story.pages)
        ('Numbers', 1)
        """
        where = self.section(section) if section else self.sections[-1]
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication = _with_main_frame(publication, where.id)
            text: Text
            if isinstance(source, Path):
                manuscript = read(source, encoding).with_live_notes()
                publication, text = brought(publication, manuscript, None, self.blobs)
                called = name or manuscript.name
            else:
                text, called = self.text(source, style, None), name or "Story"
            publication, story_id = pour(publication, where.id, text, called)
            made.append(story_id)
            return publication

        self.edit("pour a text in", change)
        return StoryOf(self, made[-1])

    # -- lists that follow the text ------------------------------------------------------

    def list_contents(
        self, frame: ItemOn, styles: Iterable[str], title: str = "", *,
        sections: Iterable[Section | str] = (),
    ) -> None:  # fmt: skip
        """Makes a page's frame a contents list: a level for each paragraph style, each with a new
        style for its lines.  It follows every change.

        >>> _ = book.pour("The Lamp\\nIt was lit.", section="Body").set_style("Heading", 0)
        >>> frame = book.page(1).add_text_frame(40, 40, 300, 300)
        >>> book.list_contents(frame, ["Heading"], "Contents")
        >>> [line.content[0].text for line in frame.item.text]
        ['Contents', 'The Lamp\\t1']
        """
        listed = [self.paragraph_style(name) for name in styles]
        within = tuple(self.section(s).id for s in sections)

        def change(publication: Publication) -> Publication:
            levels = []
            for number, style in enumerate(listed):
                publication, shown = list_style(publication, number, self.paragraph_style("Body"))
                levels.append(ListLevel(style, shown))
            contents = Contents(levels=tuple(levels), title=title, sections=within)
            return set_list(publication, frame.holder_id, frame.id, contents)

        self.edit("contents list", change)

    def mark_for_index(
        self, words: str, term: str = "", *, sub: str = "", see: str = "", see_also: str = ""
    ) -> int:
        """Marks every place where words stand, for the index; how many marks were put in.

        `term` is the entry (by default the words), `sub` one below it; `see` sends readers to
        another entry instead of pages, `see_also` besides them.  Raises `Refusal` where the words
        stand nowhere.

        >>> _ = book.pour("A lamp, and a lamp.", section="Body")
        >>> book.mark_for_index("lamp", "Lamps")
        2
        """
        mark, counted = IndexMark(term or words, sub, see, see_also), [0]

        def change(publication: Publication) -> Publication:
            publication, counted[0] = marked_everywhere(publication, words, mark)
            return publication

        self.edit("mark for the index", change)
        return counted[0]

    def list_index(self, frame: ItemOn, title: str = "", *, run_in: bool = False) -> None:
        """Makes a page's frame the index: all terms with their folios.  It follows every change.

        `run_in` puts sub-terms behind their term instead of on lines of their own.

        >>> _ = book.pour("A lamp.", section="Body")
        >>> _ = book.mark_for_index("lamp", "Lamp")
        >>> frame = book.page(1).add_text_frame(40, 40, 300, 300)
        >>> book.list_index(frame, "Index")
        >>> frame.item.text[1].content[0].text
        'Lamp, 1'
        """
        body = self.paragraph_style("Body")
        index = Index(shown=body, title=title, run_in=run_in)
        self.edit("index", lambda p: set_list(p, frame.holder_id, frame.id, index))

    def list_notes(self, frame: ItemOn, title: str = "", story: StoryOf | str = "") -> None:
        """Makes a page's frame the list of the notes of one story, or of all.

        >>> _ = book.pour("A lamp.", section="Body").add_note("lamp", "An oil lamp.")
        >>> frame = book.page(1).add_text_frame(40, 40, 300, 300)
        >>> book.list_notes(frame, "Notes")
        >>> [run.text for run in frame.item.text[1].content]
        ['1\\t', 'An oil lamp.']
        """
        of = self.story(story).id if story else ""

        def change(publication: Publication) -> Publication:
            publication, style = note_style(publication, self.paragraph_style("Body"))
            notes = NoteList(shown=style, story=of, title=title)
            return set_list(publication, frame.holder_id, frame.id, notes)

        self.edit("list of notes", change)

    # -- masters by rule -----------------------------------------------------------------

    @property
    def rules(self) -> list[MasterRule]:
        """The rules for masters of automatic pages; the first that applies counts.

        >>> book.rules
        []
        """
        return list(self.publication.rules)

    def add_rule(
        self, masters: MasterPage | str | Iterable[MasterPage | str], *, when: RuleWhen = "style",
        style: str = "", until: RuleUntil = "page", sections: Iterable[Section | str] = (),
    ) -> None:  # fmt: skip
        """Lets automatic pages follow masters `when` a paragraph of a `style` begins on them, when
        they are the "first", "last", "odd" or "even" ones of their section, or have "no text".

        >>> opener = book.add_master("Opener", base="Base")
        >>> book.add_rule(opener, style="Heading")
        >>> book.rules[-1].until
        'page'
        """
        if when == "style" and not style:
            raise Refusal("A rule by style needs the name of a style.", field="style")
        several = [masters] if isinstance(masters, MasterPage | str) else list(masters)
        stack = tuple(self.master(m).id for m in several)
        style_id = self.paragraph_style(style) if style else ""
        within = tuple(self.section(s).id for s in sections)
        self.edit(
            "rule for masters",
            lambda p: add_rule(p, when=when, style=style_id, masters=stack, until=until,
                               sections=within)[0],
        )  # fmt: skip
