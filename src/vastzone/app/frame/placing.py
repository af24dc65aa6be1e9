"""How large the window is at first, and where: never larger than its screen, never off it."""

from PySide6.QtCore import QRect, QSize

WISHED = QSize(1280, 800)
LEAST = QSize(800, 480)
PLACED = tuple[int, int, int, int]
"""Left, top, width and height."""
GRIP = 60
"""So much of the window's head has to be on a screen for a hand to take hold of it."""


def first_place(screens: list[QRect], kept: PLACED | None) -> QRect:
    """Where the window goes: where it was, if a screen still shows that; else on the first.

    ``screens`` are the free areas of the screens, in their pixels, the main one first.
    """
    if kept is not None:
        was = QRect(*kept)
        head = QRect(was.left(), was.top(), was.width(), GRIP)
        for screen in screens:
            seen = screen.intersected(head)
            if seen.width() >= GRIP and seen.height() >= GRIP // 2:
                return _held_by(screen, was)
    if not screens:
        return QRect(40, 40, WISHED.width(), WISHED.height())
    main = screens[0]
    size = WISHED.boundedTo(main.size())
    left = main.left() + (main.width() - size.width()) // 2
    top = main.top() + (main.height() - size.height()) // 3
    return QRect(left, top, size.width(), size.height())


def _held_by(screen: QRect, was: QRect) -> QRect:
    """The same place, as far as the screen holds it."""
    wide = max(min(LEAST.width(), screen.width()), min(was.width(), screen.width()))
    high = max(min(LEAST.height(), screen.height()), min(was.height(), screen.height()))
    left = max(screen.left(), min(was.left(), screen.left() + screen.width() - wide))
    top = max(screen.top(), min(was.top(), screen.top() + screen.height() - high))
    return QRect(left, top, wide, high)


def text_of_desktop(dots_per_inch: float, points: float, sizes: tuple[int, ...]) -> int:
    """The size of text, of those given, that comes nearest to what the desktop uses.

    96 dots per inch and letters of 10 points are taken as 100 %.
    """
    wanted = 100 * dots_per_inch / 96 * points / 10
    return min(sizes, key=lambda size: abs(size - wanted))
