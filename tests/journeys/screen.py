"""A screen of our own: Xvfb with a window manager, and hands on its mouse and keys (XTEST)."""

from __future__ import annotations

import os
import subprocess
import time
from pathlib import Path

_SHIFTED = {"Ctrl": "Control_L", "Shift": "Shift_L", "Alt": "Alt_L"}
_NAMED = {
    "Enter": "Return", "Esc": "Escape", "Space": "space", "Del": "Delete", "Back": "BackSpace",
    "PgDown": "Next", "PgUp": "Prior",
}  # fmt: skip


class Screen:
    """Xvfb of a size, started with openbox; `DISPLAY` says where it is."""

    def __init__(self, wide: int = 1280, high: int = 800) -> None:
        self.wide, self.high = wide, high
        read, write = os.pipe()
        self._server = subprocess.Popen(
            ["Xvfb", "-displayfd", str(write), "-screen", "0", f"{wide}x{high}x24", "-nolisten",
             "tcp"], pass_fds=(write,), stderr=subprocess.DEVNULL,
        )  # fmt: skip
        os.close(write)
        with os.fdopen(read) as pipe:
            self.name = f":{pipe.readline().strip()}"
        self._manager = subprocess.Popen(
            ["openbox"], env={**os.environ, "DISPLAY": self.name},
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        self._until_managed()

    def _until_managed(self, patience: float = 60.0) -> None:
        """The manager says on the root window that it is there (EWMH, _NET_SUPPORTING_WM_CHECK);
        a window shown before is moved under the hand."""
        from Xlib import display

        server = display.Display(self.name)
        told = server.intern_atom("_NET_SUPPORTING_WM_CHECK")
        end = time.monotonic() + patience
        while server.screen().root.get_full_property(told, 0) is None:
            if time.monotonic() > end:
                raise TimeoutError("no window manager came up")
            time.sleep(0.05)
        server.close()

    def stop(self) -> None:
        for process in (self._manager, self._server):
            process.terminate()
            process.wait(10)


class Fingers:
    """Presses, drags, turns of the wheel and keys, as the X server gives them to any program."""

    def __init__(self, screen: Screen) -> None:
        from Xlib import X, display

        self._x = X
        self._display = display.Display(screen.name)
        self._screen = screen
        self.size = screen.wide, screen.high
        self._spare = self._free_keycode()
        self._mapped = 0  # the keysym that stands on the spare key

    def _fake(self, kind: int, detail: int = 0, x: int = 0, y: int = 0) -> None:
        from Xlib.ext import xtest

        xtest.fake_input(self._display, kind, detail, x=x, y=y)
        self._display.sync()

    def move(self, x: float, y: float) -> None:
        self._fake(self._x.MotionNotify, x=round(x), y=round(y))

    def press(self, button: int = 1) -> None:
        self._fake(self._x.ButtonPress, button)

    def release(self, button: int = 1) -> None:
        self._fake(self._x.ButtonRelease, button)

    def click(self, x: float, y: float, button: int = 1, times: int = 1) -> None:
        self.move(x, y)
        time.sleep(0.04)
        for _ in range(times):
            self.press(button)
            time.sleep(0.02)
            self.release(button)
            time.sleep(0.03)

    def drag(self, start: tuple[float, float], end: tuple[float, float], steps: int = 16) -> None:
        """Slowly, as a hand does, and a little on the spot before it lets go."""
        self.move(*start)
        time.sleep(0.05)
        self.press()
        for n in range(1, steps + 1):
            share = n / steps
            self.move(
                start[0] + (end[0] - start[0]) * share, start[1] + (end[1] - start[1]) * share
            )
            time.sleep(0.02)
        time.sleep(0.15)
        self.release()

    def wheel(self, x: float, y: float, turns: int) -> None:
        """Down for so many turns, up if negative."""
        self.move(x, y)
        for _ in range(abs(turns)):
            self.press(5 if turns > 0 else 4)
            self.release(5 if turns > 0 else 4)
            time.sleep(0.02)

    def keys(self, chord: str) -> None:
        """“Ctrl+Shift+Z”, “Enter”, “F5”."""
        *held, key = chord.split("+") if chord != "+" else ["+"]
        codes = [self._code(_SHIFTED[h])[0] for h in held]
        code, shift = self._code(_NAMED.get(key, key.lower() if held and len(key) == 1 else key))
        for each in codes:
            self._fake(self._x.KeyPress, each)
        self._strike(code, shift)
        for each in reversed(codes):
            self._fake(self._x.KeyRelease, each)

    def type(self, text: str, pause: float = 0.006) -> None:
        """Character by character; one that no key has is put on a spare key first."""
        for character in text:
            name = {"\n": "Return", "\t": "Tab", " ": "space"}.get(character, character)
            self._strike(*self._code(name))
            time.sleep(pause)

    def strike(self, name: str) -> None:
        """A key by the name of its sign: “dead_acute”, “Multi_key”."""
        self._strike(*self._code(name))
        time.sleep(0.02)

    def _strike(self, code: int, shift: bool) -> None:
        held = self._code("Shift_L")[0]
        if shift:
            self._fake(self._x.KeyPress, held)
        self._fake(self._x.KeyPress, code)
        self._fake(self._x.KeyRelease, code)
        if shift:
            self._fake(self._x.KeyRelease, held)

    def _code(self, name: str) -> tuple[int, bool]:
        from Xlib import XK

        XK.load_keysym_group("xkb")  # dead keys
        sym = XK.string_to_keysym(name)
        if not sym and len(name) == 1:
            sym = ord(name) if ord(name) < 256 else 0x01000000 + ord(name)
        known = [(i, c) for c, i in self._display.keysym_to_keycodes(sym) if i in (0, 1)]
        if known:
            index, code = min(known)
            return code, index == 1
        if self._mapped != sym:
            self._display.change_keyboard_mapping(self._spare, [(sym, sym, sym, sym)])
            self._display.sync()
            self._mapped = sym
            time.sleep(0.12)  # until the program has learnt of it
        return self._spare, False

    def _free_keycode(self) -> int:
        first, last = self._display.display.info.min_keycode, self._display.display.info.max_keycode
        table = self._display.get_keyboard_mapping(first, last - first + 1)
        return next(first + n for n, row in enumerate(table) if not any(row) and first + n > 100)

    def picture(self, path: Path) -> None:
        """All of the screen as a PNG."""
        from PIL import Image

        root = self._display.screen().root
        wide, high = self._screen.wide, self._screen.high
        raw = root.get_image(0, 0, wide, high, self._x.ZPixmap, 0xFFFFFFFF)
        path.parent.mkdir(parents=True, exist_ok=True)
        Image.frombytes("RGB", (wide, high), raw.data, "raw", "BGRX").save(path)
