"""The program in the desktop's menu, and its wheel in an environment with nothing else."""

from __future__ import annotations

import configparser
import os
import re
import shlex
import shutil
import subprocess
import sys
import sysconfig
import tomllib
from importlib.metadata import distribution, requires
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lxml import etree

from hidden_frame import __version__
from hidden_frame.install import FILES, install, placed, remove
from hidden_frame.model.errors import Refusal
from hidden_frame.resources import DESKTOP, GUIDE
from hidden_frame.storage.format import EXTENSION

ROOT = Path(__file__).parents[2]
MIME = "{http://www.freedesktop.org/standards/shared-mime-info}"


def entry(data: Path) -> configparser.SectionProxy:
    parser = configparser.ConfigParser(interpolation=None)
    parser.optionxform = str  # type: ignore[assignment,method-assign]
    parser.read(placed(data)[0])
    return parser["Desktop Entry"]


def test_what_is_installed_is_taken_away_again(tmp_path):
    files = install(tmp_path, Path("/opt/press/hidden-frame"))
    assert all(path.stat().st_size for path in files)
    assert shlex.split(entry(tmp_path)["Exec"]) == ["/opt/press/hidden-frame", "%f"]
    assert sorted(remove(tmp_path)) == sorted(files)
    assert not any(path.exists() for path in files) and remove(tmp_path) == []


@given(st.text(st.characters(codec="utf-8", exclude_characters="\0\n\r\t"), min_size=1))
def test_any_path_is_quoted_as_the_entry_specification_reads_it(tmp_path_factory, name):
    data = tmp_path_factory.mktemp("share")
    install(data, Path("/opt") / name)
    line = next(
        line for line in placed(data)[0].read_text("utf-8").split("\n") if line.startswith("Exec=")
    )
    # Desktop Entry Specification, “Value types” and “The Exec key”: escapes of a string, then
    # the argument's quotes, then field codes.
    quoted = line.removeprefix("Exec=").removesuffix(" %f").replace("\\\\", "\\")
    inner = re.fullmatch(r'"((?:[^"`$\\]|\\["`$\\])*)"', quoted, re.DOTALL)
    assert inner is not None
    assert re.sub(r'\\(["`$\\])', r"\1", inner[1]).replace("%%", "%") == str(Path("/opt") / name)


def test_the_files_tell_the_same_story(tmp_path):
    kinds = etree.parse(DESKTOP / "hidden-frame-mime.xml").getroot()
    kind = kinds.find(f"{MIME}mime-type")
    about = etree.parse(DESKTOP / "hidden-frame.metainfo.xml").getroot()
    install(tmp_path)
    assert kind.find(f"{MIME}glob").get("pattern") == f"*{EXTENSION}"
    assert entry(tmp_path)["MimeType"] == f"{kind.get('type')};"
    assert about.findtext("provides/mediatype") == kind.get("type")
    assert about.find("releases/release").get("version") == __version__
    assert about.findtext("launchable") == placed(tmp_path)[0].name
    icon = etree.parse(DESKTOP / "hidden-frame.svg").getroot()
    assert icon.get("viewBox") == "0 0 64 64" and entry(tmp_path)["Icon"] == "hidden-frame"


def test_every_command_is_in_the_manual_page():
    from hidden_frame.cli import COMMANDS

    manual = (DESKTOP / "hidden-frame.1").read_text()
    assert all(f".B hidden-frame {command}\n" in manual for command in COMMANDS)


def test_the_wheel_carries_the_same_files_to_the_same_places():
    with open(ROOT / "pyproject.toml", "rb") as file:
        listed = tomllib.load(file)["tool"]["setuptools"]["data-files"]
    places = {Path(f).name: folder for folder, files in listed.items() for f in files}
    assert places == {name: f"share/{Path(p).parent}" for name, p in FILES.items()}


def test_a_folder_that_cannot_be_written_is_said(tmp_path):
    (tmp_path / "share").write_text("a file is in the way")
    with pytest.raises(Refusal, match="could not be written"):
        install(tmp_path / "share")


def declared() -> set[str]:
    """The packages that the program declares, and those that these declare, as installed here."""
    with open(ROOT / "pyproject.toml", "rb") as file:
        waiting = tomllib.load(file)["project"]["dependencies"]
    found: set[str] = set()
    while waiting:
        asked = waiting.pop()
        if "extra ==" in asked:
            continue
        name = re.match(r"[A-Za-z0-9._-]+", asked)[0]  # type: ignore[index]
        try:
            distribution(name)
        except ModuleNotFoundError:
            continue  # declared for another system or version of Python
        if name not in found:
            found.add(name)
            waiting += requires(name) or []
    return found


def run(*command: object, **more: object) -> None:
    done = subprocess.run([str(part) for part in command], capture_output=True, timeout=300, **more)  # type: ignore[call-overload]
    assert done.returncode == 0, done.stderr.decode()


@pytest.fixture(scope="module")
def empty(tmp_path_factory):
    """An environment with the wheel and what it declares, and nothing else."""
    folder = tmp_path_factory.mktemp("wheel")
    source = folder / "source"
    nothing = shutil.ignore_patterns("__pycache__", "*.egg-info")
    shutil.copytree(ROOT / "src", source / "src", ignore=nothing)
    for name in ("pyproject.toml", "README.md", "LICENSE", "NOTICE"):
        shutil.copy(ROOT / name, source)
    build = ("pip", "wheel", "-q", "--no-deps", "--no-build-isolation", "--no-index")
    run(sys.executable, "-m", *build, "-w", folder, source)
    run(sys.executable, "-m", "venv", folder / "env")
    install = ("pip", "install", "-q", "--no-deps", "--no-index")
    run(folder / "env" / "bin" / "python", "-m", *install, next(folder.glob("*.whl")))
    own = Path(sysconfig.get_path("purelib"))
    there = next((folder / "env" / "lib").glob("python3*/site-packages"))
    for name in declared():
        for file in distribution(name).files or ():
            top = file.parts[0]
            if top not in ("..", "__pycache__") and not (there / top).exists():
                (there / top).symlink_to(own / top)
    return folder / "env"


def test_the_wheel_alone_makes_and_exports_a_publication(empty, tmp_path):
    program = empty / "bin" / "hidden-frame"
    clean = {k: v for k, v in os.environ.items() if not k.startswith("PYTHON")}
    run(program, "demo", "a.hframe", cwd=tmp_path, env=clean)
    run(program, "export", "a.hframe", "a.pdf", cwd=tmp_path, env=clean)
    assert (tmp_path / "a.pdf").read_bytes().startswith(b"%PDF-1.")
    run(program, "--demo", "--offscreen", "--picture", "a.png", cwd=tmp_path, env=clean)
    assert (tmp_path / "a.png").stat().st_size > 50_000
    pages = list((empty / "lib").glob("python3*/site-packages/hidden_frame/assets/guide/*.md"))
    assert {p.name for p in pages} == {p.name for p in GUIDE.glob("*.md")}
    for place in FILES.values():
        assert (empty / "share" / Path(place).parent).is_dir(), place
