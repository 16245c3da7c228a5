"""New, save, open, export and the questions asked on the way."""

from __future__ import annotations

import pypdf
import pytest
from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QFileDialog, QMessageBox, QProgressDialog

from hidden_frame.checks.finding import Finding, KnownFindings
from hidden_frame.desktop.dialogs.new import NewDialog
from hidden_frame.desktop.dialogs.order import AddDialog, SectionDialog
from hidden_frame.desktop.dialogs.pages import ApplyDialog, DeleteMasterDialog, RangeDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.edit.about import set_title
from hidden_frame.model.lookup import all_pages, section_of, stack_of
from hidden_frame.output.pdf import ExportReport


@pytest.fixture
def chosen(monkeypatch, tmp_path):
    """The file dialogs answer with a path."""
    path = tmp_path / "almanac.hframe"
    for name in ("getSaveFileName", "getOpenFileName"):
        monkeypatch.setattr(QFileDialog, name, lambda *_: (str(path), ""))
    return path


def test_saved_closed_and_opened_it_is_identical(hands, chosen):
    hands.do("add page")
    saved = hands.publication
    assert hands.window.isWindowModified()
    hands.do("save")
    assert not hands.window.isWindowModified() and "Saved" in hands.notices[-1]
    hands.do("demo")
    assert len(all_pages(hands.publication)) == 32
    hands.do("open")
    assert hands.publication == saved and hands.session.path == chosen
    assert not hands.session.history.past


def test_a_damaged_file_leaves_what_is_open(hands, chosen):
    chosen.write_bytes(b"PK nonsense")
    before = hands.publication
    hands.do("open")
    assert hands.publication is before and "damaged" in hands.notices[-1]
    assert hands.window.notice.isVisible()


def test_unsaved_changes_are_asked_for(hands, monkeypatch):
    hands.session.show_page(hands.page(9))
    hands.do("add page")
    before = hands.publication
    answers = [QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Discard]
    monkeypatch.setattr(QMessageBox, "exec", lambda _: answers.pop(0))
    hands.do("demo")
    assert hands.publication is before
    hands.do("demo")
    assert len(all_pages(hands.publication)) == 32


def test_export(hands, tmp_path):
    path = tmp_path / "out.pdf"
    hands.window.files.export_to(path)
    folios = [f.folio for f in hands.session.composition.facts.values()]
    assert pypdf.PdfReader(path).page_labels == folios
    hands.window.files.export_to(tmp_path / "nowhere" / "out.pdf")
    assert "could not be written" in hands.notices[-1]


def test_new_publication(hands, qtbot):
    dialog = NewDialog()
    qtbot.addWidget(dialog)
    dialog.trim.committed.emit("A4")
    dialog.units.committed.emit("in")
    assert dialog.width_field.text() == "8.2677 in"
    dialog.pages.setText("20000")
    dialog.box.accepted.emit()
    assert "5000" in dialog.form.problem.text() and dialog.publication is None
    dialog.pages.setText("12")
    dialog.bleed.setText("oops")
    dialog.box.accepted.emit()
    assert "oops" in dialog.form.problem.text()
    dialog.bleed.setText("0.125")
    dialog.width_field.setText("0")
    dialog.box.accepted.emit()
    assert "too small" in dialog.form.problem.text()
    dialog.width_field.setText("7in")
    dialog.opening.setCurrentIndex(1)
    dialog.box.accepted.emit()
    made = dialog.publication
    assert len(all_pages(made)) == 12 and made.setup.opening == "verso"
    assert (made.setup.trim.width, made.setup.bleed) == (504, 9)


def test_apply_masters_to_a_typed_range_with_its_echo(hands, qtbot):
    dialog = ApplyDialog(hands.session)
    qtbot.addWidget(dialog)
    dialog.range.setText("3, 7 and 9")
    assert "7 and 9" in dialog.form.problem.text() and not dialog.echo.text()
    before = hands.publication
    dialog.box.accepted.emit()
    assert hands.publication is before and dialog.form.problem.text()
    dialog.range.setText("3, 7-9, #32")
    assert dialog.echo.text().endswith("5 pages, 1 of them set by hand")
    dialog.master.setCurrentIndex([n for n, _ in dialog._options].index("Notes"))
    dialog.box.accepted.emit()
    notes = (hands.master("Notes"),)
    pages = all_pages(hands.publication)
    assert [stack_of(hands.publication, pages[n - 1]) for n in (9, 13, 14, 15, 32)] == [notes] * 5


def test_start_a_section(hands, qtbot):
    hands.session.show_page(hands.page(9))
    dialog = SectionDialog(hands.session, hands.page(9))
    qtbot.addWidget(dialog)
    dialog.name.setText("March")
    dialog.start.setText("one")
    dialog.box.accepted.emit()
    assert "whole number" in dialog.form.problem.text()
    dialog.start.setText("1")
    dialog.style_field.setCurrentIndex(1)
    dialog.box.accepted.emit()
    assert section_of(hands.publication, hands.page(9)).name == "March"
    assert hands.session.composition.facts[hands.page(10)].folio == "ii"
    hands.do("join section")
    assert section_of(hands.publication, hands.page(9)).name == "Spring"


def test_add_pages_that_follow_a_master(hands, qtbot):
    hands.session.show_page(hands.page(31))
    dialog = AddDialog(hands.session, hands.page(31))
    qtbot.addWidget(dialog)
    dialog.count.setText("9999")
    dialog.box.accepted.emit()
    assert "from 1 to 5000" in dialog.form.problem.text()
    dialog.count.setText("4")
    dialog.box.accepted.emit()
    assert len(all_pages(hands.publication)) == 36


def test_deleting_a_master_asks_what_to_follow_instead(hands, qtbot):
    dialog = DeleteMasterDialog(hands.session, hands.master("Notes"))
    qtbot.addWidget(dialog)
    dialog.instead.setCurrentIndex([n for n, _ in dialog._options].index("Text"))
    dialog.box.accepted.emit()
    assert all(m.name != "Notes" for m in hands.publication.masters)
    page = all_pages(hands.publication)[27]
    assert stack_of(hands.publication, page) == (hands.master("Text"),)
    hands.do("undo")
    assert stack_of(hands.publication, page) == (hands.master("Notes"),)


def test_a_paragraph_style_is_changed_everywhere_it_is_used(hands, qtbot):
    dialog = StyleDialog(hands.session, "table-row")
    qtbot.addWidget(dialog)
    dialog.lengths["size"].setText("12")
    dialog.lengths["leading"].setText("nothing")
    before = hands.publication
    dialog.box.accepted.emit()
    assert hands.publication is before and "nothing" in dialog.form.problem.text()
    dialog.lengths["leading"].setText("0")
    dialog.box.accepted.emit()
    assert hands.publication is before and "at least" in dialog.form.problem.text()
    dialog.lengths["leading"].setText("20")
    dialog.bold.setChecked(True)
    dialog.family.setCurrentIndex(dialog.family.findText("Spectral"))
    dialog.box.accepted.emit()
    for position in (9, 14):
        scene = hands.session.composition.scene(hands.page(position))
        table = [
            run.setting
            for placed in scene.placed
            if (block := placed.drawing.text) is not None
            for line in block.text.lines
            for run in line.runs
            if block.text.specs[line.paragraph].style_name == "Table row"
        ]
        assert table and all((s.face.name, s.size) == ("Spectral Bold", 12) for s in table)


def test_a_new_style_is_made_like_another(hands, qtbot):
    dialog = StyleDialog(hands.session, "body")
    qtbot.addWidget(dialog)
    dialog.new.click()
    assert dialog.name.text() == "Body 2"
    dialog.name.setText("Heading")
    dialog.box.accepted.emit()
    assert "not in use" in dialog.form.problem.text()
    dialog.name.setText("Caption")
    dialog.box.accepted.emit()
    assert hands.publication.paragraph_styles[-1].name == "Caption"


def test_every_command_has_a_name_and_no_two_keys_clash(hands):
    actions = hands.window.commands.actions.values()
    assert all(a.text() for a in actions)
    keys = [a.shortcut().toString() for a in actions if not a.shortcut().isEmpty()]
    assert len(keys) == len(set(keys))


def test_the_bleed_of_the_file_is_chosen_and_told(hands, qtbot, tmp_path):
    import pypdf

    dialog = RangeDialog(hands.session)
    qtbot.addWidget(dialog)
    assert dialog.bleed_field.text() == "3 mm"
    dialog.bleed_field.setText("5mm")
    assert "laid out for 3 mm" in dialog.around.text()
    dialog.bleed_field.setText("lots")
    assert "lots" in dialog.form.problem.text()
    dialog.box.accepted.emit()
    assert dialog.result() == 0 and "lots" in dialog.form.problem.text()
    dialog.bleed_field.setText("5mm")
    dialog.range.setText("#3")
    dialog.box.accepted.emit()
    hands.window.files.export_to(tmp_path / "a.pdf", dialog.pages, dialog.bleed)
    page = pypdf.PdfReader(tmp_path / "a.pdf").pages[0]
    assert float(page.trimbox.left) == pytest.approx(5 * 72 / 25.4, abs=0.01)


def test_an_export_does_not_wait_for_the_checks(hands, qtbot):
    """Thousands of pages take them a minute; what they find is told as soon as it is known."""
    known, asked = [KnownFindings((), False)], []
    dialog = RangeDialog(hands.session, None, lambda seconds: asked.append(seconds) or known[0])
    qtbot.addWidget(dialog)
    assert "still running" in dialog.doubtful.text() and asked[0] <= 0.5
    page = hands.page(3)
    known[0] = KnownFindings([Finding("text does not fit", "A text.", page, (page,))], True)
    qtbot.waitUntil(lambda: "Checks on these pages: 1" in dialog.doubtful.text(), timeout=5000)
    assert set(asked[1:]) == {0.0}
    waits = len(asked)
    qtbot.wait(700)
    assert len(asked) == waits


def test_the_watch_stops_in_time_and_goes_on_by_itself(hands, qtbot):
    watch = hands.window.checks.watch
    hands.session.changed.emit()
    assert not watch.finish(0.0) and not watch.done
    hands.window.status.tell_checks(0, False)
    assert hands.window.status.checks.text() == "No problems found so far"
    qtbot.waitUntil(lambda: watch.done, timeout=20_000)
    assert watch.finish(0.0)


def test_progress_is_shown_now_and_then_and_nothing_else_takes_its_time(
    hands, tmp_path, monkeypatch
):
    shown, rested = [], []
    monkeypatch.setattr(QProgressDialog, "setValue", lambda _, value: shown.append(value))

    def many(composition, blobs, path, pages, progress, bleed):
        for done in range(2_001):
            assert progress(done, 2_000)
            rested.append(hands.session.rests)
        return ExportReport()

    monkeypatch.setattr("hidden_frame.output.pdf.export_pdf", many)
    hands.window.files.export_to(tmp_path / "a.pdf")
    assert shown[0] == 0 and shown[-1] == 2_000 and len(shown) < 200
    assert not any(rested)


@pytest.mark.parametrize("wanted", [False, True])
def test_an_answered_export_asks_no_more_what_is_doubtful(hands, chosen, monkeypatch, qapp, wanted):
    monkeypatch.setattr(RangeDialog, "exec", lambda _: wanted)
    monkeypatch.setattr(hands.window.files, "export_to", lambda *_: None)
    hands.window.files.found = lambda seconds: KnownFindings((), False)
    hands.do("export")
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    assert hands.window.findChildren(RangeDialog) == []


def test_another_name_of_the_file_is_told_and_strays_are_swept(hands, tmp_path):
    import os

    from hidden_frame.storage import files as on_disk

    path, second = tmp_path / "a.hframe", tmp_path / "b.hframe"
    hands.window.files.saver.begin(path)
    hands.window.files.saver.finish()
    assert "other name" not in hands.notices[-1]
    os.link(path, second)
    kept = second.read_bytes()
    hands.session.edit("title", lambda p: set_title(p, "Tides"))
    hands.window.files.saver.begin(path)
    hands.window.files.saver.finish()
    assert "one other name on the disk, which keeps the work as it was" in hands.notices[-1]
    assert second.read_bytes() == kept and path.read_bytes() != kept
    stray = tmp_path / f".hframe-{on_disk._HOST}-999999999-x.part"
    stray.write_bytes(b"half")
    hands.window.files.open_path(path)
    assert not stray.exists()
