"""Reading the words of a command; what is wrong is said with what to do."""

import argparse
import json
from typing import Any, NoReturn


class CommandError(Exception):
    """What was typed cannot be done; the message says what to do."""


class Parser(argparse.ArgumentParser):
    """A parser that raises instead of ending the program."""

    def error(self, message: str) -> NoReturn:
        """Raise CommandError with the usage of the command."""
        raise CommandError(f"{message}. {self.format_usage().strip()}")

    def read(self, words: list[str]) -> argparse.Namespace:
        """Read the words of a command; raises CommandError."""
        options = self.parse_args(words)
        for name, value in vars(options).items():
            if value == [] or value == [[]]:  # what argparse makes of --name=--
                self.error(f"--{name} needs a value")
        return options


def print_json(report: Any) -> int:
    """Print what a command found as JSON; returns the exit code."""
    print(json.dumps(report, indent=2, ensure_ascii=False, allow_nan=False))
    return 0
