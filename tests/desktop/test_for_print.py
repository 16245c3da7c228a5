"""Through the window: what the PDF says, languages, tab stops, missing fonts, checks, export."""

from __future__ import annotations

import io

import pypdf
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QPushButton

from hidden_frame.desktop.dialogs.about import AboutDialog
from hidden_frame.desktop.dialogs.fonts import ReplaceFontDialog
from hidden_frame.desktop.dialogs.pages import RangeDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.desktop.files.arrivals import missing_fonts
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, paragraph_style
from hidden_frame.model.text import Paragraph, Run, TabStop
from hidden_frame.storage.format import load, save
from hidden_frame.storage.stamps import stamp_of


def typed(field, text):
    field.selectAll()
    QTest.keyClicks(field, text)


def pressed(dialog, text):
    button = next(b for b in dialog.findChildren(QPushButton) if b.text() == text)
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def chosen(field, value):
    """A value picked in a list, as by hand."""
    number = field._values.index(value)
    field.setCurrentIndex(number)
    field.activated.emit(number)


def test_what_the_publication_says_of_itself_goes_into_its_pdf(hands, qtbot, tmp_path):
    dialog = AboutDialog(hands.session, hands.window)
    dialog.show()
    typed(dialog.name, "Winter Skies")
    typed(dialog.texts["author"], "A. Invented")
    chosen(dialog.language, "de_DE" if "de_DE" in dialog.language._values else "de")
    pressed(dialog, "Change")
    assert hands.publication.title == "Winter Skies"
    assert hands.publication.about.author == "A. Invented"
    hands.window.files.export_to(tmp_path / "a.pdf")
    reader = pypdf.PdfReader(io.BytesIO((tmp_path / "a.pdf").read_bytes()))
    assert reader.metadata.title == "Winter Skies" and reader.metadata.author == "A. Invented"
    assert reader.trailer["/Root"]["/Lang"].startswith("de")
    hands.do("undo")
    assert hands.publication.title == "Night Sky Almanac"


def test_a_style_gets_indents_tab_stops_and_a_language(hands):
    dialog = StyleDialog(hands.session, "contents", hands.window)
    dialog.show()
    typed(dialog.lengths["indent_left"], "12 pt")
    pressed(dialog, "Add a tab stop")
    row = dialog.tabs.rows[-1]
    typed(row.position, "80 pt")
    chosen(row.align, "left")
    chosen(row.leader, "_")
    chosen(dialog.language, "fr")
    pressed(dialog, "Change")
    style = paragraph_style(hands.publication, "contents")
    assert style.indent_left == 12 and style.language == "fr"
    assert style.tabs == (TabStop(80.0, "left", "_"), TabStop(None, "right", " ."))
    dialog = StyleDialog(hands.session, "contents", hands.window)
    assert [r.position.text() for r in dialog.tabs.rows] == ["80 pt", ""]
    dialog.show()
    QTest.mouseClick(dialog.tabs.rows[0].gone, Qt.MouseButton.LeftButton)
    pressed(dialog, "Change")
    assert paragraph_style(hands.publication, "contents").tabs == (TabStop(None, "right", " ."),)


@pytest.mark.parametrize(("name", "text"), [("size", "3000"), ("size", "0"), ("leading", "-4")])
def test_a_style_beyond_the_models_limits_is_refused_in_its_dialog(hands, name, text):
    before = hands.publication
    dialog = StyleDialog(hands.session, "body", hands.window)
    dialog.show()
    typed(dialog.lengths[name], text)
    pressed(dialog, "Change")
    assert hands.publication is before and dialog.isVisible()
    assert "at most" in dialog.form.problem.text() or "at least" in dialog.form.problem.text()
    dialog.reject()


def test_leaders_are_painted_and_printed(hands, tmp_path):
    scene = hands.session.composition.scene(hands.page(4))
    lines = [line for p in scene.placed if p.drawing.text for line in p.drawing.text.text.lines]
    led = [line for line in lines if line.leaders]
    assert len(led) >= 4
    wide = {line.leaders[0].words[0].width for line in led}
    for leader in wide:  # those of one size stand under each other
        alike = [x for x in led if x.leaders[0].words[0].width == leader]
        ends = [x.leaders[0].xs[-1] / leader for x in alike]
        assert all(abs((end - ends[0]) - round(end - ends[0])) < 0.001 for end in ends)
    for line in led:
        assert line.leaders[0].xs[0] > line.runs[0].xs[0]
        assert line.leaders[0].xs[-1] < line.right


@pytest.fixture
def foreign(hands, tmp_path):
    """A file whose body is set in a family that nobody has."""
    body = paragraph_style(hands.publication, "body")
    publication = put_paragraph_style(hands.publication, replace(body, family="Gone Grotesk"))
    save(tmp_path / "foreign.hframe", publication, hands.session.blobs)
    return tmp_path / "foreign.hframe"


def test_a_missing_family_is_told_on_opening_and_replaced_from_checks(
    hands, foreign, qtbot, monkeypatch
):
    assert hands.window.files.open_path(foreign)
    assert any("Gone Grotesk" in n and "Spectral" in n for n in hands.notices)
    # The text keeps its family's name, in the file and in its style.
    assert paragraph_style(hands.publication, "body").family == "Gone Grotesk"
    style = StyleDialog(hands.session, "body", hands.window)
    assert "Gone Grotesk" in style.family.currentText()
    panel = hands.window.checks
    panel.show()
    found = panel.findings_now(float("inf")).found
    number = next(n for n, f in enumerate(found) if f.kind == "missing font")
    row = panel.list.topLevelItem(number)
    opened = []

    def answer(dialog):
        opened.append(dialog)
        chosen(dialog.new, "Alegreya Sans")
        dialog.answer()

    monkeypatch.setattr(ReplaceFontDialog, "exec", answer)
    pressed(panel.list.itemWidget(row, 1), "Choose another…")
    assert opened and paragraph_style(hands.publication, "body").family == "Alegreya Sans"
    assert not any(f.kind == "missing font" for f in panel.findings_now(float("inf")).found)


def test_several_missing_families_are_told_in_one_sentence(hands):
    publication = hands.publication
    for style, family in (("body", "Gone One"), ("lead", "Gone Two")):
        changed = replace(paragraph_style(publication, style), family=family)
        publication = put_paragraph_style(publication, changed)
    (sentence,) = missing_fonts(publication)
    assert "Gone One" in sentence and "Gone Two" in sentence and "2 fonts" in sentence
    assert missing_fonts(hands.publication) == []


def overfull(hands, position=8):
    words = (Paragraph("body", (Run("more words than fit " * 30),)),)
    frame = TextFrame(id="", name="Too small", x=60, y=60, width=60, height=30, text=words)
    hands.session.edit("draw", lambda p: add_item(p, hands.page(position), frame)[0])


def test_a_finding_is_jumped_to_with_its_item_and_mended(hands, qtbot):
    overfull(hands, 20)
    panel = hands.window.checks
    panel.show()
    qtbot.waitUntil(lambda: any("Too small" in f.sentence for f in panel.found), timeout=8000)
    number = next(n for n, f in enumerate(panel.found) if "Too small" in f.sentence)
    row = panel.list.topLevelItem(number)
    panel.list.itemClicked.emit(row, 0)
    assert hands.session.page_id == hands.page(20)
    own = hands.own(20, "Too small")
    assert hands.session.items == (own.id,)
    pressed(panel.list.itemWidget(row, 1), "Let the frame grow")
    assert hands.own(20, "Too small").grows
    assert not any("Too small" in f.sentence for f in panel.findings_now(float("inf")).found)


def test_the_export_says_beforehand_what_is_doubtful_on_its_pages(hands, monkeypatch, tmp_path):
    overfull(hands, 8)
    hands.session.edit("limit", lambda p: change_setup(p, least_ppi=300))
    # On a busy machine the dialog would not wait for them.
    assert hands.window.checks.findings_now(float("inf")).complete
    asked = []

    def look(dialog):
        asked.append(dialog.doubtful.text())
        dialog.range.setText("#8")
        asked.append(dialog.doubtful.text())
        dialog.range.setText("#30")
        asked.append(dialog.doubtful.text())
        dialog._accept()
        return 1

    path = str(tmp_path / "out.pdf")
    monkeypatch.setattr(RangeDialog, "exec", look)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (path, ""))
    hands.do("export")
    assert "1 text that does not fit" in asked[0] and "low resolution" in asked[0]
    assert asked[1].startswith("Checks on these pages: 1 text that does not fit")
    assert "no problems" in asked[2]
    assert len(pypdf.PdfReader(path).pages) == 1


def test_odd_text_typed_into_a_frame_is_exported(hands, tmp_path):
    """A double space, spaces at either end, and a name of a section that has none."""
    page = find_page(hands.publication, hands.page(8))
    frame = next(i for i in page.items if isinstance(i, TextFrame))
    for words in ("  two  spaces  ", " ", "a \u2028 b", "\t x \t", "\u00ad\u200b"):
        text = (Paragraph("body", (Run(words),)),)
        hands.session.edit(
            "type", lambda p, t=text: change_items(p, page.id, {frame.id: {"text": t}})
        )
        hands.window.files.export_to(tmp_path / "a.pdf")
        assert hands.notices[-1] == "Exported “a.pdf”."
        (tmp_path / "a.pdf").unlink()


def test_a_broken_picture_costs_itself_alone_and_is_named(hands, tmp_path):
    digest = next(p.hash for p in hands.publication.pictures if p.kind == "jpg")
    hands.session.blobs[digest] = b"\xff\xd8\xff\xe0 broken"
    hands.window.files.export_to(tmp_path / "a.pdf")
    assert "night-sky.jpg" in hands.notices[-1] and "left out" in hands.notices[-1]
    assert len(pypdf.PdfReader(tmp_path / "a.pdf").pages) == 32
    hands.window.pictures._scaled.clear()
    hands.desk.paper.forget()
    hands.desk.grab()  # the desk shows a placeholder and goes on


def test_saving_what_is_beyond_a_limit_keeps_the_old_file(hands, tmp_path):
    path = tmp_path / "a.hframe"
    save(path, hands.publication, hands.session.blobs)
    hands.session.path, hands.session.stamp = path, stamp_of(path)
    wrong = replace(hands.publication, setup=replace(hands.publication.setup, bleed=9_999.0))
    hands.session.history = replace(hands.session.history, now=wrong)
    assert not hands.window.files.save()
    assert "bleed" in hands.notices[-1]
    assert load(path).publication.setup.bleed < 100
