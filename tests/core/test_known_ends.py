"""Where lines end, kept from one run to the next: the same lines, and never anybody else's."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.palette import palette
from hidden_frame.compose.textspec import specs
from hidden_frame.edit.new import new_publication
from hidden_frame.model.memory import MEMORY
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.typeset import known as known_module
from hidden_frame.typeset import paragraphs, shaping
from hidden_frame.typeset.breaking.nodes import Ends
from hidden_frame.typeset.known import KnownEnds
from hidden_frame.typeset.paragraphs import set_paragraph

WORDS = st.lists(
    st.sampled_from(["night", "and", "over", "observatory", "(so)", "–", "—", "«", "»", "!", "",
                     "incomprehensibilities", "x" * 30, "a–b", "12.5", "Sternwarte"]),
    min_size=1, max_size=60,
).map(" ".join)  # fmt: skip


def forget():
    shaping._shaped.clear()
    shaping._settings.clear()
    MEMORY.clear_stale()
    MEMORY.clear_stale()


def lines_of(texts, measure, divided=True, justified=True, breaking="paragraph", look=None):
    """Every line of paragraphs set together, and whether they are known to fit."""
    forget()
    publication = new_publication("B", Setup(trim=TRIMS["A5"]), 1)
    body = replace(
        publication.paragraph_styles[0], hyphenate=divided, breaking=breaking,
        alignment="justified" if justified else "left",
    )  # fmt: skip
    publication = replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))
    text = tuple(Paragraph("body", (Run(t, look=look),)) for t in texts)
    found = specs(text, (), "recto", palette(publication))
    made = set_paragraph.each(found, measure)
    return [
        (done.fits, [(line.text, line.start, line.end, line.left, line.right, line.divided,
                      [run.xs for run in line.runs]) for line in done.lines])
        for done in made
    ]  # fmt: skip


@pytest.fixture
def store(tmp_path, monkeypatch):
    """Opens a file of known ends as another run of the program would."""

    def run():
        known = KnownEnds()
        known.open(tmp_path / "ends")
        monkeypatch.setattr(paragraphs, "KNOWN", known)
        return known

    return run


@settings(max_examples=60)
@given(texts=st.lists(WORDS, min_size=4, max_size=9), measure=st.floats(25, 260),
       divided=st.booleans(), justified=st.booleans(),
       breaking=st.sampled_from(["line", "paragraph"]))  # fmt: skip
def test_the_next_run_sets_the_same_lines(
    tmp_path_factory, texts, measure, divided, justified, breaking
):
    how = divided, justified, breaking
    file = tmp_path_factory.mktemp("known") / "ends"
    alone = lines_of(texts, measure, *how)
    with pytest.MonkeyPatch.context() as patched:
        for run in range(2):
            known = KnownEnds()
            known.open(file)
            patched.setattr(paragraphs, "KNOWN", known)
            assert lines_of(texts, measure, *how) == alone
            known.keep()
            assert run == 0 or set(known._asked) <= set(known._known)


def test_what_is_known_is_not_broken_again_and_what_is_new_is(store, monkeypatch):
    texts = [f"The night is clear over the observatory number {n}, " * 3 + "too" for n in range(6)]
    known = store()
    lines_of(texts, 120.0)
    known.keep()
    store()
    broken = []
    real = paragraphs._broken
    monkeypatch.setattr(
        paragraphs, "_broken", lambda some, *a: broken.append(len(some)) or real(some, *a)
    )
    lines_of(texts, 120.0)
    assert broken == []
    lines_of([*texts[:-1], "Another night"], 120.0)
    assert broken == [1]


@pytest.mark.parametrize(
    "other", [{"measure": 121.0}, {"divided": False}, {"justified": False}, {"breaking": "line"},
              {"look": Look(size=11.0)}, {"look": Look(bold=True)}, {"look": Look(tracking=10.0)},
              {"look": Look(language="de_DE")}, {"look": Look(case="capitals")}],
)  # fmt: skip
def test_another_look_is_another_paragraph(store, other):
    texts = [f"The night is clear over the observatory number {n}, " * 3 + "too" for n in range(6)]
    known = store()
    lines_of(texts, 120.0)
    known.keep()
    assert len(known._known) == 6
    again = store()
    lines_of(texts, **{"measure": 120.0, **other})
    assert not set(again._asked) & set(known._known)


def test_a_spoilt_file_and_one_of_other_code_know_nothing(store, tmp_path, monkeypatch):
    texts = [f"The night is clear {n} " * 9 + "too" for n in range(6)]
    known = store()
    right = lines_of(texts, 120.0)
    known.keep()
    file = tmp_path / "ends"
    whole = file.read_bytes()
    for spoilt in (b"", b"rubbish", whole[:-3], whole[:20] + b"\0" + whole[21:]):
        file.write_bytes(spoilt)
        again = store()
        assert lines_of(texts, 120.0) == right and again._known == {}
    file.write_bytes(whole)
    monkeypatch.setattr(known_module, "code_digest", lambda: b"another")
    again = store()
    assert lines_of(texts, 120.0) == right and again._known == {}


def test_two_runs_at_once_keep_what_both_found_and_the_oldest_goes(store, tmp_path, monkeypatch):
    one, other = KnownEnds(), KnownEnds()
    keys = [one.key(one.look("Body"), f"{n}") for n in range(8)]
    for known in (one, other):
        known.open(tmp_path / "ends")
    one.put(keys[0], Ends([3], [0]), fits=True)
    other.put(keys[1], Ends([4, 9], [2, 0], glued=True), fits=False)
    one.keep()
    other.keep()
    third = KnownEnds()
    third.open(tmp_path / "ends")
    assert third.get(keys[0]).fits and list(third.get(keys[1]).ends.tokens) == [4, 9]
    assert third.get(keys[1]).ends.glued and third.get(keys[2]) is None
    monkeypatch.setattr(known_module, "MOST", 4)
    for key in keys[3:6]:
        third.put(key, Ends([1], [0]), fits=True)
    third.keep()
    last = KnownEnds()
    last.open(tmp_path / "ends")
    assert sum(last.get(key) is not None for key in keys) == 4


def test_without_a_file_or_a_place_for_it_nothing_is_kept(tmp_path):
    known = KnownEnds()
    key = known.key(known.look("Body"), "words")
    known.put(key, Ends([1], [0]), fits=True)
    known.keep()
    assert known.get(key) is None and not known.is_open
    (tmp_path / "file").write_bytes(b"")
    known.open(tmp_path / "file" / "ends")
    known.put(key, Ends([1], [0]), fits=True)
    known.keep()
    known.close()
    assert not known.is_open
