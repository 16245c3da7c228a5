"""Stories: texts of the publication that flow through frames, and the frames they flow through.

A story does not live on pages (R25): where a station's page or frame is gone, the text goes on
at the next one.
"""

from __future__ import annotations

from typing import Annotated

from msgspec import Meta, Struct

from hidden_frame.model.text import Contents, Index, NoteList, Text


class Link(Struct, frozen=True, tag="frame", tag_field="kind", forbid_unknown_fields=True):
    """A station of a story: one frame, linked by hand, as it stands on a page."""

    page: str
    item: str


class MainFrames(
    Struct, frozen=True, tag="main frames", tag_field="kind", forbid_unknown_fields=True
):
    """A station of a story: the main frames of every page of a section, in page order."""

    section: str


Station = Link | MainFrames


class Waiting(Struct, frozen=True, forbid_unknown_fields=True):
    """A picture that came with a manuscript and is to be placed: its hash, and the paragraph at
    which it stood."""

    picture: str
    paragraph: Annotated[int, Meta(ge=0)]


class Story(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """A text with a name; `path` are its stations in order.

    The section whose main frames it flows through has as many pages as it needs if it `grows`
    (R26).  `waiting` is its tray: pictures that are to be placed where it speaks of them.  The text
    of one with `contents`, or that is the `index`, is worked out anew at each change.
    """

    id: str
    name: Annotated[str, Meta(min_length=1, max_length=200)]
    text: Text = ()
    path: tuple[Station, ...] = ()
    grows: bool = False
    waiting: tuple[Waiting, ...] = ()
    contents: Contents | None = None
    index: Index | None = None
    notes: NoteList | None = None

    @property
    def lists(self) -> bool:
        """Whether its text is worked out."""
        return not (self.contents is None and self.index is None and self.notes is None)

    @property
    def sections(self) -> tuple[str, ...]:
        """The sections through whose main frames it flows."""
        return tuple(s.section for s in self.path if isinstance(s, MainFrames))
