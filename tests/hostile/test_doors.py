"""Hostile files, drawings and clips at every door: refused in a sentence, or harmless.

Cases are made by our own generators, seeded (`benchmarks/hostile`).  The drawings follow the
OWASP XML External Entity Prevention Cheat Sheet and W3C's SVG Security notes.
"""

from __future__ import annotations

import hashlib
import random
import time

import msgspec
import pytest
from benchmarks.hostile.doors import (
    Parcel,
    changed_values,
    is_short,
    opened,
    parcel_of,
    pasted,
    placed,
    with_drawing,
)
from benchmarks.hostile.drawings import Attack, attacks, bombs, svg
from benchmarks.hostile.mutated import VALUES, bytes_changed, mutations, packed, unpacked
from benchmarks.hostile.outside import Outside
from benchmarks.whole_file import to_bytes

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.write import insert
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.text import Paragraph
from hidden_frame.settle.settling import settled
from hidden_frame.storage.door import from_clipboard, short
from hidden_frame.storage.manuscripts.read import of_bytes


@pytest.fixture(scope="module")
def outside():
    with Outside() as made:
        yield made


def refused(call, *arguments):
    """Whether a door refuses; anything but a short refusal fails the test."""
    try:
        call(*arguments)
    except Refusal as refusal:
        assert is_short(refusal), str(refusal)[:400]
        return True
    return False


def test_the_watch_notices_what_is_read(outside):
    (outside.folder / "canary.txt").read_bytes()
    assert outside.touched() == ["canary.txt"] and outside.touched() == []


def test_mutated_files_open_or_are_refused_in_a_sentence(demo):
    file = to_bytes(*demo, b"preview")
    count = sum(refused(opened, data, n % 40 == 0) for n, (_, data) in
                enumerate(mutations(file, 16, 160)))  # fmt: skip
    assert 60 < count < 160


def test_files_that_were_seen_to_do_harm():
    """Each was found by the generators, in a run longer than this one."""
    assert refused(opened, b"PK\x05\x06" + b"\xff" * 18)  # a directory before the file's begin
    assert refused(opened, b"PK\x03\x04" + bytes(200))
    deep = packed({"mimetype": b"application/vnd.hidden-frame+zip",
                   "publication.json": b'{"format":1,"publication":' + b"[" * 200_000})  # fmt: skip
    assert refused(opened, deep)
    many = packed({"mimetype": b"application/vnd.hidden-frame+zip",
                   "publication.json": b'{"format":' + b"1" * 5000 + b"}"})  # fmt: skip
    assert refused(opened, many)


def test_what_a_file_holds_is_not_told_at_length(demo):
    members = unpacked(to_bytes(*demo))
    long = b'"title":"' + b"x" * 200_000
    broken = members["publication.json"].replace(b'"title":"', long + b'","sections":7,"q":"', 1)
    assert refused(opened, packed({**members, "publication.json": broken}))
    assert len(short("a" * 9_000)) <= 280


def test_mutated_clips_are_pasted_or_refused_in_a_sentence(demo):
    parcel, draw = parcel_of(*demo), random.Random(5)
    results = [refused(pasted, demo[0], bytes_changed(parcel, draw)) for _ in range(20)]
    results += [refused(pasted, demo[0], changed_values(parcel, draw, VALUES)) for _ in range(50)]
    assert 20 < sum(results) < 70
    assert not refused(pasted, demo[0], parcel)


ATTACKS = [a.name for a in attacks("/f", "http://h")]


def test_there_are_forty_attacks():
    assert len(ATTACKS) == len(set(ATTACKS)) == 40


@pytest.mark.parametrize("name", ATTACKS)
def test_a_drawing_reads_nothing_outside_of_it_at_any_door(name, outside, demo):
    attack = next(a for a in attacks(str(outside.folder), outside.url) if a.name == name)
    outside.touched()
    turned_away = refused(placed, attack.data, "a.svg")
    publication, blobs = with_drawing(demo[0], attack.data)
    file = to_bytes(publication, blobs)
    begun = time.monotonic()
    found = opened(file, True)  # it opens: a drawing costs itself alone
    assert time.monotonic() - begun < 60
    told = [w for w in found.warnings if w.startswith("A drawing is not shown")]
    assert len(told) == turned_away  # what may not be placed is told when it comes in a file
    clip = msgspec.msgpack.encode({"clip": {"items": []}, "blobs": blobs})
    refused(pasted, demo[0], clip)
    assert outside.touched() == []


@pytest.mark.parametrize("attack", list(bombs()), ids=lambda a: a.name)
def test_a_drawing_made_to_exhaust_the_machine_ends_by_itself(attack: Attack):
    begun = time.monotonic()
    refused(placed, attack.data, "bomb.svg")
    assert time.monotonic() - begun < 40


@pytest.mark.parametrize(
    ("digest", "data", "why"),
    [("", svg('<image href="/etc/hostname"/>'), "refers to another file"),
     ("", svg("<script/>"), "never run"), ("0" * 64, b"else", "incomplete")],
)  # fmt: skip
def test_a_picture_on_the_clipboard_is_looked_at(digest, data, why):
    blobs = {digest or hashlib.sha256(data).hexdigest(): data}
    packed_clip = msgspec.msgpack.encode({"clip": {"items": []}, "blobs": blobs})
    with pytest.raises(Refusal, match=why):
        from_clipboard(packed_clip, Parcel)


@pytest.mark.parametrize("kind", ["docx", "odt", "md", "html", "txt"])
def test_manuscripts_of_any_bytes_are_read_or_refused(kind):
    draw = random.Random(7)
    for size in (0, 1, 40, 3_000):
        refused(of_bytes, draw.randbytes(size), "a", f"a.{kind}", kind)
        refused(of_bytes, b"PK\x03\x04" + draw.randbytes(size), "a", f"a.{kind}", kind)


def test_four_hundred_thousand_letters_without_a_space_are_poured_and_all_have_room(small):
    """They took so long that nobody waited, and then stopped after forty pages."""
    style = small.paragraph_styles[0].id
    text, _ = insert((Paragraph(style, ()),), (0, 0), "x" * 400_000)
    made, master = add_master(small, "Text")
    frame = TextFrame(id="", x=40, y=40, width=300, height=480, main=1)
    made, _ = add_item(made, master, frame)
    made = msgspec.structs.replace(made, default_masters=(master,))
    made, story = pour(made, made.sections[0].id, text, "Story")
    made = settled(made)
    flow = Composer().compose(made).flow(story)
    assert flow.rest is None and flow.characters == 400_000 and len(all_pages(made)) > 150
