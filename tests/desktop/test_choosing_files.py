"""Files to choose from: pictures are seen beforehand, recent publications stand at New… too."""

from __future__ import annotations

import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.new import NewDialog
from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.look.settings import settings
from hidden_frame.storage.format import save


@pytest.fixture
def dialog(dressed, qtbot):
    dialog = PictureDialog(None, "Place pictures", "Pictures (*.png *.svg)", True)
    qtbot.addWidget(dialog)
    dialog.show()
    return dialog


def test_a_chosen_picture_is_seen_with_its_size(dialog, tmp_path):
    path = tmp_path / "harbour.png"
    Image.new("RGB", (600, 300), "#336688").save(path)
    dialog.setDirectory(str(tmp_path))
    dialog.currentChanged.emit(str(path))
    shown = dialog.picture.pixmap()
    assert not shown.isNull() and abs(shown.width() / shown.height() - 2) < 0.05
    assert "600 × 300 pixels" in dialog.told.text() and "51 × 25 mm" in dialog.told.text()
    assert shown.toImage().pixelColor(5, 5).name() == "#336688"


@pytest.mark.parametrize("data", [b"", b"no picture at all", b"\x89PNG\r\n\x1a\n broken"])
def test_what_is_no_picture_is_named_only(dialog, tmp_path, data):
    path = tmp_path / "strange.png"
    path.write_bytes(data)
    dialog.show_file(path)
    assert dialog.picture.pixmap().isNull() and dialog.told.text() == "strange.png"
    dialog.show_file(tmp_path / "gone.png")
    dialog.show_file(tmp_path)
    assert dialog.picture.pixmap().isNull()


def test_recent_publications_stand_at_new_and_are_gone_on_with(hands, qtbot, tmp_path, monkeypatch):
    path = tmp_path / "Tides.hframe"
    save(path, hands.publication, hands.session.blobs)
    settings().change(recent=(str(path), str(tmp_path / "gone.hframe")))
    opened = []
    monkeypatch.setattr(hands.window.files, "open_path", opened.append)

    def choose(dialog: NewDialog) -> int:
        qtbot.addWidget(dialog)
        dialog.show()
        assert [dialog.recent.item(n).text() for n in range(dialog.recent.count())] == ["Tides"]
        rect = dialog.recent.visualItemRect(dialog.recent.item(0))
        QTest.mouseClick(dialog.recent.viewport(), Qt.MouseButton.LeftButton, pos=rect.center())
        assert not dialog.isVisible()
        return 0

    monkeypatch.setattr(NewDialog, "exec", choose)
    hands.do("new")
    assert opened == [path]
