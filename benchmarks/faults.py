"""Faults made on purpose, seeded and many: `./bench faults`, under twenty minutes on two cores.

What is counted is what must not happen; every target is 0.  A share of all cases is run by
`FAULTS=0.1 ./bench faults`.
"""

from __future__ import annotations

import os
import random
import re
import resource
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from pathlib import Path

from benchmarks.hostile.doors import (
    changed_values,
    is_short,
    opened,
    parcel_of,
    pasted,
    placed,
    with_drawing,
)
from benchmarks.hostile.drawings import attacks, bombs
from benchmarks.hostile.killed import EDITING, KEEPING, SAVING
from benchmarks.hostile.mutated import VALUES, bytes_changed, mutations
from benchmarks.hostile.outside import Outside
from benchmarks.hostile.overfull import overfull
from benchmarks.measures import Row, _window
from benchmarks.whole_file import to_bytes
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import insert, plain
from hidden_frame.interact.hands.shown import change_shown
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.valid import check_change
from hidden_frame.storage import files
from hidden_frame.storage.format import from_bytes, load, save
from hidden_frame.storage.recovery import discard, left_behind, recovered

_TOGETHER = 10  # windows at a time: each but waits for its next key
_SLOW = 10.0  # seconds after which something hangs


def faults() -> Iterator[Row]:
    """Every kind of fault in turn, each with its count of what went wrong."""
    share = float(os.environ.get("FAULTS", "1"))

    def many(count: int) -> int:
        return max(1, round(count * share))

    yield from _kills(many(200), many(100))
    yield from _windows(many(100))
    yield from _files(many(5_000))
    yield from _drawings()
    yield from _edits(many(30_000))
    yield from _disk()
    yield from overfull(many(40))
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    yield Row("memory of all this at most", memory, "MB", 1024)


def _kills(saves: int, keeps: int) -> Iterator[Row]:
    """Programs killed at random moments: of saving with pictures, of keeping a journal."""
    for kind, share in (("", 2), (", a second name", 4), (", a link", 4)):
        count = max(1, saves // share)
        lost = _by_two(partial(_killed_saving, kind), count)
        yield Row(f"lost in {count} kills while saving{kind}", lost, "files", 0)
    lost = _by_two(_killed_keeping, keeps)
    yield Row(f"lost in {keeps} kills while keeping work", lost, "journals", 0)


def _by_two(kill: Callable[[Path, random.Random], bool], count: int) -> int:
    """How many of so many kills lost something; two at a time, each in a folder of its own."""

    def work(number: int) -> int:
        draw = random.Random(16 + number)
        with tempfile.TemporaryDirectory() as folder:
            return sum(kill(Path(folder), draw) for _ in range(number, count, 2))

    with ThreadPoolExecutor(2) as pool:
        return sum(pool.map(work, range(2)))


def _killed_saving(kind: str, folder: Path, draw: random.Random) -> bool:
    """Whether a killed save left anything but the file before it or after it, whole; under a
    second name (a hard link), where there is one, the file as it was before all saves."""
    path, other = folder / "a.hframe", folder / "other.hframe"
    for name in (path, other):
        name.unlink(missing_ok=True)
    if kind:
        save(other, set_title(almanac()[0], "Save 0"), almanac()[1])
        (os.link if "name" in kind else os.symlink)(other, path)
    last = _killed(SAVING, path, draw)
    if "name" in kind and _number(other) != 0:
        return True
    if "link" in kind and not path.is_symlink():
        return True
    return not last <= _number(path) <= last + 1


def _number(path: Path) -> int:
    """Which save a file holds; -1 where it is not whole."""
    try:
        found = load(path)
    except Refusal:
        return -1
    whole = len(found.blobs) == len(found.publication.pictures)
    return int(found.publication.title.removeprefix("Save ")) if whole else -1


def _killed_keeping(folder: Path, draw: random.Random) -> bool:
    """Whether a journal of a killed program lacks what was told to be kept."""
    last = _killed(KEEPING, folder, draw)
    left = left_behind(folder)
    try:
        kept = int(recovered(left[0]).publication.title.removeprefix("Step "))
        return len(left) != 1 or kept < last
    except (Refusal, IndexError):
        return True
    finally:
        for one in left:
            discard(one)


def _killed(code: str, path: Path, draw: random.Random) -> int:
    """Runs a program until some moment; the last step that it told to be done."""
    command = [sys.executable, "-c", code, str(path)]
    child = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    assert child.stdout is not None
    first = int(child.stdout.readline())
    time.sleep(draw.uniform(0, 0.25))
    os.kill(child.pid, signal.SIGKILL)
    said = [int(line) for line in child.stdout.read().split()]
    child.wait()
    return said[-1] if said else first


def _windows(count: int, longest: float = 16.0) -> Iterator[Row]:
    """Real windows killed while somebody types and saves: what is lost is five seconds at
    most, ten windows at a time."""
    draw = random.Random(61)
    lost, most = 0, 0.0
    for at in range(0, count, _TOGETHER):
        with tempfile.TemporaryDirectory() as folder:
            here = [Path(folder) / str(n) for n in range(at, min(at + _TOGETHER, count))]
            running = [_Typist(one, draw.randrange(10**6)) for one in here]
            for one in running:
                one.first()
            now = time.monotonic()
            ends = sorted(((now + draw.uniform(0, longest), one) for one in running),
                          key=lambda end: end[0])  # fmt: skip
            for end, one in ends:
                time.sleep(max(0.0, end - time.monotonic()))
                gone = one.kill()
                lost += gone > 5
                most = max(most, gone)
    yield Row(f"lost more than 5 s in {count} kills of a window", lost, "windows", 0)
    yield Row("the most that was lost", round(most, 1), "s", 5)


class _Typist:
    """A window of its own process, in a folder of its own."""

    def __init__(self, folder: Path, seed: int) -> None:
        self.state, self.path = folder / "state", folder / "a.hframe"
        folder.mkdir()
        save(self.path, *almanac())
        homes = {f"XDG_{name}_HOME": str(self.state) for name in ("STATE", "DATA", "CONFIG")}
        self.child = subprocess.Popen(
            [sys.executable, "-c", EDITING, str(self.path), str(seed)],
            stdout=subprocess.PIPE, text=True, env={**os.environ, **homes},
        )  # fmt: skip

    def first(self) -> None:
        """Waits until it types.  Raises `RuntimeError` where it never does."""
        assert self.child.stdout is not None
        self.told = self.child.stdout.readline()
        if not self.told:
            raise RuntimeError("a window that was to be killed did not open")

    def kill(self) -> float:
        """How many seconds of work are neither in its file nor in its journal."""
        assert self.child.stdout is not None
        os.kill(self.child.pid, signal.SIGKILL)
        end = time.time()
        told = [line.split() for line in (self.told + self.child.stdout.read()).splitlines()]
        self.child.wait()
        known = [load(self.path).publication]
        root = self.state / "hidden-frame" / "recovery"
        known += [recovered(left).publication for left in left_behind(root)]
        there = max(_typed(publication) for publication in known)
        gone = [float(when) for n, when in told if int(n) > there]
        return end - min(gone) if gone else 0.0


def _typed(publication: Publication) -> int:
    """The highest number that was typed into it."""
    texts = [s.text for s in publication.stories]
    texts += [i.text for p in all_pages(publication) for i in p.items if isinstance(i, TextFrame)]
    words = " ".join(plain(text) for text in texts if text)
    return max((int(n) for n in re.findall(r"#(\d+) ", words)), default=0)


class _Count:
    """What went wrong with many calls of a door."""

    def __init__(self) -> None:
        self.tracebacks = self.hangs = self.long = 0

    def call(self, door: Callable[..., object], *arguments: object) -> None:
        begun = time.monotonic()
        try:
            door(*arguments)
        except Refusal as refusal:
            self.long += not is_short(refusal)
        except Exception as error:
            self.tracebacks += 1
            print(f"{door.__name__}: {type(error).__name__}: {error}"[:200], file=sys.stderr)
        self.hangs += time.monotonic() - begun > _SLOW


def _files(count: int) -> Iterator[Row]:
    file, counted = to_bytes(*almanac(), b"preview"), _Count()
    for n, (_, data) in enumerate(mutations(file, 2031, count)):
        counted.call(opened, data, n % 50 == 0)
    yield Row(f"tracebacks of {count:,} mutated files", counted.tracebacks, "files", 0)
    yield Row(f"hangs of {count:,} mutated files", counted.hangs, "files", 0)
    yield Row("refusals of more than three lines", counted.long, "files", 0)


def _drawings() -> Iterator[Row]:
    demo, read, hung = almanac(), 0, _Count()
    with Outside() as outside:
        outside.touched()
        cases = list(attacks(str(outside.folder), outside.url))
        for attack in cases:
            hung.call(placed, attack.data, "a.svg")
            publication, blobs = with_drawing(demo[0], attack.data)
            hung.call(opened, to_bytes(publication, blobs), True)
            read += len(outside.touched())
        yield Row(f"outside reads of {len(cases)} drawings", read, "reads", 0)
    for attack in bombs():
        hung.call(placed, attack.data, "bomb.svg")
    yield Row("drawings that hang or raise", hung.hangs + hung.tracebacks, "drawings", 0)


def _edits(count: int) -> Iterator[Row]:
    """Random edits and pastes of a small publication, each hundredth state saved and opened."""
    draw, demo = random.Random(7), almanac()
    parcel = parcel_of(*demo)
    now, unequal, counted = _fresh(), 0, _Count()
    for n in range(count):
        made: list[Publication] = []

        def step(now: Publication = now, made: list[Publication] = made) -> None:
            new = _edited(now, draw) if draw.random() < 0.97 else pasted(now, _clip(parcel, draw))
            check_change(now, new)
            made.append(new)

        counted.call(step)
        now = made[0] if made else now
        if n % 100 == 0:
            unequal += from_bytes(to_bytes(now, {}), "a").publication != now
        if n % 400 == 399:
            now = _fresh()
    yield Row(f"unequal after {count:,} edits and pastes", unequal, "states", 0)
    yield Row("tracebacks of these", counted.tracebacks, "edits", 0)


def _fresh() -> Publication:
    from hidden_frame.edit.items.draw import add_item

    made = new_publication("P", Setup(trim=TRIMS["A5"]), 4)
    frame = TextFrame(id="", x=40, y=40, width=200, height=200)
    return add_item(made, all_pages(made)[0].id, frame)[0]


def _clip(parcel: bytes, draw: random.Random) -> bytes:
    return draw.choice([parcel, bytes_changed(parcel, draw), changed_values(parcel, draw, VALUES)])


def _edited(now: Publication, draw: random.Random) -> Publication:
    """One edit of somebody who types anything anywhere."""
    page = all_pages(now)[0]
    item = draw.choice(page.items)
    if isinstance(item, TextFrame) and draw.random() < 0.6:
        style = now.paragraph_styles[0].id
        from hidden_frame.edit.text.steps import end_of
        from hidden_frame.edit.text.write import start_of

        text = start_of(item.text, style)
        letters = "".join(chr(draw.choice([32, 97, 0x3B1, 0x5D0, 0x1F600, 0xAD, 10, 9, 0x301]))
                          for _ in range(draw.randrange(9)))  # fmt: skip
        new, _ = insert(text, end_of(text), letters)
        return change_shown(now, page.id, "recto", {item.id: {"text": new}})
    if draw.random() < 0.1:
        return set_title(now, draw.choice(["", "T", "x" * 300, "\u202e", "é\u0301"]))
    name = draw.choice(["x", "y", "width", "height", "rotation", "opacity"])
    value = draw.choice([0, -1, 1e-9, 12.34567, 1e15, float("nan"), float("inf"), 300.0])
    return change_shown(now, page.id, "recto", {item.id: {name: value}})


def _disk() -> Iterator[Row]:
    """A full disk, a folder that is gone, a file that was replaced: the old file, and a word."""
    publication, blobs = almanac()
    for told, name, code in (("a full disk", "fsync", 28), ("a folder that is gone", "replace", 2)):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.hframe"
            save(path, publication, blobs)
            before = path.read_bytes()
            wrong = 1
            real = getattr(files.os, name)
            try:
                setattr(files.os, name, _failing(code))
                save(path, set_title(publication, "New"), blobs)
            except Refusal:
                wrong = 0
            finally:
                setattr(files.os, name, real)
            wrong += path.read_bytes() != before or len(list(Path(folder).iterdir())) != 1
            yield Row(f"lost or untold: {told}", wrong, "files", 0)
    with tempfile.TemporaryDirectory() as folder:
        wrong = _replaced(Path(folder) / "a.hframe", publication, blobs)
        yield Row("lost or untold: a file that was replaced", wrong, "files", 0)


def _replaced(path: Path, publication: Publication, blobs: Mapping[str, bytes]) -> int:
    """What goes wrong where somebody else saved a file that is open in a window: it is asked
    about, and theirs stays while nothing else is said."""
    from hidden_frame.desktop.dialogs.changed_file import ChangedFileDialog

    save(path, publication, blobs)
    _, window = _window(new_publication("Empty", Setup(trim=TRIMS["A5"])), {})
    window.session.replace_all(publication, blobs, path)
    save(path, set_title(publication, "Theirs"), blobs)
    theirs = path.read_bytes()
    window.session.edit("title", lambda p: set_title(p, "Mine"))
    asked: list[object] = []
    real = ChangedFileDialog.exec
    try:
        ChangedFileDialog.exec = lambda dialog: asked.append(dialog) or 0
        window.files.save()
    finally:
        ChangedFileDialog.exec = real
    wrong = (len(asked) != 1) + (path.read_bytes() != theirs) + (not window.session.unsaved)
    window.close()
    return wrong


def _failing(code: int) -> Callable[..., object]:
    def fail(*_: object) -> None:
        raise OSError(code, os.strerror(code))

    return fail
