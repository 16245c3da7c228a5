"""Run as a process of its own: a line of JSON in, a line out.

`{"language": "en_GB", "words": [...]}` is answered by the `doubtful` ones, `{"language": ...,
"word": ...}` by `suggestions`; without a dictionary both are empty.  A dictionary that loads for
a second, or ends its process, disturbs nobody.
"""

from __future__ import annotations

import json
import sys
from typing import Any

from hidden_frame.spelling.judging import judge_of


def answer(asked: dict[str, Any]) -> dict[str, Any]:
    """What is answered to a question."""
    judge = judge_of(asked["language"])
    if "word" in asked:
        return {**asked, "suggestions": judge.suggestions(asked["word"]) if judge else []}
    return {**asked, "doubtful": judge.doubtful(asked["words"]) if judge else []}


def main() -> None:
    for line in sys.stdin:
        print(json.dumps(answer(json.loads(line))), flush=True)


if __name__ == "__main__":
    main()
