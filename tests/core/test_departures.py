"""What paragraphs say besides their styles: told, taken off, made a style of."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.palette import palette
from hidden_frame.compose.textspec import specs
from hidden_frame.edit.looks.styles import uses_in_words
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.depart import as_styled, departures, style_of
from hidden_frame.edit.text.write import plain
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Look, Marker, Paragraph, Run, TabStop
from hidden_frame.model.trims import TRIMS

BARE = new_publication("Departures", Setup(trim=TRIMS["A5"]), 1)
looks = st.none() | st.builds(
    Look, bold=st.none() | st.booleans(), size=st.none() | st.floats(6, 30),
    tracking=st.none() | st.floats(0, 90), underline=st.none() | st.booleans(),
    case=st.sampled_from([None, "capitals"]), colour=st.sampled_from([None, "ochre"]),
)  # fmt: skip
pieces = st.builds(Run, st.text("abc ", min_size=1, max_size=9),
                   st.sampled_from([None, "strong"]), looks)  # fmt: skip
texts = st.lists(
    st.builds(
        Paragraph, style=st.sampled_from(["body", "heading"]),
        content=st.lists(pieces | st.just(Marker("title")), max_size=4).map(tuple),
        alignment=st.sampled_from([None, "right"]),
        tabs=st.sampled_from([None, (TabStop(20.0),)]),
    ), min_size=1, max_size=3,
).map(tuple)  # fmt: skip


@given(texts)
def test_without_departures_nothing_is_left_but_styles_and_words(text):
    last = len(text) - 1
    bare = as_styled(text, 0, last)
    assert departures(bare, (0, 0), (last, 10**6)) == ()
    assert plain(bare) == plain(text)
    assert [p.style for p in bare] == [p.style for p in text]
    kept = as_styled(text, 1, last)
    assert kept[0] == text[0]


@given(texts)
def test_a_style_made_of_a_paragraph_changes_nothing_that_is_seen(text):
    made, style, new = style_of(BARE, text, 0)
    values = tuple("t" for p in text for c in p.content if isinstance(c, Marker))

    def seen(publication, text):
        found = specs(text, values, "recto", palette(publication))
        first = found[0]._replace(style_name="", base=None, leading=0)
        return [first._replace(spacing=None, keeps=None, dress=None, ink=None), *found[1:]]

    def joined(specs):
        return [[(s.text, _made_of(s.setting), s[2:]) for s in spec.spans] for spec in specs]

    assert joined(seen(made, new)) == joined(seen(BARE, text))
    assert new[0].style == style and new[0].alignment is None and new[0].tabs is None
    assert new[1:] == text[1:]
    assert next(s for s in made.paragraph_styles if s.id == style).based_on == text[0].style


def _made_of(setting):
    """What a setting is, since the one that was made before may have been forgotten between."""
    return (setting.face, setting.size, setting.tracking, setting.manner, setting.shift,
            setting.stretch)  # fmt: skip


def test_users_of_a_style_are_told():
    assert uses_in_words(BARE, "body") == "Not used yet"
    heirs = tuple(ParagraphStyle(id=n, name=n.title(), based_on="body") for n in ("lead", "note"))
    more = replace(BARE, paragraph_styles=(*BARE.paragraph_styles, *heirs))
    assert uses_in_words(more, "body") == "Not used yet; Lead and Note are based on it"
