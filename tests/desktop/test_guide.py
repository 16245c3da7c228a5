"""The guide says what the program says, and shows what is there."""

from __future__ import annotations

import re
from importlib.metadata import version
from pathlib import Path

import pytest
from PySide6.QtCore import QByteArray, Qt, QUrl
from PySide6.QtGui import QTextDocument
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.guide import LIBRARIES, libraries_in_words
from hidden_frame.desktop.state.topics import topic_of_kind, topics
from hidden_frame.resources import GUIDE

ROOT = Path(__file__).parents[2]
PAGES = [path for _, path in topics()]


def test_there_is_a_page_for_each_job_in_order():
    assert [title for title, _ in topics()] == [
        "Getting started", "Number the pages", "Running heads", "Masters and families",
        "Change one page", "Order and sections", "Export for print", "A book from a manuscript",
        "Book typography", "Heads, contents and index from the text",
    ]  # fmt: skip


@pytest.mark.parametrize("path", PAGES, ids=lambda p: p.stem)
def test_every_command_that_a_page_names_is_there_with_its_key(hands, path):
    commands = hands.window.commands
    actions = {c.title: commands[c.id].shortcut().toString() for c in commands.list}
    text = " ".join(path.read_text("utf-8").split())
    named = re.findall(r"\*\*(.+?)\*\*(?: \(([^)]+)\))?", text)
    assert len(named) >= 3
    for title, key in named:
        assert title in actions, title
        if key:
            assert actions[title] == key, (title, key)


@pytest.mark.parametrize("path", PAGES, ids=lambda p: p.stem)
def test_every_picture_and_step_of_a_page_is_shown(hands, path):
    text = path.read_text("utf-8")
    pictures = re.findall(r"!\[[^]]+\]\(([^)]+)\)", text)
    assert pictures and all((GUIDE / picture).stat().st_size > 10_000 for picture in pictures)
    guide = hands.window.dialogs.guide(text.splitlines()[0].removeprefix("# "))
    shown = guide.text.toPlainText()
    assert all(word in shown for word in re.findall(r"\*\*(.+?)\*\*", " ".join(text.split())))
    for picture in pictures:
        loaded = guide.text.document().resource(
            QTextDocument.ResourceType.ImageResource.value, QUrl(picture)
        )
        assert loaded is not None and not isinstance(loaded, QByteArray)
        assert loaded.width() == 640
    guide.close()


def test_the_guide_is_read_by_keys(hands):
    hands.window.commands["guide"].trigger()
    guide = hands.window.dialogs._guide
    assert guide.isVisible()
    guide.list.setFocus()
    guide.list.setCurrentRow(0)
    QTest.keyClick(guide.list, Qt.Key.Key_Down)
    assert "Folios" in guide.text.toPlainText()
    hands.window.commands["keys"].trigger()
    assert "Ctrl+Shift+F" in guide.text.toPlainText()
    guide.close()


def test_the_repository_shows_the_same_pages():
    assert (ROOT / "docs" / "guide").resolve() == GUIDE
    readme = (ROOT / "README.md").read_text("utf-8")
    assert all(f"docs/guide/{path.name}" in readme for path in PAGES)


def test_versions_and_licences_are_told():
    words = libraries_in_words()
    for package, _, licence in LIBRARIES:
        assert f"{package} {version(package)}" in words and licence in words


def test_find_and_checks_lead_to_the_page_that_tells_of_it(hands, finder_of, qtbot):
    read = []
    finder = finder_of(open_guide=read.append)
    finder.show()
    finder.word.setText("Keep these two pages as a spread")
    assert finder.guide.text() == "Guide: Order and sections"
    QTest.mouseClick(finder.guide, Qt.MouseButton.LeftButton)
    assert read == ["Order and sections"] and not finder.isVisible()
    finder.word.setText("zoom in")
    assert finder.guide.isHidden()

    hands.window.toggle_checks()
    checks = hands.window.checks
    titles = [title for title, _ in topics()]
    for number, finding in enumerate(checks.findings_now(float("inf")).found):
        checks.list.setCurrentItem(checks.list.topLevelItem(number))
        assert checks.guide.text() == f"Guide: {topic_of_kind(finding.kind)}"
        assert topic_of_kind(finding.kind) in titles
    QTest.mouseClick(checks.guide, Qt.MouseButton.LeftButton)
    guide = hands.window.dialogs._guide
    assert guide.isVisible() and f"Guide: {guide.list.currentItem().text()}" == checks.guide.text()
    guide.close()
