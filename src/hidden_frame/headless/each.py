"""One command for many files: each in a process of its own, so many at a time as wanted, or on the
machines of a Dask cluster.  A file that fails costs itself alone, and is told.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import Executor, Future, ThreadPoolExecutor, as_completed
from contextlib import contextmanager
from pathlib import Path
from typing import Any, NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.model.plural import plural

_LAST = 400  # characters of what a command said that are told
_BROKEN = "the program ended ({code}); the log says more"


class Task(NamedTuple):
    """A command for one file: its arguments, and the file that it writes ("": none)."""

    file: str
    arguments: tuple[str, ...]
    out: str = ""


class Outcome(NamedTuple):
    """What became of a file: whether it went well, what was written, the seconds it took, and what
    was said."""

    file: str
    ok: bool
    out: str
    seconds: float
    said: tuple[str, ...]


def done(task: Task) -> Outcome:
    """Does one command in a process of its own; a process that dies is an outcome too."""
    begun = time.perf_counter()
    command = [sys.executable, "-m", "hidden_frame.cli", *task.arguments]
    ended = subprocess.run(command, capture_output=True, text=True, stdin=subprocess.DEVNULL)
    said = tuple(line[-_LAST:] for line in ended.stderr.splitlines() if line.strip())
    if ended.returncode and (ended.returncode != 1 or not said or "Traceback" in ended.stderr):
        said = (*said[-1:], _BROKEN.format(code=ended.returncode))
    well = ended.returncode == 0
    out = task.out if well else ""
    return Outcome(task.file, well, out, round(time.perf_counter() - begun, 2), said)


def outcomes(tasks: Sequence[Task], executor: Executor) -> Iterator[Outcome]:
    """Each outcome as it comes; what the executor itself lost is one too."""
    waiting: dict[Future[Outcome], Task] = {executor.submit(done, task): task for task in tasks}
    for future in as_completed(waiting):
        task = waiting[future]
        try:
            yield Outcome(*future.result())
        except Exception as error:  # a worker that was lost, a cluster that broke off
            yield Outcome(task.file, False, "", 0.0, (f"{type(error).__name__}: {error}",))


@contextmanager
def executor_of(jobs: int, scheduler: str) -> Iterator[Executor]:
    """This machine's, so many files at a time (0: as many as it has cores); or a cluster's."""
    if not scheduler:
        with ThreadPoolExecutor(jobs or os.cpu_count() or 1) as pool:
            yield pool
        return
    try:
        from distributed import Client
    except ImportError as error:
        raise Refusal("Clusters need Dask; install “hidden-frame[cluster]”.") from error
    try:
        client = Client(scheduler, timeout=8)
    except (OSError, TimeoutError, ValueError) as error:
        raise Refusal(
            f"There is no Dask scheduler at “{scheduler}”; start one, or leave --scheduler out."
        ) from error
    with client, client.get_executor() as pool:
        yield pool


def named(pattern: str, file: str) -> str:
    """The name of a file's own output: `{name}` is its name without its ending, `{folder}` where
    it is.

    >>> named("out/{name}.pdf", "issues/may.hframe")
    'out/may.pdf'
    >>> named("{folder}/{name}.pdf", "issues/may.hframe")
    'issues/may.pdf'
    """
    path = Path(file)
    try:
        return pattern.format(name=path.stem, folder=str(path.parent))
    except (KeyError, IndexError, ValueError) as error:
        raise Refusal(
            f"“{pattern}” is not a pattern for names; use {{name}} and {{folder}}.", field="out"
        ) from error


def checked(files: Sequence[str], outs: Sequence[str]) -> None:
    """Raises `Refusal` where there is nothing to do, or where two files would write the same."""
    if not files:
        raise Refusal("There is no file to go through; name some behind --each.")
    twice = [out for out in outs if out and outs.count(out) > 1]
    if twice:
        raise Refusal(
            f"Several files would be written to “{twice[0]}”; put {{name}} into the pattern.",
            field="out",
        )


def run_all(
    tasks: Sequence[Task], jobs: int, scheduler: str, as_json: bool,
    tell: Callable[[str], object] = print,
) -> int:  # fmt: skip
    """Runs a command for each file and tells of each as it ends; how many failed."""
    failed = 0
    with executor_of(jobs, scheduler) as executor:
        for outcome in outcomes(tasks, executor):
            failed += not outcome.ok
            tell(_as_json(outcome) if as_json else _as_line(outcome))
    if not as_json:
        well = len(tasks) - failed
        told = plural(well, "{n} file done", "{n} files done")
        tell(f"{told}, {plural(failed, '{n} failed', '{n} failed')}.")
    return failed


def _as_json(outcome: Outcome) -> str:
    row: dict[str, Any] = outcome._asdict()
    return json.dumps(row, ensure_ascii=False)


def _as_line(outcome: Outcome) -> str:
    said = "; ".join(outcome.said)
    if outcome.ok:
        to = f" → {outcome.out}" if outcome.out else ""
        return f"{outcome.file}{to} ({outcome.seconds:.1f} s)" + (f": {said}" if said else "")
    return f"{outcome.file} failed: {said}"


def options(**given: object) -> Iterable[str]:
    """Options of a command line that differ from nothing.

    >>> list(options(pages="all", dpi=144, bleed=""))
    ['--pages', 'all', '--dpi', '144']
    """
    for name, value in given.items():
        if value not in ("", None):
            yield from (f"--{name.replace('_', '-')}", str(value))
