"""The faults of one page, read from its scene: what is seen is what is judged."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Iterator
from typing import NamedTuple

from hidden_frame.checks.anchored import anchored_faults
from hidden_frame.checks.covered import covered
from hidden_frame.compose.scene import (
    PathPrimitive,
    PicturePrimitive,
    Placed,
    Placeholder,
    Scene,
    TextPrimitive,
)
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.publication import Picture
from hidden_frame.typeset.judged import LineFault, line_faults
from hidden_frame.typeset.text import SetText

_NEAR = 0.1  # points
# What a typographer would mend about lines, after “Page 3: a text frame”.
LINE_FAULTS = {
    "loose line": "",  # says which line, and by how much
    "tight line": "has lines whose spaces are narrower than their style allows",
    "hyphen ladder": "has more hyphens one below the other than its style allows",
    "short last line": "has a paragraph that ends with a line shorter than an indent",
    "same word": "has three lines in a row that begin with the same word",
    "river": "has a gap that runs down through four lines",
    "widow": "begins with fewer lines of a paragraph than its style wants",
    "orphan": "ends with fewer lines of a paragraph than its style wants",
    "looser": "",  # counted
}
_WORDS = 3  # with which a line is named


class Limits(NamedTuple):
    """What faults depend on besides the scene."""

    facing: bool
    judges_lines: str
    least_ppi: float
    least_line_ppi: float
    missing: frozenset[str]
    pictures: tuple[Picture, ...]
    troubled: frozenset[tuple[str, str]] = frozenset()  # pictures that can't be read, and why


class Fault(NamedTuple):
    """What is wrong with one item as a page shows it; `what` goes on after its name, or after
    a colon that it begins with.

    `carrier` is the master it comes from; `needs` is what a way out needs to know.
    """

    kind: str
    item_id: str
    carrier: str | None
    noun: str
    name: str
    what: str
    needs: tuple[float, ...] | str = ()


Faulty = Callable[..., Fault]


@remembered()
def faults_of(scene: Scene, limits: Limits) -> tuple[Fault, ...]:
    """The faults of a page's printed items, bottom to top."""
    found: list[Fault] = []
    for placed in scene.placed:
        if placed.printing:
            found += _of_item(scene, placed, limits)
    return tuple(found)


def _of_item(scene: Scene, placed: Placed, limits: Limits) -> Iterator[Fault]:
    drawing = placed.drawing

    def fault(kind: str, what: str, needs: tuple[float, ...] | str = ()) -> Fault:
        return Fault(kind, placed.item_id, placed.carrier, noun(placed), placed.name, what, needs)

    if drawing.overflow is not None:
        yield fault("text does not fit", f": {drawing.overflow.sentence.rstrip('.')}")
    for primitive in drawing.primitives:
        if isinstance(primitive, TextPrimitive):
            lacking = "" if _is_ascii(primitive.text) else _lacking(primitive.text)
            if lacking:
                shown = ", ".join(_named(c) for c in lacking[:3])
                more = f" and {len(lacking) - 3} more" if len(lacking) > 3 else ""
                what = f"holds {shown}{more}, which no font here has; nothing is printed for it"
                yield fault("missing character", what, lacking)
            told = limits.judges_lines == "in stories" and drawing.told
            if (told or limits.judges_lines == "everywhere") and not scene.is_master:
                yield from _of_lines(primitive.text, fault)
        elif isinstance(primitive, PicturePrimitive):
            yield from _of_picture(primitive, limits, fault)
    if placed.mixed:
        yield fault("mixed ground", "lies half on dark, half on light ground: neither of the two "
                    "colours of its words reads well on all of it")  # fmt: skip
    if not scene.is_master and (hidden := covered(scene, placed)) is not None:
        by = f"“{hidden.by.name}”" if hidden.by.name else f"a {noun(hidden.by)}"
        more = f" and {hidden.lines - 1} more lines" if hidden.lines > 1 else ""
        yield fault("covered", f"has words under {by}: “{hidden.words} …”{more}",
                    f"{hidden.by.item_id}")  # fmt: skip
    for kind, what in anchored_faults(scene, placed):
        yield fault(kind, what)
    if _prints_nothing(placed) and not scene.is_master:
        yield fault("prints nothing", "is empty and prints nothing")
        return
    yield from _of_edges(scene, placed, limits.facing, fault)


def _of_lines(text: SetText, fault: Faulty) -> Iterator[Fault]:
    """What is to mend about a text's lines: the loosest by its words and by how much, others by
    their kind; those that are bearable are counted."""
    found: dict[str, list[LineFault]] = {}
    for each in line_faults(text):
        found.setdefault(each.kind, []).append(each)
    for kind, several in found.items():
        worst = max(several, key=lambda f: f.wide)
        what = LINE_FAULTS[kind]
        if kind == "loose line":
            line = text.lines[worst.line]
            words = " ".join(line.text.split()[:_WORDS])
            more = f"; {len(several) - 1} more are as loose" if len(several) > 1 else ""
            likes = f"{text.specs[line.paragraph].spacing.most:.0%}".replace("%", "\u00a0%")
            what = (
                f"has a line, “{words} …”, with spaces of {worst.wide * 100:.0f}\u00a0%, where its "
                f"style likes up to {likes}{more}"
            )
        yield fault(kind, what, (worst.wide, float(len(several))))


def noun(placed: Placed) -> str:
    """What an item without a name is called."""
    kinds = {type(p) for p in placed.drawing.primitives}
    if TextPrimitive in kinds:
        return "text frame"
    if kinds & {PicturePrimitive, Placeholder}:
        return "picture frame"
    return "line" if placed.drawing.height == 0 else "shape"


def _named(character: str) -> str:
    """“☕” (U+2615); the number alone for one that nothing could show."""
    seen = unicodedata.category(character) not in ("Co", "Cn", "Cc", "Cf")
    number = f"U+{ord(character):04X}"
    return f"“{character}” ({number})" if seen else number


def _is_ascii(text: SetText) -> bool:
    """Whether a text needs no look at its glyphs: every font here has these characters."""
    drops = (spec.dress.drop for spec in text.specs if spec.dress.drop is not None)
    return all(span.text.isascii() for spec in text.specs for span in spec.spans) and all(
        drop.span.text.isascii() for drop in drops
    )


@remembered()
def _lacking(text: SetText) -> str:
    """The characters of a set text that no font has."""
    lacking: dict[str, None] = {}
    for line in text.lines:
        for run in line.runs:
            if run.span.text.isascii():
                continue
            for word in run.words:
                shaped = word.shaped
                if shaped.missing:
                    for glyph, at in zip(shaped.glyphs, shaped.clusters, strict=True):
                        if not glyph:
                            lacking[shaped.text[at]] = None
    return "".join(lacking)


def _of_picture(primitive: PicturePrimitive, limits: Limits, fault) -> Iterator[Fault]:  # type: ignore[no-untyped-def]
    picture = next((p for p in limits.pictures if p.hash == primitive.hash), None)
    if picture is None or primitive.hash in limits.missing:
        what = "shows a picture whose file is missing; it prints nothing"
        yield fault("missing picture", what, primitive.hash)
        return
    for digest, why in limits.troubled:
        if digest == primitive.hash:
            what = f"shows “{picture.name or 'a picture'}”, which {why}; place it again"
            yield fault("unreadable picture", what, primitive.hash)
            return
    _, _, w, h = primitive.rect
    if picture.kind == "svg" or w <= 0 or h <= 0:
        return
    ppi = min(picture.width * 72 / w, picture.height * 72 / h)
    least = limits.least_line_ppi if picture.bilevel else limits.least_ppi
    if ppi < least - 0.5:
        what = f"shows {ppi:.0f} pixels to an inch; {least:g} are wanted"
        yield fault("low resolution", what, (ppi / least,))


def _prints_nothing(placed: Placed) -> bool:
    """Whether an item has no text, no picture, no colour and no line."""
    if placed.drawing.told:  # a frame that waits for its story
        return False
    for primitive in placed.drawing.primitives:
        if isinstance(primitive, PathPrimitive | PicturePrimitive):
            return False
        if isinstance(primitive, TextPrimitive) and any(
            paragraph.spans for paragraph in primitive.text.specs
        ):
            return False
    return True


def seen_bounds(placed: Placed) -> Bounds:
    """The box around what is seen of an item, without its line's width."""
    w, h = placed.drawing.width, placed.drawing.height
    points: list[tuple[float, float]] = [(0, 0), (w, 0), (w, h), (0, h)]
    outlines = [p for p in placed.drawing.primitives if isinstance(p, PathPrimitive)]
    if outlines:
        points = list(_along(outlines[0].commands))
    seen = [placed.matrix.apply(x, y) for x, y in points]
    xs, ys = [p[0] for p in seen], [p[1] for p in seen]
    return Bounds(min(xs), min(ys), max(xs), max(ys))


def _along(commands: tuple[tuple, ...]) -> Iterator[tuple[float, float]]:
    """Points of a path, close together where it is curved."""
    here = (0.0, 0.0)
    for name, *at in commands:
        if name == "C":
            (x0, y0), (x1, y1, x2, y2, x3, y3) = here, at
            for n in range(1, 17):
                t, u = n / 16, 1 - n / 16
                a, b, c, d = u**3, 3 * u * u * t, 3 * u * t * t, t**3
                yield a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3
        elif name != "Z":
            yield at[0], at[1]
        if name != "Z":
            here = (at[-2], at[-1])


def _of_edges(scene: Scene, placed: Placed, facing: bool, fault) -> Iterator[Fault]:  # type: ignore[no-untyped-def]
    left, top, right, bottom = seen_bounds(placed)
    bleed = scene.bleed
    if (
        right <= -bleed or bottom <= -bleed
        or left >= scene.width + bleed or top >= scene.height + bleed
    ):  # fmt: skip
        yield fault("off the page", "lies wholly off the page and is not printed")
        return
    spine = None if not facing else ("left" if scene.side == "recto" else "right")
    beyond = {"left": -left, "right": right - scene.width}.get(spine or "", 0.0)
    if beyond > bleed + _NEAR and not scene.faced:
        yield fault(
            "cut at the spine", "reaches over the spine, where no page faces it; what lies beyond "
            "is not printed",
        )  # fmt: skip
    kinds = {type(p) for p in placed.drawing.primitives}
    alone = PicturePrimitive in kinds and TextPrimitive not in kinds
    inked = PathPrimitive in kinds or alone
    if not bleed or not inked:
        return
    past = {
        "left": -left, "top": -top, "right": right - scene.width, "bottom": bottom - scene.height,
    }  # fmt: skip
    short = [s for s, by in past.items() if s != spine and -_NEAR <= by < bleed - _NEAR]
    if short:
        sides = " and ".join(short)
        yield fault(
            "short of the bleed",
            f"ends at the trim's edge ({sides}) without reaching into the bleed; a sliver of "
            "paper may show",
            tuple(past[s] if s in short else -1e9 for s in past),
        )
