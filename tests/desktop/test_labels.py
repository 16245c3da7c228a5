"""Two labels for two things: within one group of a form, no label stands twice."""

from __future__ import annotations

from collections import Counter

from PySide6.QtWidgets import QDialog, QLabel, QWidget

from hidden_frame.desktop.fields.form import Form
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages


def twice(form: Form) -> list[str]:
    """Labels of rows that stand more than once in a form, level by level."""
    labels = [label for label in form.findChildren(QLabel) if label.buddy() is not None]
    seen = [(label.parentWidget(), label.text()) for label in labels if label.text()]
    return [name for (_, name), count in Counter(seen).items() if count > 1]


def test_no_label_stands_twice_in_properties(hands):
    page = hands.page(4)
    hands.session.show_page(page)
    assert not twice(hands.window.properties.form)
    face = next(f for f in hands.session.faces() if f.holder_id == page)
    for held in all_pages(hands.publication)[3].items:
        hands.session.select_items(face, (held.id,))
        assert not set(twice(hands.window.properties.form)) - {"Tint"}  # of fill and of stroke


def test_no_label_stands_twice_in_a_dialog(hands, monkeypatch):
    opened: list[QDialog] = []
    for way in ("exec", "open", "show"):
        monkeypatch.setattr(QDialog, way, lambda d, *_: opened.append(d) or 0)
    page = hands.page(4)
    hands.session.show_page(page)
    item = next(i for i in all_pages(hands.publication)[3].items if isinstance(i, TextFrame))
    face = next(f for f in hands.session.faces() if f.holder_id == page)
    hands.session.select_items(face, (item.id,))
    commands = ("new", "about", "settings", "styles", "character styles", "folios", "apply",
                "add pages", "fill up", "move pages", "start section", "new master",
                "master rules", "repeat", "guide fields", "spreads", "new colour")  # fmt: skip
    for command in commands:
        hands.window.commands[command].trigger()
    assert len(opened) >= len(commands)
    for dialog in opened:
        for form in dialog.findChildren(Form):
            again = set(twice(form)) - {"Weight", "away"}  # of the rule whose row stands above
            assert not again, (dialog.windowTitle(), twice(form))
        QWidget.close(dialog)
