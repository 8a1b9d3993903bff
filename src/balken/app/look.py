"""Fonts and the style sheet of the window."""

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from balken.documents.lettering import FAMILY, font_path
from balken.documents.style import INK, MUTED, SELECTED, SHEET

PANEL = "#F3EEE3"
LINE = "#D8D0C0"
FIELD = "#FFFFFF"
ACCENT = "#2E6A6A"

STYLE = f"""
QWidget {{ color: {INK}; }}
QMainWindow, QDialog {{ background: {PANEL}; }}
QMenuBar, QMenu {{ background: {PANEL}; }}
QMenu::item:selected, QMenuBar::item:selected {{ background: #E2D9C6; }}
QLabel#projectName {{ font-size: 17px; font-weight: 600; padding: 0 14px 0 6px; }}
QLabel#cardTitle {{ font-size: 16px; font-weight: 600; }}
QLabel#cardSub, QLabel#hint {{ color: {MUTED}; }}
QLabel#heading {{ font-weight: 600; color: {ACCENT}; padding-top: 6px; }}
QLabel#problem {{ color: #A82A10; }}
QToolButton#stage {{ border: none; border-bottom: 3px solid transparent; padding: 7px 11px 5px 11px; font-size: 14px; }}
QToolButton#stage:checked {{ border-bottom: 3px solid {ACCENT}; font-weight: 600; background: {SHEET}; }}
QToolButton#stage:hover {{ background: #EAE3D3; }}
QToolButton#tool {{ border: 1px solid {LINE}; border-radius: 3px; padding: 4px 9px; background: {SHEET}; }}
QToolButton#tool:checked {{ background: {ACCENT}; color: white; border-color: {ACCENT}; }}
QToolButton#tool:hover:!checked {{ background: #EAE3D3; }}
QToolButton#tool:disabled {{ color: #A9A294; }}
QToolButton#stage:focus {{ background: #EAE3D3; }}
QToolButton#tool:focus {{ border: 1px solid {ACCENT}; }}
QPushButton {{ border: 1px solid {LINE}; border-radius: 3px; padding: 5px 12px; background: {SHEET}; }}
QPushButton:hover {{ background: #EAE3D3; }}
QPushButton:focus {{ border-color: {ACCENT}; }}
QPushButton#primary {{ background: {ACCENT}; color: white; border-color: {ACCENT}; font-weight: 600; }}
QPushButton#primary:disabled {{ background: #B9C4C2; border-color: #B9C4C2; }}
QLineEdit {{ background: {FIELD}; border: 1px solid {LINE}; border-radius: 2px; padding: 2px 5px;
  selection-background-color: {ACCENT}; selection-color: white; min-height: 18px; }}
QLineEdit:focus {{ border: 1px solid {ACCENT}; }}
QLineEdit[wrong="true"] {{ border: 1px solid {SELECTED}; background: #FDEDE8; }}
QTabWidget::pane {{ border: none; border-top: 1px solid {LINE}; }}
QTabBar::tab {{ padding: 5px 13px; background: transparent; border: none; border-bottom: 2px solid transparent; }}
QTabBar::tab:selected {{ border-bottom: 2px solid {ACCENT}; font-weight: 600; }}
QTreeView, QTableView {{ background: {SHEET}; alternate-background-color: #F6F1E6; border: none;
  gridline-color: {LINE}; selection-background-color: #F7D9CF; selection-color: {INK}; }}
QComboBox QAbstractItemView {{ background: {FIELD}; selection-background-color: #F7D9CF; selection-color: {INK}; }}
QHeaderView::section {{ background: {PANEL}; border: none; border-bottom: 1px solid {LINE}; padding: 3px 6px; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: {PANEL}; border: none; }}
QStatusBar {{ background: {PANEL}; border-top: 1px solid {LINE}; }}
QScrollBar:vertical {{ width: 10px; background: transparent; }}
QScrollBar::handle:vertical {{ background: #CBC2AF; border-radius: 4px; min-height: 24px; margin: 1px; }}
QScrollBar:horizontal {{ height: 10px; background: transparent; }}
QScrollBar::handle:horizontal {{ background: #CBC2AF; border-radius: 4px; min-width: 24px; margin: 1px; }}
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page,
QScrollBar::sub-page {{ background: none; border: none; width: 0; height: 0; }}
QSplitter::handle {{ background: {LINE}; }}
QToolTip {{ background: {INK}; color: white; border: none; padding: 3px; }}
"""


def dress(app: QApplication) -> None:
    """Give the application its font, palette and style sheet."""
    for bold in (False, True):
        QFontDatabase.addApplicationFont(str(font_path(bold)))
    font = QFont(FAMILY)
    font.setPixelSize(13)
    app.setFont(font)
    app.setStyle("Fusion")
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, PANEL),
        (QPalette.ColorRole.Base, FIELD),
        (QPalette.ColorRole.Button, PANEL),
        (QPalette.ColorRole.Text, INK),
        (QPalette.ColorRole.WindowText, INK),
        (QPalette.ColorRole.ButtonText, INK),
        (QPalette.ColorRole.Highlight, ACCENT),
        (QPalette.ColorRole.HighlightedText, "#FFFFFF"),
        (QPalette.ColorRole.PlaceholderText, MUTED),
    ):
        palette.setColor(role, QColor(colour))
    app.setPalette(palette)
    app.setStyleSheet(STYLE)
