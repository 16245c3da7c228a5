"""The fields of a paragraph style beyond its letters: how lines are broken, what stays together,
initials, rules and numbers."""

from __future__ import annotations

from typing import Any, get_args

from PySide6.QtWidgets import QCheckBox, QToolButton

from hidden_frame.desktop.dialogs.styles.parts import (
    StylePart,
    chosen_part,
    ticked_part,
    typed_part,
)
from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField, TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.model.numbering import ListNumber, NumberingStyle
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import ComputedStyle, Rule
from hidden_frame.model.valid import limits

_READS = (("as its first letter does", "as its letters"), ("from the left", "left to right"),
          ("from the right", "right to left"))  # fmt: skip
_BREAKING = (("over the whole paragraph", "paragraph"), ("line by line", "line"))
_STARTS = (
    ("anywhere", "anywhere"), ("in the next frame", "frame"), ("on the next page", "page"),
    ("on a right page", "right page"), ("on a left page", "left page"),
)  # fmt: skip
_ENDS = (("allowed", "anywhere"), ("not where one turns the leaf", "not at rectos"),
         ("on no page", "not at pages"))  # fmt: skip
_RULES = (("none", None), ("as wide as the column", "column"), ("as wide as its text", "text"))


def line_parts(form: Form) -> list[StylePart]:
    """How lines are broken, and how wide their spaces may be."""
    form.heading("LINES")
    breaking, reads = Choice("Lines are chosen"), Choice("Reading direction")
    made = [
        chosen_part("breaking", breaking, lambda v: breaking.show_choice(_BREAKING, v),
                    form.row("Chosen", breaking)),
        _ticked(form, "Balanced", "balanced",
                "Lines of a ragged paragraph are made about equally long, as in headings"),
        _share(form, "Spaces from", "word_space_least", "Word spaces may be as narrow as this"),
        _share(form, "to", "word_space_most", "Wider than this they look loose", True),
        _typed(form, "Letter spaces", "letter_space", "/1000 em",
               "How far letters may be spaced in a line that would be loose; 0: not at all"),
        _typed(form, "Glyphs", "glyph_scale", "%",
               "How much wider or narrower letters may get where nothing else helps; 0: not at "
               "all"),
        _ticked(form, "Hanging punctuation", "hanging_punctuation",
                "Quotes, full stops and hyphens hang slightly outside the column"),
        chosen_part("reads", reads, lambda v: reads.show_choice(_READS, v),
                    form.row("Reading direction", reads)),
        _ticked(form, "On the baseline grid", "on_grid", "Lines sit on the page’s baseline grid"),
    ]  # fmt: skip
    form.heading("HYPHENATION")
    ends = Choice("At page ends")
    return [
        *made,
        _ticked(form, "Hyphenate", "hyphenate", "By the rules of the text’s language"),
        _whole(form, "Consecutive hyphens", "hyphens_in_a_row",
               "At most this many lines in a row end with a hyphen"),
        _whole(form, "Shortest word", "hyphen_word",
               "Shorter words (in letters) are not hyphenated", True),
        _whole(form, "Letters before", "hyphen_before", "Fewest letters before a hyphen"),
        _whole(form, "after", "hyphen_after", "Fewest letters on the next line", True),
        chosen_part("hyphen_ends", ends, lambda v: ends.show_choice(_ENDS, v),
                    form.row("At page ends", ends)),
    ]  # fmt: skip


def keep_parts(form: Form) -> list[StylePart]:
    """What stays together, and where a paragraph starts."""
    form.heading("KEEP TOGETHER")
    starts = Choice("Starts")
    return [
        _ticked(form, "With the next paragraph", "keep_next", "On the same page as it"),
        _ticked(form, "All its lines together", "keep_together", "It is not split across pages"),
        _whole(form, "Lines at foot, at least", "least_foot",
               "Fewest lines of a paragraph at the foot of a frame"),
        _whole(form, "at head", "least_head",
               "Fewest lines of a paragraph at the top of the next", True),
        chosen_part("starts", starts, lambda v: starts.show_choice(_STARTS, v),
                    form.row("Starts", starts)),
        _whole(form, "Level", "level",
               "Heading level, 1 the highest; 0: as in the contents lists. Running heads of "
               "lower levels end there"),
    ]  # fmt: skip


def ornament_parts(form: Form) -> list[StylePart]:
    """Initials, and rules above and below."""
    form.heading("DROP CAPS")
    made = [
        _whole(form, "Lines", "drop_lines", "Height in lines; 0: none"),
        _whole(form, "letters", "drop_letters", "How many letters", True),
    ]
    form.heading("RULES")
    return [*made, _rule(form, "Above", "rule_above"), _rule(form, "Below", "rule_below")]


def number_parts(form: Form, publication: Publication) -> list[StylePart]:
    """What stands before each paragraph of the style."""
    form.heading("NUMBER OR BULLET")
    said = TextField("What stands before the paragraph")
    said.setPlaceholderText("nothing")
    said.setToolTip(
        "A bullet, or text in which {1} is the number of level 1, {2} that of level 2: “{1}.”, "
        "“Chapter {1}”, “{1}.{2}”"
    )
    follow = form.row("Bullet, number", said)
    numerals, style = Choice("Numerals"), Choice("The number’s character style")
    form.row("Numerals", numerals)
    form.row("In style", style)
    level = NumberField("List level", "", 1, 9)
    start = NumberField("First number", "", 1, 1_000_000)
    form.row("List level", level)
    form.row("from", start, beside=True)
    name = TextField("Counts with")
    name.setPlaceholderText("all that name no list")
    name.setToolTip("Styles with the same list name are numbered together, each on its level")
    form.row("List", name)
    again = QCheckBox("Restarts after each higher level")
    form.row("", again)
    across = QCheckBox("Continues from story to story")
    form.row("", across)
    above = QCheckBox("On a line of its own, above the text")
    form.row("", above)
    looks: list[tuple[str, object]] = [("as its paragraph", None)]
    looks += [(s.name, s.id) for s in publication.character_styles]

    def show(number: ListNumber | None) -> None:
        shown = number or ListNumber()
        said.show_text("" if number is None else number.form)
        numerals.show_choice([(n, n) for n in get_args(NumberingStyle)], shown.numerals)
        style.show_choice(looks, shown.style)
        level.show_value(shown.level)
        start.show_value(shown.start)
        name.show_text(shown.list)
        again.setChecked(shown.restarts)
        across.setChecked(shown.across)
        above.setChecked(shown.above)

    def read() -> ListNumber | None:
        form_of = said.text()  # a space at its end parts it from the title
        if not form_of.strip():
            return None
        return ListNumber(
            form=form_of,
            level=_count(level),
            list=name.text().strip(),
            numerals=numerals.value(),  # type: ignore[arg-type]
            start=_count(start),
            restarts=again.isChecked(),
            across=across.isChecked(),
            above=above.isChecked(),
            style=style.value(),  # type: ignore[arg-type]
        )

    return [StylePart("number", said, show, read, follow)]


def _rule(form: Form, label: str, name: str) -> StylePart:
    kind = Choice(f"Rule {label.lower()}")
    follow = form.row(f"Rule {label.lower()}", kind)
    weight, offset = (
        LengthField(f"Weight {label}", "pt", 0.05, 100.0),
        LengthField(f"Distance {label}", "pt", -200.0, 200.0),
    )
    weight.setToolTip("Thickness")
    offset.setToolTip("From the line it is next to")
    form.row("Weight", weight)
    form.row("away", offset, beside=True)

    def reveal() -> None:
        for field in (weight, offset):
            form.show_row(field, kind.value() is not None)

    kind.currentIndexChanged.connect(reveal)

    def show(rule: Rule | None) -> None:
        shown = rule or Rule()
        kind.show_choice(_RULES, None if rule is None else rule.width)
        weight.show_value(shown.weight)
        offset.show_value(shown.offset)
        reveal()

    def read() -> Rule | None:
        width: Any = kind.value()
        if width is None:
            return None
        return Rule(weight.parse(weight.text()), offset.parse(offset.text()), width)

    return StylePart(name, kind, show, read, follow)


def _count(field: NumberField) -> int:
    """A whole number; raises `Refusal` for any other."""
    value = field.parse(field.text())
    if value != int(value):
        raise field.refusal(f"{field.accessibleName()} is a whole number, without a fraction.")
    return int(value)


def _whole(form: Form, label: str, name: str, hint: str, beside: bool = False) -> StylePart:
    low, high = limits(ComputedStyle, name)
    field = NumberField(label, "", low or 0, high or 0)
    field.setToolTip(hint)
    follow = form.row(label, field, beside=beside)
    return StylePart(name, field, field.show_value, lambda: _count(field), follow)


def _typed(form: Form, label: str, name: str, sign: str, hint: str) -> StylePart:
    low, high = limits(ComputedStyle, name)
    field = NumberField(label, sign, low or 0, high or 0)
    field.setToolTip(hint)
    return typed_part(name, field, form.row(label, field))


def _share(form: Form, label: str, name: str, hint: str, beside: bool = False) -> StylePart:
    low, high = limits(ComputedStyle, name)
    field = NumberField(label, "%", 100 * (low or 0), 100 * (high or 0), 100.0)
    field.setToolTip(hint)
    return typed_part(name, field, form.row(label, field, beside=beside))


def _ticked(form: Form, label: str, name: str, hint: str) -> StylePart:
    box = QCheckBox(label)
    box.setToolTip(hint)
    follow: QToolButton = form.row("", box)
    return ticked_part(name, box, follow)
