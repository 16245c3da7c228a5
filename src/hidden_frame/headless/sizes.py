"""The command that gives a publication another page size."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Annotated, get_args

import typer

from hidden_frame.checks.resized import came_of
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.history import History
from hidden_frame.edit.size.resize import Items, resize
from hidden_frame.headless.commands import File, app, opened_and_composed
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.units import Unit, format_length, parse_length
from hidden_frame.settle.step import step
from hidden_frame.storage.format import EXTENSION, save


@app.command("resize")
def resize_command(
    file: File,
    trim: Annotated[str, typer.Option(help="148x210mm, or a name such as A5.")] = "",
    items: Annotated[str, typer.Option(help="Items follow, scale or stay.")] = "follow",
    bleed: Annotated[str, typer.Option(help="Such as 3mm; as it is by default.")] = "",
    type_too: Annotated[bool, typer.Option("--type", help="Scale letters and lines too.")] = False,
    out: Annotated[Path | None, typer.Option(help="Write to another file.")] = None,
) -> None:  # fmt: skip
    """Give a publication another trim size or bleed, and say what came of it."""
    if out is not None and out.suffix != EXTENSION:
        raise Refusal(f"“{out.name}” should end in {EXTENSION}; name it {out.stem}{EXTENSION}.")
    if items not in get_args(Items):
        raise Refusal(f"Items can follow, scale or stay; “{items}” is none of these.")
    if not trim and not bleed:
        raise Refusal("Say which size: --trim 148x210mm, or --bleed 3mm.")
    opened, _ = opened_and_composed(file)
    before = opened.publication
    unit = before.setup.unit
    size = size_of(trim, unit) if trim else None
    around = parse_length(bleed, unit) if bleed else None
    composer = Composer()
    history = step(
        History.of(before), "page size",
        lambda p: resize(p, size, around, items, type_too=type_too),  # type: ignore[arg-type]
        composer,
    )  # fmt: skip
    save(out or file, history.now, opened.blobs)
    new = history.now.setup
    across, down = (format_length(v, new.unit) for v in (new.trim.width, new.trim.height))
    print(f"{across} × {down}, bleed {format_length(new.bleed, new.unit)}")
    print(came_of(before, history.now, composer, opened.blobs).sentence)


def size_of(text: str, unit: Unit) -> Size:
    """A trim as it is written: “148x210mm”, “148 × 210”, “6in x 9in”, “A5”.

    >>> size_of("6x9in", "mm")
    Size(width=432.0, height=648.0)
    """
    wanted = text.strip().casefold()
    named = next((s for name, s in TRIMS.items() if name.casefold() == wanted), None)
    if named is not None:
        return named
    parts = re.split(r"\s*×\s*|x(?=\s*[0-9])", text.strip())
    if len(parts) != 2:
        names = ", ".join(list(TRIMS)[:4])
        raise Refusal(f"“{text}” is no trim size; write 148x210mm, or a name such as {names}.")
    # A unit behind the second is the first one's too.
    width, height = (part.strip() for part in parts)
    tail = height.lstrip("0123456789., ")
    if width.replace(".", "").replace(",", "").isdecimal():
        width += tail
    return Size(parse_length(width, unit), parse_length(height, unit))
