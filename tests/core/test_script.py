"""Publications made by scripts: the documented examples, lengths, refusals, steps."""

from __future__ import annotations

import doctest
import subprocess
import sys
from pathlib import Path

import pypdf
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

import hidden_frame as hf
from hidden_frame.model.invariants import problems
from hidden_frame.model.text import Marker, Run
from hidden_frame.script.values import length, margins_of, text_of
from hidden_frame.storage.format import load

ROOT = Path(__file__).parents[2]


@pytest.fixture
def book():
    return hf.Document.new("Field notes", trim="A5", pages=16)


def test_the_examples_of_the_guide_run(tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    found = doctest.testfile(str(ROOT / "docs" / "scripting.md"), module_relative=False,
                             optionflags=doctest.NORMALIZE_WHITESPACE)  # fmt: skip
    assert found.attempted > 25 and found.failed == 0
    reader = pypdf.PdfReader(tmp_path / "notes.pdf")
    assert len(reader.pages) == 16
    assert reader.page_labels == ["1", "2", *[str(n) for n in range(1, 15)]]
    assert "5" in reader.pages[6].extract_text()


@given(st.floats(-500, 500).map(lambda v: round(v, 2)))
def test_lengths_are_points_or_have_a_unit(value):
    assert length(value) == value
    assert length(f"{value}mm") == pytest.approx(value * 72 / 25.4, abs=1e-6)
    assert length(f"{value}in") == pytest.approx(value * 72, abs=1e-6)


@given(
    st.lists(
        st.sampled_from(["a", "b c", "\n", "\n\n", hf.marker.folio, hf.run("x", bold=True)]),
        max_size=8,
    )
)
def test_a_line_feed_begins_a_paragraph_and_nothing_is_lost(pieces):
    text = text_of(pieces, "Body", None, str.casefold, str.casefold)
    said = "\n".join(
        "".join("\ufffc" if isinstance(c, Marker) else c.text for c in p.content) for p in text
    )
    assert said == "".join(
        p if isinstance(p, str) else "\ufffc" if isinstance(p, Marker) else p.text for p in pieces
    )
    assert all(p.style == "body" for p in text)


def test_an_undone_step_leaves_the_same_object(book):
    before = book.publication
    book.add_master("Text")
    assert book.publication is not before
    book.undo()
    assert book.publication is before
    book.redo()
    assert [m.name for m in book.publication.masters] == ["Base", "Text"]


@pytest.mark.parametrize(
    ("wrong", "says"),
    [(lambda b: b.master("Choir"), "There is no master “Choir”; there are Base."),
     (lambda b: b.page(17), "17"),
     (lambda b: b.page(3).add_text_frame(0, 0, "wide", 10), "“wide” is not a length"),
     (lambda b: b.page(3).add_text_frame(0, 0, 10, 10, style="Hymn"), "no paragraph style “Hymn”"),
     (lambda b: b.page(3).add_shape(0, 0, 10, 10, fill="Mauve"), "no colour “Mauve”"),
     (lambda b: b.page(3).add_picture(0, 0, 10, 10, "gone.png"), "gone.png"),
     (lambda b: b.export("notes.txt"), "neither .pdf nor .png"),
     (lambda b: hf.Document.new("X", trim="A99"), "“A99” is not a trim size"),
     (lambda b: margins_of({"left": 3}, b.publication.setup.trim), "“left” is not a margin"),
     (lambda b: hf.Document.open("gone.hframe"), "gone.hframe")],
)  # fmt: skip
def test_what_can_not_be_done_is_one_sentence_and_changes_nothing(
    book, wrong, says, tmp_path, monkeypatch
):
    monkeypatch.chdir(tmp_path)
    before = book.publication
    with pytest.raises(hf.Refusal) as refused:
        wrong(book)
    assert says in str(refused.value) and "\n" not in str(refused.value)
    assert book.publication is before


def test_pictures_shapes_lines_and_colours(book, tmp_path):
    Image.new("RGB", (40, 30), (200, 30, 30)).save(tmp_path / "red.png")
    page = book.page(4)
    picture = page.add_picture("10mm", "10mm", "40mm", "30mm", tmp_path / "red.png", fit="fill")
    line = page.add_line(0, "100mm", "80mm", stroke=("Ochre", "2pt"), rotation=45)
    panel = page.add_shape(0, 0, 50, 50, "rounded", fill="#1F6F5C", radius="3mm")
    assert picture.item.picture in book.blobs and picture.item.fit == "fill"
    assert (line.item.stroke.colour, line.item.stroke.width) == ("ochre", 2.0)
    assert panel.item.radius == pytest.approx(8.504, abs=0.001)
    assert [c.name for c in book.publication.colours][-1] == "#1f6f5c"
    again = page.add_shape(0, 0, 9, 9, fill="#1f6f5c")
    assert again.item.fill.colour == panel.item.fill.colour  # written once
    book.save(tmp_path / "b.hframe")
    opened = load(tmp_path / "b.hframe")
    assert opened.publication == book.publication and opened.blobs == book.blobs
    assert problems(book.publication) == []
    panel.remove()
    assert panel.id not in [i.id for i in page.items]


def test_text_says_what_was_written_and_in_which_style(book):
    frame = book.page(3).add_text_frame(
        0, 0, 200, 90, align="centre",
        text=["Page ", hf.marker.folio, hf.paragraph(hf.run("Loud", style="Strong"),
                                                    style="Heading")],
    )  # fmt: skip
    first, second = frame.item.text
    assert first.content == (Run("Page "), Marker("folio")) and first.alignment == "centre"
    assert (second.style, second.content[0].style) == ("heading", "strong")
    frame.change(text="One\nTwo", columns=2, gutter="4mm")
    assert [p.content[0].text for p in frame.item.text] == ["One", "Two"]
    assert frame.item.gutter == pytest.approx(11.339, abs=0.001)


def run(*arguments) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "hidden_frame.cli", *map(str, arguments)]
    return subprocess.run(command, capture_output=True, text=True, timeout=120)


def test_a_script_is_run_on_a_file(book, tmp_path):
    book.save(tmp_path / "notes.hframe")
    script = tmp_path / "make.py"
    script.write_text(
        "import sys\nprint(len(book.pages), sys.argv[2:])\n"
        "book.set_title('Notes')\nbook.save(sys.argv[1])\n"
    )
    done = run("run", script, tmp_path / "notes.hframe", "--loud")
    assert done.returncode == 0 and done.stdout == "16 ['--loud']\n", done.stderr
    assert load(tmp_path / "notes.hframe").publication.title == "Notes"
    script.write_text("x = 1\nbook.master('Choir')\n")
    done = run("run", script, tmp_path / "notes.hframe")
    assert done.returncode == 1
    assert done.stderr == "make.py, line 2: There is no master “Choir”; there are Base.\n"
    assert "no script" in run("run", tmp_path / "gone.py").stderr


def test_importing_the_program_loads_nothing_heavy():
    heavy = ("PySide6", "pikepdf", "numpy", "msgspec")
    code = f"import sys, hidden_frame; print([m for m in {heavy} if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=60)
    assert done.stdout == "[]\n", done.stderr
    with pytest.raises(AttributeError, match="has no “Choir”"):
        hf.Choir  # noqa: B018
