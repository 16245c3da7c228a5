"""Files that are more than they say: archives that burst, pictures and manuscripts without measure,
disks that are too small, files of a newer version."""

from __future__ import annotations

import hashlib
import io
import json
import os
import random
import subprocess
import sys
import tempfile
import time
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path

from benchmarks.measures import Row
from benchmarks.whole_file import to_bytes
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.format import load, save
from hidden_frame.storage.manuscripts.read import of_bytes
from hidden_frame.storage.numbers import FORMAT

_SLOW = 10.0  # seconds after which something hangs
_SMALL_DISK = """
import resource, sys
from pathlib import Path
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.format import save
resource.setrlimit(resource.RLIMIT_FSIZE, (int(sys.argv[2]), int(sys.argv[2])))
publication, blobs = almanac()
try:
    save(Path(sys.argv[1]), set_title(publication, "New"), blobs)
except Refusal as refusal:
    print(refusal)
"""
_OPENED = """
import resource, sys
from pathlib import Path
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.format import load
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
try:
    load(Path(sys.argv[1]))
except Refusal:
    pass
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before)
"""


def overfull(count: int) -> Iterator[Row]:
    """Each with its count of what went wrong; `count` are the disks and the manuscripts."""
    yield Row("MB that a burst archive takes", _burst(), "MB", 300)
    yield Row("manuscripts that hang, raise or lose words", _manuscripts(count), "texts", 0)
    yield Row(f"lost or untold on {count} disks too small", _small(count), "files", 0)
    yield Row("newer files that were written over", _newer(), "files", 0)


def _burst() -> float:
    """The most that opening one of three archives of about 1 MB takes, in MB."""
    publication, blobs = almanac()
    data, most = to_bytes(publication, blobs), 0.0
    picture = f"pictures/{hashlib.sha256(b'').hexdigest()}.tif"
    for member in ("preview.png", "publication.json", picture):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.hframe"
            with (
                zipfile.ZipFile(io.BytesIO(data)) as old,
                zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as new,
            ):
                for name in old.namelist():
                    if name != member:
                        new.writestr(name, old.read(name))
                new.writestr(member, b" " * 900 * 1024**2)
            said = subprocess.run(
                [sys.executable, "-c", _OPENED, str(path)], capture_output=True, check=True
            )
            most = max(most, int(said.stdout) / 1024)
    return round(most, 1)


def _manuscripts(count: int) -> int:
    wrong, draw = 0, random.Random(29)
    for n in range(count):
        kind, text, words = _MADE[n % len(_MADE)](draw.randrange(20_000, 200_000))
        begun = time.thread_time()
        try:
            found = of_bytes(text.encode(), "a", f"a.{kind}", kind)
            told = " ".join(p.text for p in found.paragraphs)
            wrong += any(word not in told for word in words)
        except Refusal:
            pass
        except Exception as error:
            wrong += 1
            print(f"{kind}: {type(error).__name__}: {error}"[:200], file=sys.stderr)
        wrong += time.thread_time() - begun > _SLOW
    return wrong


_Made = tuple[str, str, tuple[str, ...]]
_MADE: tuple[Callable[[int], _Made], ...] = (
    lambda n: ("md", "[" * n + " word", ("word",)),
    lambda n: ("md", "![" * (n // 2) + " word", ("word",)),
    lambda n: ("md", "^[" * (n // 2) + " word", ("word",)),
    lambda n: ("md", "> " * (n // 100) + "word\n\nlast", ("word", "last")),
    lambda n: ("md", "|a|b|\n|-|-|\n" + "|word|x|\n" * (n // 100), ("word",)),
    lambda n: ("html", "<div>" * (n // 50) + "word", ("word",)),
    lambda n: ("html", "<p " + " ".join(f"a{i}=1" for i in range(n // 5)) + ">word", ("word",)),
    lambda n: ("html", "<table><tr><td>word" * (n // 100), ("word",)),
)


def _small(count: int) -> int:
    """A disk on which there is room for part of the file: a limit of the size of any file stands
    for it, since a disk of its own needs rights that a program has not."""
    draw, wrong = random.Random(3), 0
    publication, blobs = almanac()
    whole = len(to_bytes(publication, blobs))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.hframe"
        save(path, publication, blobs)
        before = path.read_bytes()
        for _ in range(count):
            room = str(draw.randrange(whole))
            said = subprocess.run(
                [sys.executable, "-c", _SMALL_DISK, str(path), room],
                capture_output=True, text=True, check=False,
            )  # fmt: skip
            wrong += "could not be written" not in said.stdout
            wrong += path.read_bytes() != before or os.listdir(folder) != ["a.hframe"]
    return wrong


def _newer() -> int:
    publication, blobs = almanac()
    wrong = 0
    for change in ({"format": FORMAT + 1}, {}):
        with zipfile.ZipFile(io.BytesIO(to_bytes(publication, blobs))) as made:
            tree = json.loads(made.read("publication.json"))
        tree["publication"]["unheard of"] = 1
        tree.update(change)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.hframe"
            with zipfile.ZipFile(path, "w") as archive:
                archive.writestr("mimetype", "application/vnd.hidden-frame+zip")
                archive.writestr("publication.json", json.dumps(tree))
            before = path.read_bytes()
            wrong += not load(path).more
            try:
                save(path, set_title(publication, "New"), blobs)
                wrong += 1
            except Refusal:
                pass
            wrong += path.read_bytes() != before
    return wrong
