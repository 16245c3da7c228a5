"""Whatever another program puts on the clipboard, or drops: pasted or told; it saves and opens."""

from __future__ import annotations

import random

import msgspec
import pytest
from benchmarks.whole_file import to_bytes
from PySide6.QtCore import QByteArray, QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QGuiApplication, QImage

from hidden_frame.desktop.commands.actions.page_clipboard import PAGES_MIME
from hidden_frame.desktop.views.desk.items_mime import ITEMS_MIME
from hidden_frame.desktop.views.pages.drops import MASTER_MIME, carried
from hidden_frame.desktop.views.writing.mime import TEXT_MIME
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.text.write import start_of
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.items import TextFrame
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.storage.format import from_bytes

OURS = (ITEMS_MIME, TEXT_MIME, PAGES_MIME, MASTER_MIME)
OTHERS = ("text/plain", "text/html", "text/uri-list", "image/png", "application/x-color",
          "application/x-qt-image", "text/rtf", "UTF8_STRING", "", "x",
          "text/plain;charset=utf-16")  # fmt: skip
HALF = "\ud800"
PAGES = [
    "", "<", "<p>", "</p></p>", "<p>" * 300 + "deep", "<table><tr><td>1<td>2<table><td>3",
    "<ul><li>a<ol start=-5><li>b</ul>", "<b><i><b>x</i></b>", "\0<p>a\0b</p>", "<p>\ud83d half</p>",
    "<img src='file:///etc/hostname'><p>x", "<img src='data:image/png;base64,AAAA'>",
    "<img src='data:image/png;base64,%%%'>", "<p style='font-weight:1e99;font-size:-4px'>x",
    "<p>" + "\u202e" * 50 + "x", "<p>" + "e\u0301\u200d\ufe0f" * 40, "<script>x</script>",
    "<p " + " ".join(f"a{n}=1" for n in range(900)) + ">x", "<li>1<li>2", "<h1><h2>x</h1>",
    "<td colspan=99999999999>x<td>y", "<meta charset=utf-16><p>x",
    "<!--[if gte mso 9]><p>x<![endif]-->",
    "<sup><a role=doc-noteref href='#n'>1</a></sup><section role=doc-endnotes id=n>",
    "&#0;&#xD800;&bad;",
]  # fmt: skip


def odd(draw: random.Random, ours) -> QMimeData:
    """Several forms at once, of which none has to fit the others."""
    data = QMimeData()
    for kind in draw.sample([*OURS, *OTHERS], draw.randint(0, 3)):
        some = draw.choice([b"", b"\xff\xfe\0", draw.randbytes(40), b"page-1", b"\x80" * 9, *ours])
        data.setData(kind, QByteArray(some))
    if draw.random() < 0.6:
        data.setHtml(draw.choice(PAGES).replace(HALF, "?"))
    if draw.random() < 0.5:
        data.setText(draw.choice(["", " ", "x", "\0\1\2", "a\r\nb\r", "\u2028\u2029", "x" * 5000]))
    if draw.random() < 0.2:
        data.setUrls([QUrl(draw.choice(["", "file:///", "file:///nowhere.png", "http://x/y.svg"]))])
    if draw.random() < 0.1:
        data.setImageData(draw.choice([QImage(), QImage(2, 2, QImage.Format.Format_ARGB32)]))
    return data


@pytest.fixture
def ours(hands):
    """What the program itself puts there, as bytes, and changed here and there."""
    piece = (Paragraph("nowhere", (Run("x", "gone"), Marker("detail", "lost"), Run("\0\uffff"))),)
    made = [msgspec.msgpack.encode(piece)]
    made += [msgspec.msgpack.encode(v) for v in ([], {}, None, [1, [2]], {"clip": {"items": []}})]
    draw = random.Random(3)
    for whole in list(made):
        for _ in range(3):
            part = bytearray(whole)
            if part:
                part[draw.randrange(len(part))] = draw.randrange(256)
            made.append(bytes(part))
    return made


def write(hands):
    """The caret in a text frame of its own; styles are taken as they are likely."""
    hands.desk.text.pasting.ask = lambda publication, likely, asked: likely
    page, session = hands.page(8), hands.session
    frame = TextFrame(id="", x=60, y=60, width=200, height=300, text=start_of((), "body"))
    made = []

    def change(publication):
        publication, item = add_item(publication, page, frame)
        made[:] = [item]
        return publication

    session.show_page(page)
    session.edit("frame", change)
    session.edit_text(Editing(page, made[0], session.side_of(page)))


def unharmed(hands):
    publication = hands.publication
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication


@pytest.mark.parametrize("seed", range(4))
def test_pasted_on_a_page_and_among_pages(hands, ours, seed):
    draw = random.Random(seed)
    for n in range(25):
        QGuiApplication.clipboard().setMimeData(odd(draw, ours))
        if n % 3 == 2:
            hands.session.select_pages((hands.page(3),))
        hands.do(draw.choice(["paste", "paste same", "paste plain"]))
        hands.app.processEvents()
    unharmed(hands)


@pytest.mark.parametrize("seed", range(4))
def test_pasted_into_a_text(hands, ours, seed):
    draw = random.Random(100 + seed)
    write(hands)
    for _ in range(25):
        QGuiApplication.clipboard().setMimeData(odd(draw, ours))
        hands.key(Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
        hands.app.processEvents()
    unharmed(hands)


def test_dropped_on_the_desk(hands, ours):
    draw = random.Random(9)
    for _ in range(40):
        data = odd(draw, ours)
        at = QPointF(draw.randrange(hands.desk.width()), draw.randrange(hands.desk.height()))
        event = QDropEvent(at, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton,
                           Qt.KeyboardModifier.NoModifier)  # fmt: skip
        hands.desk.dropEvent(event)
        hands.app.processEvents()
    unharmed(hands)


@pytest.mark.parametrize("carries", [b"\xff\xfe", b"", b"master-9999", bytes(9)])
def test_a_master_that_is_none_is_not_carried(hands, carries):
    data = QMimeData()
    data.setData(MASTER_MIME, QByteArray(carries))
    event = QDropEvent(QPointF(QPoint(9, 9)), Qt.DropAction.CopyAction, data,
                       Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)  # fmt: skip
    assert isinstance(carried(event)[0], str)
    before = hands.publication
    hands.window.run.dropEvent(event)
    hands.do("flatplan")
    hands.window.flatplan.view.dropEvent(event)
    hands.window.board.view.dropEvent(event)
    assert hands.publication is before
