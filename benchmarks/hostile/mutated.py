"""Publications with something wrong in them: bytes, members, JSON."""

from __future__ import annotations

import io
import json
import random
import zipfile
from collections.abc import Iterator
from typing import Any

HUGE = ["1" + "0" * 5000, "-" + "9" * 400, "1e400", "-1e308", "NaN", "1e15", "0", "-1", "0.0000001"]
VALUES: list[Any] = [
    None, True, -1, 0, 1e15, -1e15, 1e308, 2**63, "", "x" * 3000, "\u0000", "\ud7ff", "﷐", [], {},
    [[]], {"kind": "run"}, "../../etc/passwd", "file:///etc/passwd",
]  # fmt: skip


def mutations(file: bytes, seed: int, count: int) -> Iterator[tuple[str, bytes]]:
    """So many files made of one, each with what was done to it."""
    draw = random.Random(seed)
    kinds = [bytes_changed, cut_short, members_changed, value_changed, number_written, parts_moved]
    for _ in range(count):
        kind = draw.choice(kinds)
        yield kind.__name__, kind(file, draw)


def bytes_changed(file: bytes, draw: random.Random) -> bytes:
    """A few bytes of the file are others."""
    data = bytearray(file)
    for _ in range(draw.choice([1, 2, 8, 64])):
        data[draw.randrange(len(data))] = draw.randrange(256)
    return bytes(data)


def cut_short(file: bytes, draw: random.Random) -> bytes:
    """The file ends early, or has a hole, or begins late."""
    a, b = sorted(draw.randrange(len(file)) for _ in range(2))
    return draw.choice(
        [file[:a], file[a:], file[:a] + file[b:], file[:a] + bytes(b - a) + file[b:]]
    )


def members_changed(file: bytes, draw: random.Random) -> bytes:
    """A member is gone, doubled, renamed, or holds something else."""
    members = unpacked(file)
    name = draw.choice(list(members))
    how = draw.randrange(5)
    if how == 0:
        del members[name]
    elif how == 1:
        members[draw.choice(["../" + name, "/" + name, name.upper(), name + "\u202e"])] = members[
            name
        ]
    elif how == 2:
        members[name] = draw.randbytes(draw.choice([0, 1, 500]))
    elif how == 3:
        members[name] = bytes_changed(members[name] or b"x", draw)
    else:
        return packed(members) + packed({name: b"twice"})
    return packed(members)


def value_changed(file: bytes, draw: random.Random) -> bytes:
    """Values of the publication are others, of any type and size."""
    members = unpacked(file)
    tree = json.loads(members["publication.json"])
    for _ in range(draw.choice([1, 1, 2, 5])):
        holder, key = draw.choice(places(tree))
        holder[key] = draw.choice(VALUES)
    return packed({**members, "publication.json": json.dumps(tree).encode("utf-8", "replace")})


def number_written(file: bytes, draw: random.Random) -> bytes:
    """A number is written as no program would write it."""
    members = unpacked(file)
    tree = json.loads(members["publication.json"])
    numbers = [(h, k) for h, k in places(tree) if isinstance(h[k], int | float)]
    holder, key = draw.choice(numbers)
    holder[key] = "§"
    text = json.dumps(tree).replace('"\\u00a7"', draw.choice(HUGE))
    return packed({**members, "publication.json": text.encode()})


def parts_moved(file: bytes, draw: random.Random) -> bytes:
    """A part of the tree stands where another one of its like belongs."""
    members = unpacked(file)
    tree = json.loads(members["publication.json"])
    (a, i), (b, j) = draw.choice(places(tree)), draw.choice(places(tree))
    a[i] = json.loads(json.dumps(b[j]))
    return packed({**members, "publication.json": json.dumps(tree).encode()})


def places(tree: Any) -> list[tuple[Any, Any]]:
    """Every place of a tree, as its holder and key."""
    found: list[tuple[Any, Any]] = []
    waiting = [tree]
    while waiting:
        here = waiting.pop()
        keys = (
            here if isinstance(here, dict) else range(len(here)) if isinstance(here, list) else ()
        )
        for key in keys:
            found.append((here, key))
            if isinstance(here[key], dict | list):
                waiting.append(here[key])
    return found


def unpacked(file: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(file)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def packed(members: dict[str, bytes]) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in members.items():
            archive.writestr(name, data)
    return buffer.getvalue()
