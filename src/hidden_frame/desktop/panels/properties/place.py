"""Place and size of what is selected, against one of nine points; lining up."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QToolButton, QWidget

from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.icons import dress
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.hands.line_up import AlignTo
from hidden_frame.model.plane.box import Handle

POINTS = tuple((x, y) for y in (-1, 0, 1) for x in (-1, 0, 1))
_NAMES = {-1: ("left", "top"), 0: ("centre", "middle"), 1: ("right", "bottom")}
TARGETS: tuple[tuple[str, AlignTo], ...] = (
    ("selection", "selection"),
    ("margins", "margins"),
    ("page", "page"),
    ("spread", "spread"),
)
ALIGNS = (
    ("align left", "ph.align-left"),
    ("align centre", "ph.align-center-horizontal"),
    ("align right", "ph.align-right"),
    ("align top", "ph.align-top"),
    ("align middle", "ph.align-center-vertical"),
    ("align bottom", "ph.align-bottom"),
    ("distribute across", "ph.columns"),
    ("distribute down", "ph.rows"),
    ("same width", "ph.arrows-left-right"),
    ("same height", "ph.arrows-down-up"),
)


def point_name(point: Handle) -> str:
    """“top left”, “middle”."""
    x, y = _NAMES[point[0]][0], _NAMES[point[1]][1]
    return "middle" if point == (0, 0) else f"{y} {x}"


class NinePoints(QWidget):
    """A small frame with nine points, one of which is the reference point."""

    chosen = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.point: Handle = (-1, -1)
        self.setFixedSize(46, 46)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("Reference point")

    def show_point(self, point: Handle) -> None:
        self.point = point
        self.setToolTip(
            f"X and Y are measured at the {point_name(point)}, which stays put when the item is "
            "resized"
        )
        self.update()

    def place_of(self, point: Handle) -> QPointF:
        return QPointF(23 + point[0] * 16, 23 + point[1] * 16)

    def paintEvent(self, event: QPaintEvent) -> None:
        colours = theme.current()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(colours.edge), 1))
        painter.drawRect(QRectF(7, 7, 32, 32))
        if self.hasFocus():
            painter.setPen(QPen(QColor(colours.action), 1))
            painter.drawRoundedRect(QRectF(0.5, 0.5, 45, 45), 5, 5)
        for point in POINTS:
            on = point == self.point
            painter.setPen(QPen(QColor(colours.action if on else colours.edge), 1.2))
            painter.setBrush(QColor(colours.action if on else colours.field))
            radius = 5 if on else 3.2
            painter.drawEllipse(self.place_of(point), radius, radius)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position()

        def away(point: Handle) -> float:
            return (self.place_of(point) - at).manhattanLength()

        self.chosen.emit(min(POINTS, key=away))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
        }.get(Qt.Key(event.key()))  # fmt: skip
        if step is None:
            super().keyPressEvent(event)
            return
        x, y = self.point[0] + step[0], self.point[1] + step[1]
        self.chosen.emit((max(-1, min(x, 1)), max(-1, min(y, 1))))


def add_reference(form: Form, session: Session) -> NinePoints:
    """The heading PLACE with the nine points beside it."""
    form.grid = None
    row = QHBoxLayout()
    heading = QLabel("PLACE")
    heading.setObjectName("Heading")
    row.addWidget(heading)
    row.addStretch(1)
    points = NinePoints()
    points.chosen.connect(session.set_reference)
    row.addWidget(points)
    form.column.addLayout(row)
    return points


class ArrangeBlock(QWidget):
    """Buttons that line up, space and size, and what they go by."""

    def __init__(self, session: Session, run: Callable[[str], None]) -> None:
        super().__init__()
        self.session = session
        self.buttons: dict[str, QToolButton] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(3)
        for n, (command, picture) in enumerate(ALIGNS):
            button = QToolButton()
            button.setObjectName("Small")
            dress(button, picture)
            button.setToolTip(command.capitalize())
            button.setAccessibleName(command.capitalize())
            button.clicked.connect(lambda _=False, c=command: run(c))
            grid.addWidget(button, *divmod(n, 6))
            self.buttons[command] = button
        self.to = Choice("Line up with")
        self.to.committed.connect(session.set_align_to)

    def load(self) -> None:
        """Greys what needs more items than are selected."""
        several = len(self.session.items) > 1
        for command, button in self.buttons.items():
            enough = several or command.startswith("align")
            button.setEnabled(enough)
        self.to.show_choice(TARGETS, self.session.align_to)


def add_arrange(form: Form, session: Session, run: Callable[[str], None]) -> ArrangeBlock:
    """The heading LINE UP with its buttons and what they go by."""
    form.heading("LINE UP")
    block = ArrangeBlock(session, run)
    form.column.addWidget(block)
    form.row("With the", block.to)
    return block
