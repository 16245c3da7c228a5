"""Files of every number of the format: older ones come up to today's, newer ones are looked at and
never written over."""

from __future__ import annotations

import contextlib
import copy
import io
import json
import re
import zipfile
from functools import cache
from pathlib import Path

import msgspec
import pdfplumber
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages
from hidden_frame.output.pdf import export_pdf
from hidden_frame.storage import numbers
from hidden_frame.storage.decoding import Envelope, decoded, schema, seen, shape
from hidden_frame.storage.format import MIMETYPE, envelope, from_bytes, load, save
from hidden_frame.storage.newer import known
from hidden_frame.storage.numbers import FORMAT, STEPS, brought_up

FILES = Path(__file__).parents[1] / "files"


@cache
def tree_text():
    return b"".join(envelope(almanac()[0]))


@pytest.fixture
def tree():
    return json.loads(tree_text())


def parts(node, found=None):
    """Every object in a tree, and every list of objects."""
    found = [] if found is None else found
    if isinstance(node, dict):
        found.append(node)
        for value in node.values():
            parts(value, found)
    elif isinstance(node, list):
        if node and isinstance(node[0], dict):
            found.append(node)
        for value in node:
            parts(value, found)
    return found


def file_of(tree):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("mimetype", MIMETYPE)
        archive.writestr("publication.json", json.dumps(tree))
    return buffer.getvalue()


def test_whatever_a_file_can_say_is_kept_under_its_number():
    kept = FILES / f"format-{FORMAT}.shape.json"
    now = json.loads(json.dumps(shape(json.loads(schema()))))
    assert now == json.loads(kept.read_text()), (
        "what a file can say has changed: raise FORMAT in storage/numbers.py, write the step from "
        "the number before, and run scripts/keep_format.py"
    )


@pytest.mark.parametrize("number", range(1, FORMAT + 1))
def test_a_file_of_each_number_opens_composes_and_is_saved(number, tmp_path):
    opened = load(FILES / f"format-{number}.hframe")
    assert not opened.more
    assert all("is missing from the file" in warning for warning in opened.warnings)
    composition = Composer().compose(opened.publication)
    assert [composition.facts[p.id].folio for p in all_pages(opened.publication)]
    save(tmp_path / "again.hframe", opened.publication, opened.blobs)
    again = load(tmp_path / "again.hframe")
    assert again.publication == opened.publication
    with zipfile.ZipFile(tmp_path / "again.hframe") as archive:
        assert json.loads(archive.read("publication.json"))["format"] == FORMAT


def test_the_first_files_say_what_they_said():
    publication = load(FILES / "format-1.hframe").publication
    facts = Composer().compose(publication).facts
    folios = [facts[page.id].folio for page in all_pages(publication)]
    # As the version that wrote it shows them.
    folded = ["", "i", "ii", "iii", "iv", "v", *map(str, range(1, 21)), "V-A", "V-B", "V-C", "V-D"]
    assert publication.title == "Night Sky Almanac"
    assert folios == [*folded, "V-E", ""]


def test_every_number_has_its_step():
    assert sorted(STEPS) == list(range(1, FORMAT))


def test_a_step_changes_the_tree_before_it_is_read(tree, monkeypatch):
    older = copy.deepcopy(tree)
    older["format"], older["publication"]["name"] = 1, older["publication"].pop("title")
    monkeypatch.setitem(STEPS, 1, lambda p: {**{k: v for k, v in p.items() if k != "name"},
                                             "title": p["name"]})  # fmt: skip
    assert decoded(json.dumps(older).encode(), "a") == decoded(json.dumps(tree).encode(), "a")
    assert brought_up({"name": "x"}, 1) == {"title": "x"}


def test_no_part_of_the_model_takes_what_it_does_not_know():
    def structs(kind, found):
        if isinstance(kind, msgspec.inspect.StructType):
            if kind.cls not in found:
                found.add(kind.cls)
                for field in kind.fields:
                    structs(field.type, found)
        else:
            for name in ("types", "item_types"):
                for part in getattr(kind, name, ()):
                    structs(part, found)
            if hasattr(kind, "item_type"):
                structs(kind.item_type, found)
        return found

    found = structs(msgspec.inspect.type_info(Envelope), set())
    assert len(found) > 30
    assert [k.__name__ for k in found if not k.__struct_config__.forbid_unknown_fields] == []


@settings(max_examples=40)
@given(data=st.data())
def test_what_is_not_known_is_told_and_the_rest_is_seen(data):
    newer = json.loads(tree_text())
    objects = [part for part in parts(newer["publication"]) if isinstance(part, dict)]
    added = data.draw(st.lists(st.integers(0, len(objects) - 1), min_size=1, max_size=3))
    value = data.draw(st.sampled_from([None, 7, "of rain", [], {"kind": "star"}, [{"x": 1}]]))
    for n, at in enumerate(added):
        objects[at][f"smell {n}"] = value
    found = seen(json.dumps(newer).encode(), "notes.hframe")
    assert found.publication == decoded(tree_text(), "notes.hframe")
    assert "“smell 0”" in found.more and "opened to look at" in found.more
    with pytest.raises(Refusal, match="newer version"):
        decoded(json.dumps(newer).encode(), "notes.hframe")


@settings(max_examples=40)
@given(data=st.data())
def test_a_kind_that_is_not_known_goes_alone(data):
    newer = json.loads(tree_text())
    lists = [p for p in parts(newer["publication"]) if isinstance(p, list) and "kind" in p[0]]
    chosen = lists[data.draw(st.integers(0, len(lists) - 1))]
    newer["format"] = FORMAT + 1
    chosen.insert(data.draw(st.integers(0, len(chosen))), {"kind": "star", "points": 5})
    found = seen(json.dumps(newer).encode(), "notes.hframe")
    assert found.publication == decoded(tree_text(), "notes.hframe")
    assert "“star”" in found.more


@settings(max_examples=40)
@given(data=st.data())
def test_a_value_that_is_not_known_never_ends_in_anything_but_a_sentence(data):
    newer = json.loads(tree_text())
    newer["format"] = FORMAT + 1
    objects = [part for part in parts(newer["publication"]) if isinstance(part, dict) and part]
    some = objects[data.draw(st.integers(0, len(objects) - 1))]
    key = data.draw(st.sampled_from(sorted(some)))
    some[key] = data.draw(st.sampled_from([None, -7, "zigzag", [], {}, [{"x": 1}], 10**400]))
    try:
        found = seen(json.dumps(newer).encode(), "notes.hframe")
    except Refusal as refusal:
        assert "notes.hframe" in str(refusal)
    else:
        assert "newer version" in found.more
        assert json.loads(b"".join(envelope(found.publication)))["publication"]


def test_a_newer_number_alone_is_seen_in_full(tree):
    found = seen(json.dumps({**tree, "format": FORMAT + 3}).encode(), "notes.hframe")
    assert found.publication == decoded(json.dumps(tree).encode(), "a")
    assert f"format {FORMAT + 3}; this one writes {FORMAT}" in found.more


def test_an_older_file_is_not_looked_at_twice(tree, monkeypatch):
    def never(*_):
        raise AssertionError

    monkeypatch.setattr("hidden_frame.storage.decoding.known", never)
    monkeypatch.setattr("hidden_frame.storage.decoding.brought_up", never)
    assert decoded(json.dumps({**tree, "format": 1}).encode(), "a").title
    assert numbers.unchanged_since(FORMAT)


@pytest.mark.parametrize("change", [{"format": FORMAT + 1}, {"smell": "of rain"}])
def test_it_is_not_written_over(demo, tree, change, tmp_path):
    path = tmp_path / "newer.hframe"
    newer = copy.deepcopy(tree)
    (newer if "format" in change else newer["publication"]).update(change)
    path.write_bytes(file_of(newer))
    before = path.read_bytes()
    assert load(path).more
    with pytest.raises(Refusal, match="save under another name"):
        save(path, demo[0], demo[1])
    assert path.read_bytes() == before
    save(tmp_path / "copy.hframe", load(path).publication, {})
    assert not load(tmp_path / "copy.hframe").more


def test_over_what_is_no_publication_one_may_save(demo, tmp_path):
    path = tmp_path / "old.hframe"
    path.write_bytes(b"anything")
    save(path, set_title(demo[0], "New"), demo[1])
    assert load(path).publication.title == "New"


def test_what_can_be_seen_of_a_tree_is_itself_where_all_is_known(tree):
    assert known(tree, Envelope) == (tree, [])


def test_from_bytes_says_so_too(tree):
    assert from_bytes(file_of({**tree, "format": 9}), "notes.hframe").more


def test_the_example_by_hand_in_the_docs_opens_and_prints(tmp_path):
    words = (FILES.parents[1] / "docs" / "format" / "README.md").read_text()
    assert f"`format` is **{FORMAT}**" in words and f"| {FORMAT} |" in words
    blocks = re.findall(r"```json\n(\{\n.*?)```", words, re.DOTALL)
    (program,) = re.findall(r"```python\n(.*?)```", words, re.DOTALL)
    (tmp_path / "publication.json").write_text(blocks[0])
    with contextlib.chdir(tmp_path):
        exec(program, {})
    opened = load(tmp_path / "two.hframe")
    assert not opened.more and opened.warnings == []
    assert json.loads(blocks[0])["format"] == FORMAT
    composition = Composer().compose(opened.publication)
    export_pdf(composition, {}, tmp_path / "two.pdf")
    with pdfplumber.open(tmp_path / "two.pdf") as pdf:
        assert [page.extract_text().split() for page in pdf.pages] == [
            ["1"], ["Written", "by", "hand.", "2"],
        ]  # fmt: skip
