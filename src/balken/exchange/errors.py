"""The one error of reading and writing."""

from pathlib import Path


class FileError(Exception):
    """A file that cannot be read or written: what, where, what to do."""

    def __init__(self, what: str, path: Path | str, do: str = "") -> None:
        super().__init__(f"{path}: {what}" + (f" {do}" if do else ""))
        self.what, self.path, self.do = what, str(path), do
