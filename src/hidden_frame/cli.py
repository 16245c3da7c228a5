"""The command line over the same core as the window.

hidden-frame [FILE] [--demo]
hidden-frame demo PATH.hframe [--book]
hidden-frame pages FILE --json
hidden-frame contents FILE [--json]
hidden-frame info FILE --json
hidden-frame export FILE OUT.pdf [--pages RANGE]
hidden-frame export FILE OUT-%d.png --dpi N
hidden-frame export --each FILES [--out {name}.pdf] [--jobs N] [--scheduler tcp://…] [--json]
hidden-frame pour MANUSCRIPT FILE [--section NAME] [--out NEW.hframe]
hidden-frame section FILE PAGE [--name NAME] [--style STYLE] [--start N] [--begins WORDS]
hidden-frame stories FILE [--json]
hidden-frame story FILE NAME OUT.docx|.odt|.html|.md|.txt
hidden-frame spelling FILE [--json]
hidden-frame resize FILE --trim 148x210mm [--items follow|scale|stay] [--type] [--out NEW]
hidden-frame status FILE [--json]
hidden-frame run SCRIPT.py [FILE] [ARGUMENTS]
hidden-frame run SCRIPT.py --each FILES [--jobs N] [--scheduler tcp://…] [--json]
hidden-frame install [--remove]
hidden-frame --log
"""

from __future__ import annotations

import gc
import sys

from hidden_frame import __version__

COMMANDS = (
    "demo", "pages", "contents", "info", "export", "pour", "section", "stories", "story",
    "spelling", "resize", "status", "run", "install",
)  # fmt: skip


def _window(arguments: list[str]) -> int:
    """Opens the window; Qt is loaded only here."""
    from hidden_frame.desktop.shell.app import run

    return run(arguments)


def _command(arguments: list[str]) -> None:
    """Runs a command without a window; its libraries are loaded only here."""
    from hidden_frame.headless import app
    from hidden_frame.model.errors import Refusal
    from hidden_frame.typeset.known import KNOWN, ends_file

    gc.enable()
    KNOWN.open(ends_file())
    try:
        app(arguments, prog_name="hidden-frame")
    except Refusal as error:
        print(error, file=sys.stderr)
        sys.exit(1)
    finally:  # a command may end the process
        KNOWN.close()


def main() -> None:
    """The console script: exit status 1 with one sentence on failure, 2 on wrong usage."""
    gc.disable()  # modules are loaded, of which nothing can be collected
    arguments = sys.argv[1:]
    if arguments[:1] == ["--version"]:
        print(f"Hidden Frame {__version__}")
        sys.exit(0)
    if arguments[:1] == ["--log"]:
        from hidden_frame.faultlog import log_file

        print(log_file())
        sys.exit(0)
    if arguments[:1] in (["--help"], ["-h"]):
        print(__doc__)
        sys.exit(0)
    if not arguments or arguments[0] not in COMMANDS:
        sys.exit(_window(arguments))
    _command(arguments)


if __name__ == "__main__":
    main()
