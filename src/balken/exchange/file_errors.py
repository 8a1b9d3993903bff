"""The one error of reading and writing, and how long work is watched and stopped."""

from collections.abc import Callable
from pathlib import Path


class FileError(Exception):
    """A file that cannot be read or written: what, where, what to do."""

    def __init__(self, what: str, path: Path | str, do: str = "") -> None:
        super().__init__(f"{path}: {what}" + (f" {do}" if do else ""))
        self.what, self.path, self.do = what, str(path), do

    def __reduce__(self) -> tuple[type["FileError"], tuple[str, str, str]]:
        return type(self), (self.what, self.path, self.do)


Progress = Callable[[int, int], bool]
"""Called with (done, all); returning False stops the work."""


class Stopped(Exception):
    """The user stopped a long piece of work; nothing was read or written."""
