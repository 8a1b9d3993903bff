"""The 3-D view: which roles and storeys its picture shows, and the buttons that choose them."""

from collections.abc import Callable

from PySide6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QVBoxLayout, QWidget

from balken.app.space_picture import Picture
from balken.app.tools import Tool
from balken.documents.cross_section import fill_of
from balken.framing.pieces import Piece
from balken.framing.roles import STUD_ROLES
from balken.model.lookup import by_id
from balken.session.session import Session

COVERS = ("floor deck", "roof deck", "roof plane", "dormer sheathing")
LAYERS = ("studs", "cladding", "sheathing", "lining")
"""Fills of what covers the framing."""
HIDDEN_AT_FIRST = frozenset({"roof deck"})


class SpaceView(QWidget):
    """Shaded solids with edges: drag orbits, right-drag pans, wheel zooms, click selects."""

    def __init__(self, session: Session, tool: Callable[[], Tool]) -> None:
        """``tool``: returns what is in hand on the plan; its marks are shown and clicked here, too."""
        super().__init__()
        self.session, self.tool = session, tool
        self.hidden_roles: set[str] = set(HIDDEN_AT_FIRST)
        self.hidden_storeys: set[str] = set()
        self.picture = Picture(self)
        self.roles, self.storeys = QToolButton(), QToolButton()
        for button, name in ((self.roles, "Roles"), (self.storeys, "Storeys")):
            button.setText(name)
            button.setObjectName("tool")
            button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
            button.setMenu(QMenu(button))
            button.menu().aboutToShow.connect(self._fill_menus)
        fit = QToolButton()
        fit.setText("Whole building")
        fit.setObjectName("tool")
        fit.clicked.connect(self.picture.whole)
        self.framing_alone = False
        self.bare = QToolButton()
        self.bare.setText("Framing alone")
        self.bare.setToolTip("Leave out decks and what covers the studs")
        self.bare.setObjectName("tool")
        self.bare.setCheckable(True)
        self.bare.toggled.connect(self.show_framing_alone)
        row = QHBoxLayout()
        row.setContentsMargins(6, 4, 6, 0)
        for button in (self.roles, self.storeys, self.bare, fit):
            row.addWidget(button)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(row)
        column.addWidget(self.picture, 1)
        session.changed.connect(self.picture.stale)
        session.hidden_changed.connect(self.picture.stale)
        session.selection_changed.connect(self.picture.show_selection)
        session.trial_changed.connect(self.picture.show_trial)

    def _fill_menus(self) -> None:
        roles = sorted({p.role for p in self.session.model.pieces.values()})
        levels = {p.level for p in self.session.model.pieces.values()}
        names = by_id(self.session.project.levels)
        self._fill(self.roles.menu(), [(r, r) for r in roles], self.hidden_roles)
        ordered = sorted(levels, key=lambda v: -names[v].height)
        self._fill(self.storeys.menu(), [(v, names[v].name) for v in ordered], self.hidden_storeys)

    def _fill(self, menu: QMenu, rows: list[tuple[str, str]], hidden: set[str]) -> None:
        menu.clear()
        for key, name in rows:
            action = menu.addAction(name)
            action.setCheckable(True)
            action.setChecked(key not in hidden)
            action.toggled.connect(lambda on, key=key: self.show_group(hidden, key, on))
        menu.addSeparator()
        menu.addAction("Show all", lambda: self.show_all(hidden))

    def show_group(self, hidden: set[str], key: str, on: bool) -> None:
        """Show or hide a role or storey."""
        (hidden.discard if on else hidden.add)(key)
        self.picture.stale()

    def show_all(self, hidden: set[str]) -> None:
        """Show every role or storey."""
        hidden.clear()
        self.picture.stale()

    def show_framing_alone(self, on: bool) -> None:
        """Leave out decks and wall layers, so that the framing shows."""
        self.framing_alone = on
        self.picture.stale()

    def shown(self, piece: Piece) -> bool:
        """Tell whether a piece is shown."""
        if piece.role in STUD_ROLES and not self.framing_alone:
            return False  # inside the layers, not to be seen
        if self.framing_alone and (piece.role in COVERS or (piece.role == "wall layer" and fill_of(piece) in LAYERS)):
            return False
        hidden = self.session.is_hidden(piece.wall if piece.role == "wall layer" else piece.key)
        return not hidden and piece.role not in self.hidden_roles and piece.level not in self.hidden_storeys
