"""The one error of edits."""


class EditError(ValueError):
    """An edit that cannot be done: what is wrong, where, and what to do instead."""

    def __init__(self, what: str, where: str = "", do: str = "") -> None:
        super().__init__(" ".join(part for part in (f"{where}: {what}" if where else what, do) if part))
        self.what, self.where, self.do = what, where, do
