"""Colours and the style sheet, light and dark, and the interface's font."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QIcon, QPalette
from PySide6.QtWidgets import QApplication

from hidden_frame.desktop.look.settings import settings
from hidden_frame.resources import FONTS, ICON_THEMES, ICONS

# Twelve colours for master ribbons, spaced in hue and lightness so that people with
# red-green or blue-yellow colour blindness tell neighbours apart; names go with them.
RIBBONS = (
    "#B7791F", "#2F6DB5", "#8C3B7A", "#3F8F6B", "#D1495B", "#5B5F97",
    "#8A6E2F", "#17A2A2", "#B85C1E", "#6C8E23", "#4A4E69", "#C77DBB",
)  # fmt: skip


class Theme(NamedTuple):
    """Every colour of the interface by its use."""

    dark: bool
    window: str
    panel: str
    field: str
    line: str
    text: str
    quiet: str
    action: str
    action_text: str
    action_soft: str
    master: str
    master_soft: str
    desk: str
    desk_master: str
    warning: str
    guide: str = "#1B998B"
    margin: str = "#8B5E34"
    column: str = "#C9A27E"
    bleed: str = "#B4493A"
    edge: str = "#A59F94"
    snap: str = "#E07A1F"
    snap_ground: str = "#A8500C"


LIGHT = Theme(
    False, "#F1EDE6", "#FAF8F4", "#FFFFFF", "#DAD4C9", "#2A2723", "#6B645A", "#1F6F5C",
    "#FFFFFF", "#DCEBE5", "#8F5C12", "#F6E8CD", "#D9D4CA", "#EBDCBD", "#A33A2A",
)  # fmt: skip
DARK = Theme(
    True, "#24221F", "#2D2A27", "#1D1B19", "#45403A", "#EFEAE2", "#ACA499", "#5DB79F",
    "#10211C", "#27443B", "#E2B45F", "#4A3B1E", "#191816", "#3A3120", "#F08D7C",
)  # fmt: skip


def load_fonts() -> None:
    """Makes the program's own fonts known to Qt's widgets."""
    for path in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def current() -> Theme:
    """The theme that was chosen, or the one of the desktop's colour scheme."""
    chosen = settings().now.theme
    if chosen != "desktop":
        return DARK if chosen == "dark" else LIGHT
    scheme = QApplication.styleHints().colorScheme()
    return DARK if scheme == Qt.ColorScheme.Dark else LIGHT


def apply(app: QApplication) -> None:
    """Dresses the application in the current theme."""
    prepare(app)
    app.setStyleSheet(style_sheet(current()))


def dress(app: QApplication) -> None:
    """The style sheet, if it is not worn yet: a window's widgets are dressed all at once when
    they are there, in less time than one by one."""
    sheet = style_sheet(current())
    if app.styleSheet() != sheet:
        app.setStyleSheet(sheet)


def prepare(app: QApplication) -> None:
    """All of the current theme but the style sheet: style, font, colours, icons."""
    theme = current()
    if not app.property("prepared"):  # once: each of these dresses every widget again
        app.setProperty("prepared", True)
        app.setStyle("Fusion")
        font = QFont("Alegreya Sans")
        font.setPixelSize(15)
        app.setFont(font)
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: theme.window,
        QPalette.ColorRole.WindowText: theme.text,
        QPalette.ColorRole.Base: theme.field,
        QPalette.ColorRole.AlternateBase: theme.panel,
        QPalette.ColorRole.Text: theme.text,
        QPalette.ColorRole.Button: theme.panel,
        QPalette.ColorRole.ButtonText: theme.text,
        QPalette.ColorRole.ToolTipBase: theme.panel,
        QPalette.ColorRole.ToolTipText: theme.text,
        QPalette.ColorRole.Highlight: theme.action,
        QPalette.ColorRole.HighlightedText: theme.action_text,
        QPalette.ColorRole.PlaceholderText: theme.quiet,
        QPalette.ColorRole.Accent: theme.action,
        QPalette.ColorRole.Mid: theme.line,
    }
    for role, value in roles.items():
        palette.setColor(role, QColor(value))
    for role in (QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, QColor(theme.quiet))
    app.setPalette(palette)
    # File dialogs and message boxes ask the icon theme; a desktop's own dialogs keep theirs.
    if str(ICON_THEMES) not in QIcon.themeSearchPaths():
        QIcon.setThemeSearchPaths([str(ICON_THEMES), *QIcon.themeSearchPaths()])
    QIcon.setThemeName(f"hidden-frame-{'dark' if theme.dark else 'light'}")


def style_sheet(t: Theme) -> str:
    """Qt's style sheet in a theme's colours."""
    check = (ICONS / f"check-{'dark' if t.dark else 'light'}.svg").as_posix()
    arrow = (ICONS / f"down-{'dark' if t.dark else 'light'}.svg").as_posix()
    return f"""
    QWidget {{ color: {t.text}; }}
    QMainWindow, QDialog {{ background: {t.window}; }}
    QMenuBar {{ background: {t.window}; padding: 1px 6px; }}
    QMenuBar::item {{ padding: 4px 9px; border-radius: 5px; background: transparent; }}
    QMenuBar::item:selected {{ background: {t.action_soft}; }}
    QMenu {{ background: {t.panel}; border: 1px solid {t.line}; padding: 5px; }}
    QMenu::item {{ padding: 5px 26px 5px 14px; border-radius: 5px; }}
    QMenu::item:selected {{ background: {t.action_soft}; color: {t.text}; }}
    QMenu::item:disabled {{ color: {t.quiet}; }}
    QMenu::separator {{ height: 1px; background: {t.line}; margin: 5px 8px; }}
    QToolTip {{ background: {t.panel}; color: {t.text}; border: 1px solid {t.line}; padding: 4px; }}
    #TopBar {{ background: {t.window}; border-bottom: 1px solid {t.line}; }}
    #Panel {{ background: {t.panel}; }}
    #StatusLine {{ background: {t.window}; border-top: 1px solid {t.line}; }}
    #Heading {{ color: {t.quiet}; font-weight: bold; letter-spacing: 0.4px; }}
    QDialogButtonBox {{ dialogbuttonbox-buttons-have-icons: 0; }}
    #Fold {{ color: {t.quiet}; font-weight: bold; letter-spacing: 0.4px; border: none;
        background: transparent; padding: 1px 0; text-align: left; }}
    #Fold:hover {{ color: {t.text}; }}
    #Fold:focus {{ color: {t.action}; }}
    #Level {{ border-radius: 0; border: 1px solid {t.line}; padding: 4px 2px; }}
    #Level:checked {{ background: {t.action_soft}; color: {t.action}; font-weight: bold; }}
    #Title {{ font-size: 18px; font-weight: bold; }}
    #Quiet {{ color: {t.quiet}; }}
    #Error {{ color: {t.warning}; }}
    #LeftBar {{ background: {t.action_soft}; border-bottom: 1px solid {t.line}; }}
    #LeftBar QLabel {{ color: {t.text}; }}
    #Banner {{ background: {t.master_soft}; border-bottom: 1px solid {t.line}; }}
    #Banner QLabel {{ color: {t.text}; }}
    #TextStrip {{ background: {t.panel}; border-bottom: 1px solid {t.line}; }}
    #Notice {{ background: {t.text}; border-radius: 8px; }}
    #Notice QLabel, #Notice QToolButton {{ color: {t.window}; }}
    #Notice QToolButton {{ border: 1px solid {t.quiet}; font-weight: bold; }}
    #Notice QToolButton:hover {{ color: {t.text}; background: {t.action_soft}; }}
    #Card {{ background: {t.window}; border: 1px solid {t.line}; border-radius: 8px; }}
    QToolButton, QPushButton {{ background: transparent; border: 1px solid transparent;
        border-radius: 6px; padding: 4px 10px; }}
    QPushButton {{ background: {t.field}; border-color: {t.line}; }}
    QToolButton:hover, QPushButton:hover {{ background: {t.action_soft}; }}
    QToolButton:focus, QPushButton:focus {{ border: 1px solid {t.action}; }}
    QToolButton:checked {{ background: {t.action}; color: {t.action_text}; }}
    QToolButton:disabled, QPushButton:disabled {{ color: {t.quiet}; }}
    QToolButton::menu-indicator, QPushButton::menu-indicator {{ width: 0; image: none; }}
    #Panel QPushButton {{ padding: 4px 6px; }}
    QPushButton:default {{ background: {t.action}; color: {t.action_text};
        border-color: {t.action}; }}
    #Big {{ font-size: 34px; font-family: "Spectral"; }}
    #Start {{ background: {t.window}; }}
    #Tab {{ padding: 4px 4px; font-size: 13px; }}
    #Stack::item {{ padding: 2px 1px; }}
    #Small {{ padding: 4px; }}
    QFileDialog QToolButton {{ padding: 3px; }}
    #Left {{ background: {t.master_soft}; border: 1px solid {t.master}; border-radius: 8px; }}
    #Strong {{ font-weight: bold; }}
    #Preset {{ background: {t.panel}; border: 1px solid {t.line}; border-radius: 8px; }}
    #Recent {{ background: transparent; }}
    #Preset:hover {{ background: {t.action_soft}; }}
    #Preset:focus {{ border: 1px solid {t.action}; }}
    #Snap {{ padding: 3px 8px; }}
    #Mode {{ font-weight: bold; padding: 5px 16px; }}
    #Mode:checked[masters="true"] {{ background: {t.master}; color: {t.panel}; }}
    #Follow {{ color: {t.master}; border: 1px solid {t.master}; padding: 0 7px;
        border-radius: 9px; font-size: 13px; }}
    #Follow:hover {{ background: {t.master_soft}; }}
    QLineEdit, QComboBox, QSpinBox, QPlainTextEdit, #Chips {{ background: {t.field};
        border: 1px solid {t.line}; border-radius: 5px; padding: 3px 6px;
        selection-background-color: {t.action}; selection-color: {t.action_text}; }}
    QLineEdit:focus, QComboBox:focus, QSpinBox:focus, #Chips:focus {{
        border: 1px solid {t.action}; }}
    #Chips {{ padding: 0 2px; }}
    QLineEdit[wrong="true"] {{ border: 1px solid {t.warning}; }}
    QLineEdit:disabled, QComboBox:disabled {{ color: {t.quiet}; background: {t.panel}; }}
    QComboBox::drop-down {{ border: none; width: 20px; }}
    QComboBox::down-arrow {{ image: url({arrow}); width: 12px; height: 12px; }}
    QComboBox QAbstractItemView {{ background: {t.panel}; border: 1px solid {t.line};
        selection-background-color: {t.action_soft}; selection-color: {t.text}; }}
    QCheckBox::indicator, QListWidget::indicator {{ width: 14px; height: 14px;
        border: 1px solid {t.edge}; border-radius: 4px; background: {t.field}; }}
    QCheckBox::indicator:checked, QListWidget::indicator:checked {{
        background: {t.action}; border-color: {t.action}; image: url({check}); }}
    QCheckBox::indicator:focus {{ border: 1px solid {t.action}; }}
    QTreeWidget {{ selection-background-color: {t.action_soft}; }}
    QTreeWidget, QListWidget, QTableWidget {{ background: {t.panel}; border: none; outline: 0; }}
    QTreeWidget::item {{ padding: 3px 2px; }}
    QListWidget::item {{ padding: 3px 2px; border-radius: 5px; }}
    QTreeWidget::item:hover, QListWidget::item:hover {{ background: {t.window}; }}
    QTreeWidget::item:selected, QListWidget::item:selected {{ background: {t.action_soft};
        color: {t.text}; }}
    QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
    QScrollBar:vertical {{ width: 10px; background: transparent; }}
    QScrollBar:horizontal {{ height: 10px; background: transparent; }}
    QScrollBar::handle {{ background: {t.line}; border-radius: 4px; margin: 1px; min-width: 30px;
        min-height: 30px; }}
    QScrollBar::handle:hover {{ background: {t.edge}; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QSplitter::handle {{ background: {t.line}; }}
    QSplitter::handle:horizontal {{ width: 1px; }}
    QSplitter::handle:vertical {{ height: 1px; }}
    """
