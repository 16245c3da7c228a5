"""The command line, run as a program would run it."""

from __future__ import annotations

import json
import subprocess
import sys
import zipfile
from pathlib import Path

import pypdf
import pytest
from PIL import Image

from hidden_frame.demo.almanac import almanac
from hidden_frame.model.trims import TRIMS
from hidden_frame.storage.format import load


def run(*arguments: object) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "hidden_frame.cli", *map(str, arguments)]
    return subprocess.run(command, capture_output=True, text=True, timeout=120)


@pytest.fixture(scope="module")
def file(tmp_path_factory) -> Path:
    path = tmp_path_factory.mktemp("cli") / "almanac.hframe"
    done = run("demo", path)
    assert done.returncode == 0, done.stderr
    return path


def test_demo_writes_the_almanac(file):
    opened = load(file)
    assert opened.publication == almanac()[0]
    assert opened.preview is not None and opened.preview.startswith(b"\x89PNG")


def test_pages(file):
    rows = [json.loads(line) for line in run("pages", file, "--json").stdout.splitlines()]
    assert len(rows) == 32
    assert rows[5] == {
        "position": 6, "folio": "vi", "side": "verso", "spread": 4, "section": "Front matter",
        "masters": ["Text", "Members’ seal"], "automatic": False, "blind": False, "overrides": 0,
        "rule": None, "heads": [],
    }  # fmt: skip
    assert rows[6]["overrides"] == 1 and rows[2]["blind"] and rows[8]["automatic"]


def test_status_tells_what_is_remembered(file):
    rows = [json.loads(line) for line in run("status", file, "--json").stdout.splitlines()]
    assert {"typeset.paragraphs.set_paragraph", "compose.composer._placed"} <= {
        r["name"] for r in rows
    }
    assert all(r["entries"] > 0 and r["weight"] > 0 for r in rows)
    assert [r["weight"] for r in rows] == sorted((r["weight"] for r in rows), reverse=True)
    assert run("status", file).stdout.startswith("32 pages composed; ")


def test_info(file):
    found = json.loads(run("info", file, "--json").stdout)
    assert (found["title"], found["pages"]) == ("Night Sky Almanac", 32)
    assert found["details"] == {"Edition year": "2031", "Volume": "12"}
    month = next(m for m in found["masters"] if m["name"] == "Month table")
    assert month == {"name": "Month table", "base": "Text", "followers": 12}
    assert len({s["style"] for s in found["sections"]}) >= 3


def test_export_pdf_and_png(file, tmp_path):
    out = tmp_path / "out.pdf"
    assert run("export", file, out, "--pages", "iii-v, #9").returncode == 0
    assert pypdf.PdfReader(out).page_labels == ["iii", "iv", "v", "3"]
    done = run("export", file, tmp_path / "p-%d.png", "--pages", "#1, #7", "--dpi", 36)
    assert done.returncode == 0
    assert sorted(p.name for p in tmp_path.glob("*.png")) == ["p-1.png", "p-7.png"]
    width = load(file).publication.setup.trim.width
    assert Image.open(tmp_path / "p-1.png").width == pytest.approx(width / 2, abs=1)


@pytest.mark.parametrize(
    ("arguments", "status", "says"),
    [
        (("pages", "nowhere.hframe"), 1, "can't be read"),
        (("export", "FILE", "x.docx"), 1, "neither .pdf nor .png"),
        (("export", "FILE", "x.pdf", "--pages", "900"), 1, "“900” names no page"),
        (("export", "FILE", "x.png"), 1, "put %d in it"),
        (("demo", "almanac.zip"), 1, "should end in .hframe"),
        (("export", "FILE"), 2, "name the file and where to write it"),
        (("pages", "FILE", "--colour"), 2, "No such option"),
    ],
)
def test_errors_are_one_sentence_and_the_status_tells_whose(file, arguments, status, says):
    done = run(*(file if a == "FILE" else a for a in arguments))
    assert done.returncode == status
    assert says in done.stderr and "Traceback" not in done.stderr
    if status == 1:
        assert len(done.stderr.strip().splitlines()) == 1


def test_resize_writes_another_file_and_says_what_came_of_it(file, tmp_path):
    small, tiny = tmp_path / "a5.hframe", tmp_path / "tiny.hframe"
    before = file.read_bytes()
    done = run("resize", file, "--trim", "A5", "--items", "scale", "--type", "--out", small)
    assert done.returncode == 0, done.stderr
    assert done.stdout.splitlines() == [
        "148 mm × 210 mm, bleed 3 mm", "Everything is on its page, and fits.",
    ]  # fmt: skip
    assert load(small).publication.setup.trim == TRIMS["A5"] and file.read_bytes() == before
    followed = run("resize", file, "--trim", "150x210mm", "--out", tmp_path / "b.hframe")
    assert followed.returncode == 0 and "do not fit any more" in followed.stdout
    for wrong, said in (
        (["--trim", "10x12mm"], "leave no room"), (["--trim", "large"], "“large” is no trim size"),
        (["--trim", "A5", "--items", "melt"], "“melt”"), ([], "--trim 148x210mm"),
        (["--trim", "0x210mm"], "Width 0 mm"),
    ):  # fmt: skip
        refused = run("resize", file, *wrong, "--out", tiny)
        assert refused.returncode == 1 and said in refused.stderr, wrong
        assert len(refused.stderr.strip().splitlines()) == 1 and not tiny.exists()


def test_only_the_text_of_a_script_is_ever_run(file, tmp_path):
    """An archive with a program in it, under the name of a publication or of a script."""
    marker = tmp_path / "ran"
    program = f"open({str(marker)!r}, 'w').close()"
    evil = tmp_path / "evil.hframe"
    evil.write_bytes(file.read_bytes())
    with zipfile.ZipFile(evil, "a") as archive:
        archive.writestr("__main__.py", program)
    for path in (evil, evil.rename(tmp_path / "evil.py")):
        done = run("run", path)
        assert done.returncode == 1 and "evil" in done.stderr and "Traceback" not in done.stderr
    folder = tmp_path / "folder.py"
    folder.mkdir()
    (folder / "__main__.py").write_text(program)
    assert run("run", folder).returncode == 1
    wrong = tmp_path / "wrong.py"
    wrong.write_text("print('a'\n")
    assert "line 1" in run("run", wrong).stderr
    assert not marker.exists()
    good = tmp_path / "good.py"
    good.write_text(f"# -*- coding: utf-8 -*-\nassert __name__ == '__main__'\n{program}\n")
    assert run("run", good).returncode == 0 and marker.exists()
