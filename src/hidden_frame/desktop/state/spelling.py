"""Dictionaries asked in a process of their own, so that no word waits for them."""

from __future__ import annotations

import json
import sys
from functools import cache
from typing import Any

from PySide6.QtCore import QCoreApplication, QObject, QProcess, QTimer, Signal

from hidden_frame.desktop.look.settings import settings
from hidden_frame.spelling.words import AskedWord, is_own

_PATIENCE = 300  # milliseconds without a new word after which all of them are asked
_STARTS = 3  # of the process, before it is given up


class Speller(QObject):
    """What is known of words so far.  `learnt`: of more words; `suggested`: what may have been
    meant by a word (language, word, suggestions)."""

    learnt = Signal()
    suggested = Signal(str, str, list)

    def __init__(self) -> None:
        super().__init__()
        self.version = 0  # another one whenever a word has turned out doubtful
        self._known: dict[tuple[str, str], bool] = {}
        self._waiting: dict[str, dict[str, None]] = {}
        self._process: QProcess | None = None
        self._starts = 0
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_PATIENCE)
        self._later.timeout.connect(self.ask)

    def verdict(self, language: str, letters: str) -> bool | None:
        """Whether no dictionary has a word; None as long as that is not known, which is asked."""
        found = self._known.get((language, letters))
        if found is None and (self._process is not None or self._starts < _STARTS):
            waiting = self._waiting.setdefault(language, {})
            if letters not in waiting:
                waiting[letters] = None
                self._later.start()
        return found

    def unsure(self, words: list[AskedWord]) -> list[AskedWord]:
        """Those of some words that no dictionary has; what is not known yet is asked."""
        known = self._known
        left = [word for word in words if known.get((word.language, word.letters)) is not False]
        return [word for word in left if self.verdict(word.language, word.letters)] if left else []

    def ask(self) -> None:
        """Asks about all words that are waiting."""
        self._later.stop()
        waiting, self._waiting = self._waiting, {}
        for language, letters in waiting.items():
            self._send({"language": language, "words": list(letters)})

    def suggest(self, language: str, letters: str) -> None:
        """Asks what may have been meant by a word."""
        self._send({"language": language, "word": letters})

    def settled(self) -> bool:
        """Whether nothing is waiting to be asked."""
        return not self._waiting

    def close(self) -> None:
        """Ends the process; none is started any more."""
        self._starts = _STARTS
        process, self._process = self._process, None
        if process is not None:
            process.closeWriteChannel()
            if not process.waitForFinished(500):
                process.kill()
                process.waitForFinished(500)

    def _send(self, asked: dict[str, Any]) -> None:
        process = self._running()
        if process is not None:
            process.write(json.dumps(asked).encode() + b"\n")

    def _running(self) -> QProcess | None:
        if self._process is None and self._starts < _STARTS:
            self._starts += 1
            process = QProcess(self)
            process.readyReadStandardOutput.connect(self._read)
            process.finished.connect(lambda *_: self._ended(process))
            process.errorOccurred.connect(lambda *_: self._ended(process))
            process.setStandardErrorFile(QProcess.nullDevice())
            process.start(sys.executable, ["-I", "-m", "hidden_frame.spelling.child"])
            self._process = process
        return self._process

    def _ended(self, process: QProcess) -> None:
        """A dictionary has ended its process: what was asked counts as right."""
        if self._process is process:  # not one that was started since
            self._process = None

    def _read(self) -> None:
        process = self._process
        while process is not None and process.canReadLine():
            answer = json.loads(bytes(process.readLine().data()))
            if "suggestions" in answer:
                self.suggested.emit(answer["language"], answer["word"], answer["suggestions"])
                continue
            doubtful = set(answer["doubtful"])
            for letters in answer["words"]:
                self._known[answer["language"], letters] = letters in doubtful
            self.version += bool(doubtful)
            self.learnt.emit()


@cache
def speller() -> Speller:
    """The one of this process."""
    made = Speller()
    app = QCoreApplication.instance()
    if app is not None:
        app.aboutToQuit.connect(made.close)
    return made


class Doubts:
    """Which words are marked on the desk: those that no dictionary has, but for `own` ones."""

    def __init__(self, own: tuple[str, ...]) -> None:
        self.own = frozenset(own)
        self.version = (speller().version, own)

    def __call__(self, words: list[AskedWord]) -> list[AskedWord]:
        """Those of some words."""
        unsure = speller().unsure(words)
        return [word for word in unsure if not is_own(word.letters, self.own)] if unsure else []


def doubts(own: tuple[str, ...]) -> Doubts | None:
    """What is marked now; None where nothing shall be."""
    return Doubts(own) if settings().now.spelling else None
