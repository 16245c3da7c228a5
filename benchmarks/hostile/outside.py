"""What lies outside of a file, and notices when anybody reads it: files, a pipe, a server."""

from __future__ import annotations

import ctypes
import os
import struct
import tempfile
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer
from pathlib import Path

_IN_OPEN = 0x20  # inotify(7)
PIXEL = bytes.fromhex(
    "89504e470d0a1a0a0000000d49484452000000010000000108060000001f15c4890000000d49444154789c63"
    "64f8ffbf1e0005040202cb3e5ff70000000049454e44ae426082"
)
NAMES = {
    "canary.png": PIXEL,
    "canary.svg": b'<svg xmlns="http://www.w3.org/2000/svg"><rect id="a"/></svg>',
    "canary.css": b"rect { fill: #123456 }",
    "canary.dtd": b'<!ENTITY outside "OUTSIDE">',
    "canary.txt": b"OUTSIDE",
    "canary.ttf": b"\x00\x01\x00\x00",
}


class Outside:
    """`folder` and `url` are what hostile files name; `touched` tells what was read of them."""

    def __init__(self) -> None:
        self._made = tempfile.TemporaryDirectory(prefix="outside-")
        self.folder = Path(self._made.name)
        for name, data in NAMES.items():
            (self.folder / name).write_bytes(data)
        os.mkfifo(self.folder / "pipe")
        self._libc = ctypes.CDLL(None, use_errno=True)
        self._watch = self._libc.inotify_init1(os.O_NONBLOCK)
        added = self._libc.inotify_add_watch(self._watch, str(self.folder).encode(), _IN_OPEN)
        if self._watch < 0 or added < 0:
            raise OSError(ctypes.get_errno(), "inotify is not there")
        self.asked: list[str] = []
        asked = self.asked

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                asked.append(self.path)
                self.send_response(200)
                self.end_headers()

            def log_message(self, *_: object) -> None:
                pass

        self._server = HTTPServer(("127.0.0.1", 0), Handler)
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self._server.server_port}"

    def touched(self) -> list[str]:
        """The files that were opened and the addresses that were asked for since the last call."""
        found, self.asked[:] = list(self.asked), []
        try:
            data = os.read(self._watch, 65_536)
        except BlockingIOError:
            data = b""
        at = 0
        while at < len(data):
            _, mask, _, length = struct.unpack_from("iIII", data, at)
            name = data[at + 16 : at + 16 + length].rstrip(b"\0").decode()
            if name and mask & _IN_OPEN:
                found.append(name)
            at += 16 + length
        return found

    def close(self) -> None:
        os.close(self._watch)
        self._server.shutdown()
        self._server.server_close()
        self._made.cleanup()

    def __enter__(self) -> Outside:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()
