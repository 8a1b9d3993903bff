"""The command ``balken``: the window, and the same work without one.

Errors go to standard error with exit code 2 and say what to do.
"""

import re
import sys
from collections.abc import Callable, Sequence
from importlib import import_module
from pathlib import Path

from balken import __version__
from balken.collecting import collecting_later
from balken.commands.parser import CommandError, Parser
from balken.units import UnitError

COMMANDS = {
    "new": ("balken.commands.new", "new"),
    "build": ("balken.commands.report", "build"),
    "mend": ("balken.commands.mend", "mend"),
    "export": ("balken.commands.export", "export_command"),
    "beam": ("balken.commands.beam", "beam"),
    "span": ("balken.commands.span", "span"),
    "footing": ("balken.commands.footing", "footing"),
    "roof": ("balken.commands.roof", "roof"),
    "truss": ("balken.commands.truss", "truss"),
    "earthwall": ("balken.commands.earthwall", "earthwall"),
}
"""Module and function of each command; a module is loaded only when its command is run."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit code."""
    from balken.exchange.file_errors import FileError
    from balken.model.errors import EditError

    words = joined(list(sys.argv[1:] if arguments is None else arguments))
    try:
        with collecting_later():  # until the window stands; what commands make they need to their end
            if words and words[0] in COMMANDS:
                module, name = COMMANDS[words[0]]
                run: Callable[[list[str]], int] = getattr(import_module(module), name)
                return run(words[1:])
            return _window(words)
    except (CommandError, UnitError, EditError, FileError) as error:
        print(f"balken: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0


def joined(words: list[str]) -> list[str]:
    """Join options to negative values, which would else be taken for options: --spacing=-16in."""
    found: list[str] = []
    for word in words:
        if found and found[-1].startswith("--") and "=" not in found[-1] and re.match(r"^-[\d.]", word):
            found[-1] += f"={word}"
        else:
            found.append(word)
    return found


def _window(words: list[str]) -> int:
    parser = Parser(
        prog="balken",
        description=f"Open the window; or one of the commands: {', '.join(COMMANDS)} (balken COMMAND --help).",
    )
    parser.add_argument("file", nargs="?", help="project file to open")
    parser.add_argument("--demo", action="store_true", help="open the demo project")
    parser.add_argument("--version", action="version", version=f"Balken {__version__}")
    options = parser.read(words)
    if options.file and not options.demo and not Path(options.file).exists():
        raise CommandError(f"{options.file}: there is no such file, and no such command. See balken --help.")
    from balken.app.run import run

    return run(options.file, demo=options.demo)


if __name__ == "__main__":
    raise SystemExit(main())
