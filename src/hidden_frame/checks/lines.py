"""What a typographer would mend about the lines of a text."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.checks.fault import Fault, PrintedItem
from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.model.number_format import decimal
from hidden_frame.typeset.judged import LineFault, line_faults
from hidden_frame.typeset.text import SetText

# Goes on after “Page 3: a text frame”.
_SAID = {
    "loose line": "",  # says which line, and by how much
    "tight line": "has lines whose spaces are narrower than their style allows",
    "hyphen ladder": "has more consecutive hyphens than its style allows",
    "short last line": "has a paragraph that ends with a line shorter than an indent",
    "same word": "has three lines in a row that begin with the same word",
    "river": "has a river: a gap that runs through four lines",
    "widow": "starts with fewer lines of a paragraph than its style asks for",
    "orphan": "ends with fewer lines of a paragraph than its style asks for",
    "looser": "",  # counted
}
_WORDS = 3  # with which a line is named


def line_findings(look: PrintedItem) -> Iterator[Fault]:
    """The faults of its lines, if the publication wants lines to be judged."""
    told = look.limits.judges_lines == "in stories" and look.placed.drawing.told
    if not (told or look.limits.judges_lines == "everywhere") or look.scene.is_master:
        return
    for primitive in look.placed.drawing.primitives:
        if isinstance(primitive, TextPrimitive):
            yield from _of_text(primitive.text, look)


def _of_text(text: SetText, look: PrintedItem) -> Iterator[Fault]:
    """What is to mend about a text's lines: the loosest by its words and by how much, others by
    their kind; those that are bearable are counted."""
    found: dict[str, list[LineFault]] = {}
    for each in line_faults(text):
        found.setdefault(each.kind, []).append(each)
    for kind, several in found.items():
        worst = max(several, key=lambda f: f.wide)
        what = _SAID[kind]
        if kind == "loose line":
            line = text.lines[worst.line]
            words = " ".join(line.text.split()[:_WORDS])
            more = f"; {len(several) - 1} more are as loose" if len(several) > 1 else ""
            likes = f"{text.specs[line.paragraph].spacing.most:.0%}".replace("%", "\u00a0%")
            what = (
                f"has a line, “{words} …”, with spaces of {decimal(worst.wide * 100, 0)}\u00a0%, "
                f"where its style prefers at most {likes}{more}"
            )
        yield look.fault(kind, what, (worst.wide, float(len(several))))
