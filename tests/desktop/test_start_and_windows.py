"""The start window, several publications at once, the theme, what is remembered, hints."""

from __future__ import annotations

import gc
import weakref
from pathlib import Path

import msgspec
import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QStyle

from hidden_frame.desktop.dialogs.new import NewDialog
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import Preferences, Settings, settings
from hidden_frame.desktop.panels.hints import STEPS
from hidden_frame.desktop.panels.shelf.tabs import NAMES as SHELF
from hidden_frame.desktop.shell.start.window import StartWindow
from hidden_frame.desktop.shell.windows import Windows
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model import sparse
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.memory import MEMORY
from hidden_frame.model.presets import PRESETS
from hidden_frame.storage.format import save


@pytest.fixture
def windows(dressed, preferences, qapp):
    theme.apply(qapp)  # a test before may have left another one
    made = Windows(qapp)
    yield made
    for window in list(made.open_ones):
        window.close()
    if made.start is not None:
        made.start.close()
    settings().changed.disconnect(made._dress)
    made.app.styleHints().colorSchemeChanged.disconnect()
    qapp.processEvents()


@pytest.fixture
def answered(monkeypatch):
    """The New publication dialog is accepted as it comes up."""
    seen = []

    def answer(dialog):
        seen.append(dialog)
        dialog.answer()
        return 1

    monkeypatch.setattr(NewDialog, "exec", answer)
    return seen


@pytest.mark.parametrize("preset", PRESETS, ids=lambda p: p.name)
def test_every_kind_begins_a_publication_that_is_as_it_says(windows, answered, preset):
    start = windows.show_start()
    QTest.mouseClick(start.cards[preset.name], Qt.MouseButton.LeftButton)
    (window,) = windows.open_ones
    publication = window.session.publication
    made, wanted = publication.setup, preset.setup
    for group in ("trim", "margins", "columns"):
        shown, meant = (msgspec.structs.asdict(getattr(x, group)) for x in (made, wanted))
        assert shown == pytest.approx(meant, abs=0.005)
    assert made.bleed == pytest.approx(wanted.bleed, abs=0.005)
    assert (made.facing, made.unit, problems(publication)) == (wanted.facing, wanted.unit, [])
    assert len(all_pages(publication)) == preset.pages
    assert windows.start is None and not start.isVisible()


def test_the_new_dialog_previews_columns_as_one_types(dressed, qtbot):
    dialog = NewDialog()
    qtbot.addWidget(dialog)
    dialog.resize(860, 680)
    dialog.show()
    plain = dialog.preview.grab().toImage()
    dialog.columns.setText("3")
    dressed.processEvents()
    assert dialog.preview.grab().toImage() != plain
    assert dialog.setup().columns.count == 3
    for text in ("0", "many", "41"):
        dialog.columns.setText(text)
        dialog.box.accepted.emit()
        assert "number of columns" in dialog.form.problem.text() and dialog.publication is None


def test_recent_publications_are_listed_with_their_first_page(windows, demo, tmp_path, preferences):
    publication, blobs = demo
    window = windows.open(publication, blobs, None)
    path = tmp_path / "Almanac.hframe"
    window.files._save(path)
    assert preferences.now.recent == (str(path),)
    gone = tmp_path / "gone.hframe"
    preferences.change(recent=(str(path), str(gone)))
    start = windows.show_start()
    rows = [start.recent.item(n).text() for n in range(start.recent.count())]
    assert rows == ["Almanac", "The demo almanac", "A long book"]
    image = start.recent.item(0).icon().pixmap(120, 120).toImage()
    assert QColor(image.pixel(60, 60)).blue() > QColor(image.pixel(60, 60)).red()  # a night sky
    window.close()
    start.recent.itemClicked.emit(start.recent.item(0))
    assert len(windows.open_ones) == 1 and windows.open_ones[0] is not window
    assert windows.open_ones[0].session.publication == publication


def test_a_file_that_can_not_be_opened_is_said_on_the_start_window(
    windows, tmp_path, monkeypatch, qapp
):
    bad = tmp_path / "bad.hframe"
    bad.write_bytes(b"nonsense")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(bad), ""))
    start = windows.show_start()
    start.browse.click()
    assert "bad.hframe" in start.problem.text() and not start.problem.isHidden()
    assert windows.open_ones == []
    qapp.processEvents()
    demo = start.recent.visualItemRect(start.recent.item(0)).center()
    QTest.mouseClick(start.recent.viewport(), Qt.MouseButton.LeftButton, pos=demo)
    assert len(windows.open_ones) == 1


def test_two_publications_in_two_windows(windows, demo, tmp_path, monkeypatch):
    publication, blobs = demo
    first = windows.open(publication, blobs, None)
    ninth = all_pages(publication)[8].id  # behind the tied spread, which would ask first
    first.session.show_page(ninth)
    first.commands["add page"].trigger()
    changed = first.session.publication
    path = tmp_path / "two.hframe"
    save(path, publication, blobs)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    first.commands["open"].trigger()
    assert len(windows.open_ones) == 2
    second = windows.open_ones[1]
    assert first.session.publication is changed
    assert second.session.path == path and second.session.publication == publication
    second.session.show_page(ninth)
    second.commands["add page"].trigger()
    assert len(all_pages(first.session.publication)) == 33
    second.close()
    assert windows.open_ones == [first]


def test_an_untouched_window_is_used_for_what_is_opened(windows, demo):
    window = windows.open(*demo, None)
    window.commands["demo"].trigger()
    assert windows.open_ones == [window]


def test_the_theme_changes_in_every_window_at_once(windows, demo, preferences, qapp):
    window = windows.open(*demo, None)

    def ground():
        return QColor(window.desk.grab().toImage().pixel(3, 3)).name()

    assert ground() == theme.LIGHT.desk.lower()
    icon = window.top.tools["text"].icon().pixmap(18, 18).toImage()
    preferences.change(theme="dark")
    qapp.processEvents()
    assert ground() == theme.DARK.desk.lower()
    assert window.top.tools["text"].icon().pixmap(18, 18).toImage() != icon
    preferences.change(theme="light")
    qapp.processEvents()
    assert ground() == theme.LIGHT.desk.lower()


def _common(icon) -> str:
    """The colour that most of an icon's own pixels have."""
    image = icon.pixmap(32, 32).toImage()
    seen = [image.pixelColor(x, y) for x in range(32) for y in range(32)]
    names = [c.name() for c in seen if c.alpha() == 255]
    return max(set(names), key=names.count)


@pytest.mark.parametrize(
    ("standard", "tone"),
    [("SP_DirIcon", "master"), ("SP_FileIcon", "quiet"), ("SP_FileDialogToParent", "text"),
     ("SP_FileDialogBack", "text"), ("SP_FileDialogNewFolder", "text"),
     ("SP_FileDialogListView", "text"), ("SP_FileDialogDetailedView", "text"),
     ("SP_ComputerIcon", "text"), ("SP_DirHomeIcon", "text"), ("SP_DriveHDIcon", "text"),
     ("SP_MessageBoxQuestion", "action"), ("SP_MessageBoxInformation", "action"),
     ("SP_MessageBoxWarning", "master"), ("SP_MessageBoxCritical", "warning")],
)  # fmt: skip
def test_file_dialogs_and_message_boxes_have_icons_of_the_theme(
    windows, preferences, qapp, standard, tone
):
    for name in ("light", "dark"):
        preferences.change(theme=name)
        icon = qapp.style().standardIcon(getattr(QStyle.StandardPixmap, standard))
        wanted = QColor(getattr(theme.current(), tone)).name()
        assert _common(icon) == wanted


def _panels(window, qapp) -> dict[str, QImage]:
    """Pictures of what holds rows and icons, one after the other in sight."""
    session, found = window.session, {}
    session.show_page(all_pages(session.publication)[9].id)
    overrides = window.dialogs.overrides()
    for name in SHELF:
        window.show_shelf(name)
        qapp.processEvents()
        found[name] = window.tabs.grab().toImage()
    qapp.processEvents()
    found["properties"] = window.properties.grab().toImage()
    found["top"] = window.top.grab().toImage()
    found["overrides"] = overrides.grab().toImage()
    overrides.close()
    return found


def test_a_theme_changed_live_leaves_no_row_behind(windows, demo, preferences, qapp):
    # The oracle is a window that never was in another theme.
    window = windows.open(*demo, None)
    light = _panels(window, qapp)
    preferences.change(theme="dark")
    qapp.processEvents()
    live = _panels(window, qapp)
    window.close()
    fresh = _panels(windows.open(*demo, None), qapp)
    for name, picture in live.items():
        assert picture != light[name], name
        assert picture == fresh[name], name


def test_what_is_remembered_survives_and_nonsense_does_not(preferences):
    preferences.change(nudge=2.0, theme="dark", recent=("/a.hframe",))
    preferences.write()
    assert Settings().now == preferences.now
    from hidden_frame.desktop.look.settings import _path

    _path().write_text('{"nudge": "far"}')
    assert Settings().now == Preferences()
    _path().unlink()
    assert Settings().now == Preferences()
    preferences.remember(Path("/b.hframe"))
    preferences.remember(Path("/a.hframe"))
    assert preferences.now.recent == ("/a.hframe", "/b.hframe")


def test_panels_keep_their_sizes_and_the_run_can_be_hidden(windows, demo, preferences):
    window = windows.open(*demo, None)
    window.resize(1400, 900)
    window.across.setSizes([300, 800, 300])
    window.commands["run"].trigger()
    assert not window.run.isVisible()
    window.close()
    again = windows.open(*demo, None)
    assert again.size().width() == 1400 and not again.run.isVisible()
    assert again.across.sizes()[0] == pytest.approx(preferences.now.across[0], abs=12)
    again.commands["run"].trigger()
    assert again.run.isVisible()


def test_the_first_steps_are_shown_until_they_are_closed_for_good(windows, demo, preferences):
    preferences.change(hints=True)
    window = windows.open(*demo, None)
    card = window.hints
    assert card.isVisible() and card.head.text() == STEPS[0][0]
    seen = []
    for _ in range(3):
        seen.append(card.head.text())
        card.next.click()
    assert seen == [head for head, _ in STEPS]
    assert not card.isVisible() and not preferences.now.hints
    window.commands["hints"].trigger()
    assert card.isVisible()
    card.close_button.click()
    assert not card.isVisible() and not preferences.now.hints


def test_a_closed_window_leaves_nothing_in_memory(windows, demo, preferences, qapp):
    """All views were open, a text was edited and the wheel turned: none of it holds the rest."""

    def used():
        window = windows.open(*demo, None)
        session = window.session
        for show in (session.show_flatplan, session.show_board, session.show_desk):
            show()
            qapp.processEvents()
        window.toggle_galley()
        window.toggle_checks()
        page, frame = next(
            (p, i) for p in all_pages(session.publication) for i in p.items
            if isinstance(i, TextFrame)
        )  # fmt: skip
        session.show_page(page.id)
        session.edit_text(Editing(page.id, frame.id, session.side_of(page.id)))
        qapp.processEvents()
        QTest.keyClicks(window.desk, "words")
        QTest.qWait(50)
        parts = (window, session, session.composer, window.desk, window.desk.text, window.run,
                 window.thumbnails, window.shelf, window.properties)  # fmt: skip
        assert session.history.past
        session.keep_saved(Path("a.hframe"), session.history.now)  # nothing is asked
        window.close()
        return [weakref.ref(part) for part in parts]

    left = used()
    assert not [r for r in MEMORY.report() if r.name == "compose.composer._placed" and r.entries]
    assert not any(one._known for one in sparse._all)
    for _ in range(3):
        qapp.processEvents()
        qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        gc.collect()
    assert [type(part()).__name__ for part in left if part() is not None] == []


def test_a_notice_goes_away_by_itself(windows, demo, qtbot):
    window = windows.open(*demo, None)
    window.session.noticed.emit("Short.")
    assert window.notice.isVisible()
    window.notice._timer.start(10)
    qtbot.waitUntil(lambda: not window.notice.isVisible(), timeout=2000)


def test_tooltips_name_the_keys(windows, demo):
    window = windows.open(*demo, None)
    assert "F8" in window.top.proof.toolTip() and "F1" in window.top.finder.toolTip()
    assert "F9" in window.status.snap.toolTip()
    assert "Ctrl+Shift+F" in window.top.folios.toolTip()


def test_the_start_window_opens_without_a_publication(dressed, qtbot, preferences):
    preferences.change(recent=())
    start = StartWindow(lambda *_: None)
    qtbot.addWidget(start)
    start.show()
    assert start.recent.item(0).text() == "The demo almanac"


@pytest.mark.parametrize("key", [Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space])
def test_a_card_and_an_entry_open_by_keys(windows, answered, key):
    start = windows.show_start()
    QTest.keyClick(start.cards["Booklet"], key)
    assert answered[0].preset.currentText() == "Booklet" and len(windows.open_ones) == 1
    again = windows.show_start()
    again.recent.setCurrentRow(again.recent.count() - 2)
    QTest.keyClick(again.recent, Qt.Key.Key_Return)
    assert windows.open_ones[-1].session.publication.title == "Night Sky Almanac"


@pytest.mark.parametrize("count", [0, 1, 2, 5, 12])
@pytest.mark.parametrize("size", [(1000, 640), (1280, 760), (1900, 1000)])
def test_the_start_window_fills_its_space_with_few_and_with_many(
    dressed, qtbot, preferences, tmp_path, qapp, count, size
):
    names = [tmp_path / f"{'A long name of a publication ' * 3}{n}.hframe" for n in range(count)]
    for path in names:
        path.write_bytes(b"")
    preferences.change(recent=tuple(map(str, names)))
    start = StartWindow(lambda *_: None)
    qtbot.addWidget(start)
    start.resize(*size)
    start.show()
    qapp.processEvents()
    recent = start.recent
    rects = [recent.visualItemRect(recent.item(n)) for n in range(recent.count())]
    assert not any(a.intersects(b) for n, a in enumerate(rects) for b in rects[:n])
    room = recent.viewport().rect()
    assert max(r.right() for r in rects) > room.width() * 0.9
    assert min(r.left() for r in rects) >= 0 and max(r.right() for r in rects) <= room.right()
    cards = [*start.cards.values(), start.other]
    assert cards[-1].geometry().right() == recent.geometry().right()
    assert len({card.width() for card in cards}) <= 2  # a pixel's difference at most
    assert all(card.height() >= 168 for card in cards)


def test_the_window_loads_nothing_that_only_a_later_command_needs():
    """Each costs a part of the time in which the window comes up."""
    import subprocess
    import sys

    late = [
        "lxml", "regex", "urllib.request", "charset_normalizer", "markdown_it", "pikepdf",
        "hidden_frame.storage.manuscripts.read", "hidden_frame.storage.manuscripts.write",
        "hidden_frame.desktop.views.writing.galley", "hidden_frame.edit.text.find",
    ]  # fmt: skip
    code = "import sys, hidden_frame.desktop.shell.window;"
    code += f"print([m for m in {late} if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"
