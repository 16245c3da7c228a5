"""Pictures on pages: rasters as images, drawings as forms, each once in a file."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import pikepdf
from pikepdf import Dictionary, Name

from hidden_frame.compose.scene import PicturePrimitive
from hidden_frame.model.errors import Refusal
from hidden_frame.output.pdf.images import Images
from hidden_frame.output.pdf.operators import concat, path
from hidden_frame.output.pdf.rasters import UNREADABLE, Rasters
from hidden_frame.output.pdf.store import Sheet, Store
from hidden_frame.storage.drawings import drawn

Plane = tuple[float, float, float, float, float, float]
# Where the left top corner of the stored pixels comes to lie, and the directions of their rows
# and columns, as shares of the picture seen: u0 us ut, v0 vs vt (Exif 2.32, tag 0x0112).
ORIENTED: dict[int, Plane] = {
    1: (0, 1, 0, 0, 0, 1),
    2: (1, -1, 0, 0, 0, 1),
    3: (1, -1, 0, 1, 0, -1),
    4: (0, 1, 0, 1, 0, -1),
    5: (0, 0, 1, 0, 1, 0),
    6: (1, 0, -1, 0, 1, 0),
    7: (1, 0, -1, 1, -1, 0),
    8: (0, 0, 1, 1, -1, 0),
}


class PictureWriter:
    """Writes pictures; `broken` names those that could not be, by hash, with the reason."""

    def __init__(self, store: Store, blobs: Mapping[str, bytes], rasters: Rasters) -> None:
        self.store = store
        self.blobs = blobs
        self.images = Images(store)
        self.rasters = rasters.made
        self.broken = dict(rasters.broken)
        self._made: dict[tuple[str, bool], tuple[str, Plane | None] | None] = {}

    def write(self, sheet: Sheet, picture: PicturePrimitive) -> None:
        """The picture where it stands, or nothing where it is missing or broken."""
        grouped = picture.kind == "svg" and picture.alpha < 1
        made = self._named(picture, grouped)
        if made is None:
            return
        name, box = made
        sheet.say("q " + path(picture.clip) + " W n")
        if picture.alpha < 1:
            state = self.store.state(round(picture.alpha, 5), False)
            sheet.say(f"/{sheet.use('ExtGState', state)} gs")
        x, y, w, h = picture.rect
        across, down = picture.flip in ("across", "both"), picture.flip in ("down", "both")
        if across or down:
            a, d = (-1.0 if across else 1.0), (-1.0 if down else 1.0)
            sheet.say(concat((a, 0.0, 0.0, d, (2 * x + w) * across, (2 * y + h) * down)))
        sheet.say(concat(_placing(picture, box)))
        sheet.say(f"/{sheet.use('XObject', name)} Do Q")

    def _named(self, picture: PicturePrimitive, grouped: bool) -> tuple[str, Plane | None] | None:
        key = (picture.hash, grouped)
        if key not in self._made:
            self._made[key] = self._make(picture, grouped)
        return self._made[key]

    def _make(self, picture: PicturePrimitive, grouped: bool) -> tuple[str, Plane | None] | None:
        key = (picture.hash, grouped)
        if picture.kind != "svg":
            raster = self.rasters.get(picture.hash)
            if raster is None:
                return None
            return self.store.name("XObject", key, lambda: self.images.make(raster)), None
        data = self.blobs.get(picture.hash)
        if data is None:
            self.broken[picture.hash] = "is missing from the file"
            return None
        try:
            form, box = self._form(picture.hash, data, grouped)
        except (Refusal, OSError, *UNREADABLE) as error:
            self.broken[picture.hash] = f"can't be read ({error})"
            return None
        return self.store.name("XObject", key, lambda: form), box

    def _form(self, digest: str, data: bytes, grouped: bool) -> tuple[Any, Plane]:
        """A drawing as a form: its own page, as vectors."""
        with pikepdf.Pdf.open(_file(drawn(digest, data).pdf)) as source:
            page = source.pages[0]
            form = self.store.pdf.copy_foreign(page.as_form_xobject())
            left, bottom, right, top = (float(v) for v in page.mediabox)
        if not (grouped or _blends(form)):
            if "/Group" in form:
                del form.Group
        else:  # its opacity and blending are those of the drawing as a whole (11.6.6)
            form.Group = Dictionary(Type=Name.Group, S=Name.Transparency, I=True)
        return form, (left, bottom, right, top, 0.0, 0.0)


def _file(data: bytes) -> Any:
    import io

    return io.BytesIO(data)


def _blends(form: Any) -> bool:
    """Whether anything in a form mixes with what lies below it."""
    states = form.get("/Resources", {}).get("/ExtGState", {})
    plain = all(
        float(s.get("/ca", 1)) == float(s.get("/CA", 1)) == 1
        and s.get("/SMask", Name.None_) == pikepdf.Name("/None")
        and s.get("/BM", Name.Normal) == Name.Normal
        for s in states.values()
    )
    return not plain or any(
        (o.get("/Subtype") == Name.Form and _blends(o)) or "/Group" in o or "/SMask" in o
        for o in form.get("/Resources", {}).get("/XObject", {}).values()
    )


def _placing(picture: PicturePrimitive, box: Plane | None) -> tuple[float, ...]:
    """From a form's box, or an image's unit square (y upward), to where the picture lies
    (y downward)."""
    x, y, w, h = picture.rect
    if box is not None:
        left, bottom, right, top = box[:4]
        a, d = w / (right - left), -h / (top - bottom)
        return (a, 0.0, 0.0, d, x - a * left, y - d * top)
    u0, us, ut, v0, vs, vt = ORIENTED[picture.orientation]
    return (w * us, h * vs, -w * ut, -h * vt, x + w * (u0 + ut), y + h * (v0 + vt))
