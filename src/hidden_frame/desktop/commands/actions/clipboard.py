"""Cut, copy and paste of items; pictures and text that come from elsewhere."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

import msgspec
from msgspec.structs import replace
from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QMimeData
from PySide6.QtGui import QGuiApplication, QImage, QPixmap

from hidden_frame.desktop.state.choices import tell_left_out
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.desktop.views.desk.gestures.draw import usual_layer
from hidden_frame.desktop.views.desk.items_mime import ITEMS_MIME, Parcel
from hidden_frame.edit.carry.items import Clip, copied
from hidden_frame.edit.items.draw import remove_items
from hidden_frame.edit.items.tiling import room_in_middle, text_size, tiled
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.text.write import MAX_CHARACTERS, insert, plain
from hidden_frame.interact.hands.copies import stop_words
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import Spot, hit
from hidden_frame.interact.hands.line_up import area
from hidden_frame.interact.hands.shown import (
    add_shown,
    box_of,
    change_shown,
    copied_as_shown,
    pasted_as_shown,
    shown_item,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, PictureFrame, TextFrame
from hidden_frame.model.lookup import holder, section_of
from hidden_frame.model.number_format import grouped
from hidden_frame.model.plane.box import Bounds, around_all, bounds_of
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.model.text import Paragraph, Text
from hidden_frame.storage.door import COPIED, door, from_clipboard
from hidden_frame.storage.pictures import EXTENSIONS, picture_from_bytes, read_picture

MAX_FILES = 200
_GAP = 8.5  # points between things laid out in order, about 3 mm
_TEXTS = (".txt", ".md", ".text")
_MANUSCRIPTS = (".docx", ".odt", ".md", ".markdown", ".html", ".htm")


class PictureThing(NamedTuple):
    """A picture that is to be placed."""

    picture: Picture
    blob: bytes


class TextThing(NamedTuple):
    """A plain text that is to be placed."""

    name: str
    text: str


Thing = PictureThing | TextThing


def _image(data: QMimeData) -> QImage | None:
    """The picture among what is brought; None for bytes that only say that they are one."""
    found = data.imageData() if data.hasImage() else None
    image = found.toImage() if isinstance(found, QPixmap) else found
    return image if isinstance(image, QImage) and not image.isNull() else None


class Clipboard:
    """Works on the page or face that is worked on, and lays new things on it."""

    def __init__(self, session: Session, desk: Desk) -> None:
        self.session = session
        self.desk = desk
        self.bring_in: Callable[[Path, str], None] = lambda *_: None  # of manuscripts

    # -- items -----------------------------------------------------------------------

    def copy(self) -> None:
        session = self.session
        clip = copied_as_shown(session.publication, session.holder_id, session.items, session.side)
        wanted = {p.hash for p in clip.pictures}
        blobs = {h: session.blobs[h] for h in wanted if h in session.blobs}
        told = self._told(clip)
        parcel = Parcel(
            clip, blobs, session.side, session.token, session.holder_id,
            tuple(i.id for i in clip.items), told,
        )  # fmt: skip
        data = QMimeData()
        data.setData(ITEMS_MIME, QByteArray(msgspec.msgpack.encode(parcel)))
        texts = [plain(i.text) for i in (told or clip).items if isinstance(i, TextFrame) and i.text]
        if texts:
            data.setText("\n".join(texts))
        QGuiApplication.clipboard().setMimeData(data)

    def _told(self, clip: Clip) -> Clip | None:
        """A clip with the words of stories in its frames; None without any."""
        session = self.session
        if session.mode != "pages":
            return None
        words: dict[str, Text] = {}
        for item in clip.items:
            told = session.composition.told(session.holder_id, item.id)
            if told is not None:
                at = told.flow.index[session.holder_id, item.id]
                words[item.id] = stop_words(told, at)
        if not words:
            return None
        full = [
            replace(i, text=words[i.id]) if isinstance(i, TextFrame) and i.id in words else i
            for i in clip.items
        ]
        return copied(session.publication, full)

    def cut(self) -> None:
        session = self.session
        self.copy()
        holder_id, items = session.holder_id, session.items
        session.edit("cut", lambda p: remove_items(p, holder_id, items))

    def paste(self, same_spot: bool = False) -> None:
        """What the clipboard holds: items, pictures, files or text."""
        data = QGuiApplication.clipboard().mimeData()
        if data is None:
            return
        if data.hasFormat(ITEMS_MIME):
            self._paste_items(bytes(data.data(ITEMS_MIME).data()), same_spot)
        else:
            self.take(data, None)

    def paste_words(self) -> None:
        """The words that the clipboard holds, in a frame of their own."""
        words = QGuiApplication.clipboard().text()
        if words.strip():
            self._take_text(words, None)
        else:
            self.session.noticed.emit("There are no words on the clipboard; copy some first.")

    def _paste_items(self, packed: bytes, same_spot: bool) -> None:
        try:
            with door(COPIED, "copy it again"):
                self._put_parcel(from_clipboard(packed, Parcel), same_spot)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))

    def _put_parcel(self, parcel: Parcel, same_spot: bool) -> None:
        session = self.session
        home = parcel.home == session.token
        clip, face = parcel.clip, self._face()
        if parcel.told is not None and not home:
            clip = parcel.told
        if same_spot and session.mode == "masters":  # to the face that it came from
            face = next((f for f in session.faces() if f.side == parcel.side), face)
        dx, dy = (0.0, 0.0) if same_spot else self._into_view(clip, face)
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, new = pasted_as_shown(publication, face.holder_id, face.side, clip, dx, dy)
            made.extend(new)
            return publication

        session.blobs.update(parcel.blobs)
        if session.edit("paste", change):
            session.select_items(face, tuple(made))
            if home and parcel.told is not None:
                session.tell_copies(parcel.holder, parcel.items, face.holder_id, made)

    def _face(self) -> Face:
        """The page or face that is worked on."""
        session = self.session
        for face in session.faces():
            if (face.holder_id, face.side) == (session.holder_id, session.side):
                return face
        return session.faces()[0]

    def _into_view(self, clip: Clip, face: Face) -> tuple[float, float]:
        """How far to move a clip to the middle of what is seen of the page; a little aside if
        the copied items lie there already."""
        around = around_all(bounds_of(box_of(i)) for i in clip.items)
        seen = self._seen(face)
        x, y = around.centre
        there = holder(self.session.publication, face.holder_id).items
        taken = any(
            abs(i.x - c.x) < 0.01 and abs(i.y - c.y) < 0.01 for i in there for c in clip.items
        )
        if taken and seen.left <= x <= seen.right and seen.top <= y <= seen.bottom:
            return 12.0, 12.0
        return seen.centre[0] - x, seen.centre[1] - y

    def _seen(self, face: Face) -> Bounds:
        """The part of a page that is in sight, in its own coordinates."""
        view, trim = self.desk.camera.view, self.session.publication.setup.trim
        left, top = view.to_spread(0.0, 0.0)
        right, bottom = view.to_spread(self.desk.width(), self.desk.height())
        return Bounds(
            min(max(left - face.x, 0.0), trim.width), min(max(top, 0.0), trim.height),
            max(min(right - face.x, trim.width), 0.0), max(min(bottom, trim.height), 0.0),
        )  # fmt: skip

    # -- from other programs -----------------------------------------------------------

    def take(self, data: QMimeData, spot: Spot | None) -> None:
        """Files, a picture or text dropped at a spot, or pasted in the middle."""
        files = [Path(u.toLocalFile()) for u in data.urls() if u.isLocalFile()]
        image = _image(data)
        if files:
            self.take_files(files, spot)
        elif image is not None:
            self._take_image(image, spot)
        elif data.hasText():
            self._take_text(data.text(), spot)
        else:
            self.session.noticed.emit("There is nothing here that can be placed on a page.")

    def take_files(self, files: list[Path], spot: Spot | None) -> None:
        """Pictures and plain texts, one where it was dropped, several in order in a grid."""
        if len(files) > MAX_FILES:
            self.session.noticed.emit(
                f"{len(files)} files are too many to place at once; choose {MAX_FILES} or fewer."
            )
            return
        told = spot is not None and self.session.mode == "pages"
        written = [f for f in files if f.suffix.lower() in _MANUSCRIPTS]
        if len(files) == 1 and (written or (told and self._on_story(spot, files[0]))):
            section = section_of(self.session.publication, self._page(spot)).id
            self.bring_in(files[0], section)
            return
        try:
            things = [_read(path) for path in files]
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return
        first = things[0]
        alone = len(things) == 1 and isinstance(first, PictureThing) and spot is not None
        if alone and self._into_frame(first, spot):  # type: ignore[arg-type]
            return
        self._lay_out(things, spot)

    def _page(self, spot: Spot | None) -> str:
        """The page that something was dropped on, or the one on the desk."""
        on_page = spot is not None and self.session.mode == "pages"
        return spot.face.holder_id if on_page and spot is not None else self.session.page_id

    def _on_story(self, spot: Spot | None, file: Path) -> bool:
        """Whether a plain text was dropped on a frame that a story flows through."""
        if spot is None or file.suffix.lower() not in _TEXTS:
            return False
        spot = self.session.owning(spot)
        under = hit(self.session.scene_of(spot.face), spot.x, spot.y, 0.0)
        return under is not None and under.drawing.told

    def _take_image(self, image: QImage, spot: Spot | None) -> None:
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        if image.isNull() or not image.save(buffer, "PNG"):  # type: ignore[call-overload]
            self.session.noticed.emit("The picture that was copied can't be read; copy it again.")
            return
        try:
            data = bytes(buffer.data().data())
            thing = PictureThing(*picture_from_bytes(data, "pasted.png"))
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return
        if spot is None or not self._into_frame(thing, spot):
            self._lay_out([thing], spot)

    def _take_text(self, text: str, spot: Spot | None) -> None:
        try:
            self._lay_out([TextThing("Text", _checked(text, "The text"))], spot)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))

    def _into_frame(self, thing: PictureThing, spot: Spot) -> bool:
        """Puts a picture into the picture frame at a spot, if there is one to be changed."""
        session = self.session
        spot = session.owning(spot)
        face = spot.face
        found = hit(session.scene_of(face), spot.x, spot.y, 0.0)
        if found is None or not session.may_change(face.holder_id, found.item_id):
            return False
        item_id, picture = found.item_id, thing.picture
        item = shown_item(session.publication, face.holder_id, item_id, face.side)
        if not isinstance(item, PictureFrame):
            return False
        session.blobs[picture.hash] = thing.blob
        session.edit(
            "place picture",
            lambda p: change_shown(
                put_picture(p, picture),
                face.holder_id,
                face.side,
                {item_id: {"picture": picture.hash}},
            ),
        )
        session.select_items(face, (item_id,))
        tell_left_out(session, picture, thing.blob)
        return True

    def _lay_out(self, things: Sequence[Thing], spot: Spot | None) -> None:
        """New frames for things, from a spot on, within the margins where there is room."""
        session = self.session
        publication = session.publication
        face = spot.face if spot is not None else self._face()
        margins = area(publication, face.holder_id, face.side, "margins", False)
        assert margins is not None
        sizes = [_size(thing, margins) for thing in things]
        room = margins
        if spot is not None:
            inside = spot.x < margins.right - 40 and spot.y < margins.bottom - 40
            corner = (spot.x, spot.y) if inside else (margins.left, margins.top)
            room = Bounds(*corner, margins.right, margins.bottom)
        elif len(things) == 1:
            room = room_in_middle(self._seen(face), sizes[0], margins)
        layer, style = usual_layer(publication), publication.paragraph_styles[0].id
        items: list[Item] = []
        pictures: list[Picture] = []
        for thing, box in zip(things, tiled(room, sizes, _GAP), strict=True):
            place = {**box._asdict(), "layer": layer}
            if isinstance(thing, PictureThing):
                picture = thing.picture
                session.blobs[picture.hash] = thing.blob
                pictures.append(picture)
                items.append(PictureFrame(id="", name=picture.name, picture=picture.hash, **place))
            else:
                text, _ = insert((Paragraph(style),), (0, 0), thing.text.rstrip("\n"))
                items.append(TextFrame(id="", name=thing.name, text=text, **place))
        made: list[str] = []

        def change(p: Publication) -> Publication:
            for picture in pictures:
                p = put_picture(p, picture)
            for item in items:
                p, item_id = add_shown(p, face.holder_id, face.side, item)
                made.append(item_id)
            return p

        count = len(things)
        name = "place" if count == 1 else f"place {count} files"
        if session.edit(name, change):
            session.select_items(face, tuple(made))
            for thing in things:
                if isinstance(thing, PictureThing):
                    tell_left_out(session, thing.picture, thing.blob)


def _size(thing: Thing, margins: Bounds) -> tuple[float, float]:
    if isinstance(thing, TextThing):
        return text_size(thing.text, margins)
    return thing.picture.size


def _read(path: Path) -> Thing:
    """A file as a picture or as a plain text; refuses anything else."""
    if path.suffix.lower() in _TEXTS:
        try:
            if path.stat().st_size > 8 * MAX_CHARACTERS:
                raise Refusal(_too_long(f"“{path.name}”"))
            text = path.read_text("utf-8-sig")
        except OSError as error:
            raise Refusal(f"“{path.name}” can't be read ({error.strerror}).") from error
        except UnicodeDecodeError as error:
            raise Refusal(f"“{path.name}” is not text in UTF-8; save it as UTF-8.") from error
        return TextThing(path.stem, _checked(text, f"“{path.name}”"))
    if path.suffix.lower().lstrip(".") not in EXTENSIONS:
        raise Refusal(
            f"“{path.name}” can't be placed; place PNG, JPEG, TIFF, SVG or plain text files."
        )
    return PictureThing(*read_picture(path))


def _checked(text: str, what: str) -> str:
    if len(text) > MAX_CHARACTERS:
        raise Refusal(_too_long(what))
    return text


def _too_long(what: str) -> str:
    return (
        f"{what} is longer than a frame can hold ({grouped(MAX_CHARACTERS)} characters); split it "
        "over several frames."
    )
