"""The command that lists doubtful words."""

from __future__ import annotations

import json
import sys

from hidden_frame.headless.commands import File, Json, app, opened_and_composed
from hidden_frame.interact.finds.spelling import asked, doubtful_words, pages_in_words
from hidden_frame.spelling.judging import judge_of


def _doubtful(language: str, words: list[str]) -> list[str]:
    judge = judge_of(language)
    return judge.doubtful(words) if judge is not None else []


@app.command("spelling")
def spelling_command(file: File, as_json: Json = False) -> None:
    """List the words that no dictionary has, with the pages they stand on."""
    _, composition = opened_and_composed(file)
    publication = composition.publication
    for language in dict.fromkeys(language for language, _ in asked(publication)):
        if judge_of(language) is None:
            print(f"There is no dictionary for {language}; its words are passed.", file=sys.stderr)
    for word in doubtful_words(publication, _doubtful):
        pages, times = pages_in_words(composition, word.places), len(word.places)
        if as_json:
            row = {"word": word.letters, "language": word.language, "times": times, "pages": pages}
            print(json.dumps(row, ensure_ascii=False))
        else:
            print(f"{word.letters:24} {times:5}  {pages}")
