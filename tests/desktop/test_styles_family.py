"""Styles based on others through the form; character styles; styles deleted."""

from __future__ import annotations

import pytest
from msgspec import UNSET
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.styles.character import CharacterDialog
from hidden_frame.desktop.dialogs.styles.delete import DeleteStyleDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import character_style, paragraph_style
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.styles import Rule, computed_style
from hidden_frame.model.text import Paragraph, Run


@pytest.fixture
def opened(hands, qtbot):
    def open_(kind, style):
        dialog = kind(hands.session, style, hands.window)
        qtbot.addWidget(dialog)
        dialog.show()
        return dialog

    return open_


def click(button):
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def pick(field, label):
    """An entry of a list, chosen by keys."""
    number = field.findText(label)
    assert number >= 0, [field.itemText(n) for n in range(field.count())]
    field.setFocus()
    field.setCurrentIndex(number)
    field.take(number)


def typed(field, text):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)


def part(dialog, name):
    return next(p for p in dialog.parts if p.name == name)


def test_a_change_of_the_base_runs_through_and_is_seen(hands, opened):
    dialog = opened(StyleDialog, "body")
    typed(dialog.lengths["size"], "12")
    shown = hands.session.publication.paragraph_styles
    assert computed_style(shown, "body-next").size == 12
    dialog._choose("body-next")
    assert dialog.lengths["size"].text() == "12 pt"
    assert part(dialog, "size").follow.isHidden()
    assert part(dialog, "indent_first").follow.isVisibleTo(dialog)
    click(dialog.ok)
    now = hands.session.history.now
    assert paragraph_style(now, "body-next").size is UNSET
    assert computed_style(now.paragraph_styles, "body-next").size == 12


def test_what_a_style_says_itself_is_let_go_by_its_button(hands, opened):
    dialog = opened(StyleDialog, "folio-light")
    follow = part(dialog, "colour").follow
    assert follow.isVisibleTo(dialog)
    click(follow)
    assert dialog.colour.value() == "night" and follow.isHidden()
    typed(dialog.lengths["size"], "9")
    assert part(dialog, "size").follow.isVisibleTo(dialog)
    click(dialog.ok)
    style = paragraph_style(hands.session.history.now, "folio-light")
    assert style.colour is UNSET and style.size == 9


def test_basing_a_style_on_another_changes_no_page(hands, opened):
    before = computed_style(hands.publication.paragraph_styles, "lead")
    dialog = opened(StyleDialog, "lead")
    pick(dialog.based_on, "Body")
    style = dialog.changed["lead"]
    assert style.based_on == "body" and style.hyphenate is UNSET
    assert computed_style(hands.session.publication.paragraph_styles, "lead") == before
    pick(dialog.based_on, "no other style")
    assert computed_style(hands.session.publication.paragraph_styles, "lead") == before
    assert dialog.changed == {} and hands.session.draft is None


def test_no_style_is_offered_as_the_base_of_its_own_base(hands, opened):
    dialog = opened(StyleDialog, "body")
    labels = [dialog.based_on.itemText(n) for n in range(dialog.based_on.count())]
    assert "Body" not in labels and "Body, indented" not in labels and "Lead" in labels


def test_a_new_style_based_on_this_one_says_nothing_yet(hands, opened):
    dialog = opened(StyleDialog, "lead")
    click(dialog.new_based)
    assert dialog.name.selectedText() == "Lead 2"
    QTest.keyClicks(dialog.name, "Lead, small")
    typed(dialog.lengths["size"], "11")
    click(dialog.ok)
    style = hands.session.history.now.paragraph_styles[-1]
    assert (style.name, style.based_on, style.size) == ("Lead, small", "lead", 11.0)
    assert style.leading is UNSET


def test_an_unused_style_is_deleted_at_once_and_comes_back_by_undo(hands, opened):
    dialog = opened(StyleDialog, "lead")
    click(dialog.new_based)
    made = dialog.style_id
    click(dialog.delete)
    assert made not in [s.id for s in hands.session.history.now.paragraph_styles]
    assert dialog.style_id == "body"
    dialog.reject()
    hands.window.commands["undo"].trigger()
    assert made in [s.id for s in hands.session.history.now.paragraph_styles]


def test_a_style_in_use_asks_what_takes_its_place(hands, opened, monkeypatch):
    told = []

    def answer(question):
        told.append(question.form.findChildren(type(question.form.problem))[1].text())
        pick(question.instead, "Lead")
        question._accept()
        return 1

    monkeypatch.setattr(DeleteStyleDialog, "exec", answer)
    dialog = opened(StyleDialog, "body")
    click(dialog.delete)
    now = hands.session.history.now
    assert "body" not in [s.id for s in now.paragraph_styles]
    assert "set in it" in told[0]
    assert paragraph_style(now, "body-next").based_on is None
    assert computed_style(now.paragraph_styles, "body-next").size == 10.6


def test_a_character_style_is_made_and_changed_before_ones_eyes(hands, opened):
    dialog = opened(CharacterDialog, "strong")
    assert dialog.size_field.text() == ""
    assert dialog.size_field.placeholderText() == "as the paragraph"
    pick(dialog.italic, "italic")
    assert character_style(hands.session.publication, "strong").italic is True
    assert character_style(hands.session.history.now, "strong").italic is None
    typed(dialog.size_field, "14")
    click(dialog.ok)
    style = character_style(hands.session.history.now, "strong")
    assert (style.italic, style.size, style.bold, style.tracking) == (True, 14.0, True, None)


def test_a_character_style_says_whom_it_follows(hands, opened):
    dialog = opened(CharacterDialog, "key-word")
    assert dialog.bold.currentText() == "as Strong"
    assert dialog.tint.placeholderText() == "as Strong"
    pick(dialog.based_on, "no other style")
    assert dialog.bold.currentText() == "bold" and dialog.colour.currentText() == "Night"
    assert dialog.tint.placeholderText() == "as the paragraph"
    pick(dialog.based_on, "Strong")
    assert dialog.bold.currentText() == "as Strong" and dialog.changed == {}


def test_the_last_character_style_can_go_and_the_form_makes_a_first_one(hands, opened):
    dialog = opened(CharacterDialog, "emphasis")
    for style in list(hands.publication.character_styles):
        dialog.style_id = style.id
        dialog._load()
        hands.session.edit("x", lambda p, i=style.id: dialog.deleted(p, i, None))
    assert hands.session.history.now.character_styles == ()
    fresh = opened(CharacterDialog, None)
    assert fresh.name.text() == "Character style"


def test_both_kinds_of_styles_are_found_by_name_and_by_command(hands, monkeypatch):
    opened_with = []
    for kind in (StyleDialog, CharacterDialog):
        monkeypatch.setattr(
            kind, "exec", lambda self: opened_with.append((type(self), self.style_id))
        )
    hands.window.dialogs.style("key-word")
    hands.window.dialogs.style("lead")
    hands.window.commands["character styles"].trigger()
    assert opened_with == [
        (CharacterDialog, "key-word"), (StyleDialog, "lead"), (CharacterDialog, "emphasis"),
    ]  # fmt: skip


def test_what_was_typed_of_a_style_outlives_the_style_that_it_was_based_on(
    hands, opened, monkeypatch
):
    def answer(question):
        pick(question.instead, "Lead")
        question._accept()
        return 1

    monkeypatch.setattr(DeleteStyleDialog, "exec", answer)
    dialog = opened(StyleDialog, "body-next")
    typed(dialog.lengths["leading"], "19")
    dialog._choose("body")
    click(dialog.delete)
    assert dialog.changed["body-next"].based_on is None
    click(dialog.ok)
    styles = hands.session.history.now.paragraph_styles
    after = computed_style(styles, "body-next")
    assert (after.leading, after.size) == (19.0, 10.6)  # typed, and as the base had it


def block_of(hands, text):
    """The set text on the shown pages in which some words stand."""
    for face in hands.session.faces():
        for placed in hands.session.composition.scene(face.holder_id).placed:
            block = placed.drawing.text
            if block is not None and any(text in line.text for line in block.text.lines):
                return block.text
    return None


@pytest.fixture
def prose(hands):
    """A page with a heading and two paragraphs in the styles of running text."""
    session = hands.session
    page = hands.page(4)
    words = "a considerable observation of the quiet constellation under the autumn night " * 4
    text = (
        Paragraph("lead", (Run("Zenith tables"),)), Paragraph("body", (Run(words.strip()),)),
        Paragraph("body", (Run(words.strip()),)),
    )  # fmt: skip
    frame = TextFrame(id="", x=40, y=40, width=220, height=400, text=text)
    session.show_page(page)
    session.edit("add text", lambda p: add_item(p, page, frame)[0])
    return hands


def test_everything_a_paragraph_style_says_is_kept_and_seen(prose, opened):
    dialog = opened(StyleDialog, "body")
    before = block_of(prose, "Zenith tables")
    for name, value in (("drop_lines", "3"), ("least_foot", "4"), ("hyphens_in_a_row", "1"),
                        ("word_space_most", "140")):  # fmt: skip
        typed(part(dialog, name).field, value)
    pick(part(dialog, "breaking").field, "line by line")
    pick(part(dialog, "rule_below").field, "as wide as the column")
    pick(part(dialog, "starts").field, "on the next page")
    for name in ("keep_together", "hanging_punctuation", "on_grid"):
        box = part(dialog, name).field
        box.setFocus()
        QTest.keyClick(box, Qt.Key.Key_Space)
    now = block_of(prose, "Zenith tables")
    drops = [line for line in now.lines if line.runs and line.runs[0].text == "a"]
    assert len(drops) == 2 and before is not now  # seen while the form is open
    assert drops[0].runs[0].setting.size > 25
    click(dialog.ok)
    style = computed_style(prose.session.history.now.paragraph_styles, "body")
    assert (style.drop_lines, style.least_foot, style.hyphens_in_a_row) == (3, 4, 1)
    assert style.word_space_most == pytest.approx(1.4) and style.breaking == "line"
    assert style.rule_below == Rule() and style.starts == "page"
    assert style.keep_together and style.hanging_punctuation


def test_numbers_of_a_style_count_its_paragraphs(prose, opened):
    dialog = opened(StyleDialog, "body")
    form_of = part(dialog, "number").field
    typed(form_of, "{1})")
    shown = [line.text for line in block_of(prose, "Zenith tables").lines]
    assert any(line.startswith("1) a considerable") for line in shown)
    assert any(line.startswith("2) a considerable") for line in shown)
    click(dialog.ok)
    number = computed_style(prose.session.history.now.paragraph_styles, "body").number
    assert number == ListNumber(form="{1})")
    again = opened(StyleDialog, "body")
    assert part(again, "number").field.text() == "{1})"
    part(again, "number").field.selectAll()
    QTest.keyClick(part(again, "number").field, Qt.Key.Key_Delete)
    click(again.ok)
    assert computed_style(prose.session.history.now.paragraph_styles, "body").number is None


@pytest.mark.parametrize(("name", "value"), [("drop_lines", "2.5"), ("least_foot", "99"),
                                             ("letter_space", "none")])  # fmt: skip
def test_a_wrong_number_in_the_form_is_told_and_nothing_changes(prose, opened, name, value):
    dialog = opened(StyleDialog, "body")
    typed(part(dialog, name).field, value)
    click(dialog.ok)
    assert dialog.isVisible() and dialog.form.problem.text()
    dialog.reject()
    style = computed_style(prose.session.history.now.paragraph_styles, "body")
    assert (style.drop_lines, style.least_foot, style.letter_space) == (0, 1, 0.0)
