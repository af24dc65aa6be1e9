"""Pages drawn by reportlab as SVG: the drawing operators of each page, one by one.

Only the operators that our own pages use are known (ISO 32000-1, 8 and 9): paths, lines, text.
Letters are drawn as their outlines, each told once a page, so that they look and fit the same
everywhere; what they spell is told beside them.
"""

import re
from collections.abc import Callable, Iterator, Mapping
from functools import cache
from typing import Any
from xml.sax.saxutils import quoteattr

from vastzone.files.paper import FONTS

TOKEN = re.compile(rb"\((?:\\.|[^\\()])*\)|/[^\s/\[\]()<>]+|\[|\]|[^\s/\[\]()<>]+", re.DOTALL)
ESCAPES = {b"n": b"\n", b"r": b"\r", b"t": b"\t", b"b": b"\b", b"f": b"\f"}
UNWRITABLE = re.compile("[^\t\n\r -\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
"""What XML 1.0 cannot hold."""
Matrix = tuple[float, float, float, float, float, float]
PLAIN: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def svg_canvas(pages: list[str]) -> Callable[..., Any]:
    """A canvas that puts each page that it shows among the ``pages``, as SVG."""
    from reportlab.pdfgen.canvas import Canvas

    class SvgCanvas(Canvas):  # type: ignore[misc]
        def showPage(self) -> None:
            code = "\n".join(self._code).encode("latin-1")
            pages.append(_Page(self._pagesize, _fonts(self._doc)).drawn(code))
            super().showPage()

    return SvgCanvas


def _fonts(document: Any) -> Mapping[str, tuple[str, Any]]:
    """The fonts of a document by the names in its pages: their own names, and their letters."""
    from reportlab.pdfbase import pdfmetrics

    fonts: dict[str, tuple[str, Any]] = {}
    for name in pdfmetrics.getRegisteredFontNames():
        font = pdfmetrics.getFont(name)
        state = getattr(font, "state", {}).get(document)
        if state is None:
            continue
        for number, letters in enumerate(state.subsets):
            fonts[font.getSubsetInternalName(number, document)[1:]] = (name, letters)
    return fonts


class _Page:
    """Reads operators and writes elements; the state is that of a PDF page."""

    def __init__(self, size: tuple[float, float], fonts: Mapping[str, tuple[str, Any]]) -> None:
        self._wide, self._high = size
        self._fonts = fonts
        self._out: list[str] = []
        self._matrix: Matrix = PLAIN
        self._stroke, self._fill, self._line = "#000000", "#000000", 1.0
        self._saved: list[tuple[Matrix, str, str, float]] = []
        self._path: list[str] = []
        self._text: Matrix = PLAIN
        self._begin: Matrix = PLAIN
        self._font, self._size, self._leading = "", 12.0, 14.4
        self._outlines: dict[str, str] = {}

    def drawn(self, code: bytes) -> str:
        """The page as an SVG document."""
        held: list[Any] = []
        for token in _tokens(code):
            if isinstance(token, str) and not token.startswith("/"):
                self._do(token, held)
                held = []
            else:
                held.append(token)
        body = "\n".join(self._out)
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" '
            f'xmlns:xlink="http://www.w3.org/1999/xlink" width="{self._wide:g}pt" '
            f'height="{self._high:g}pt" viewBox="0 0 {self._wide:g} {self._high:g}">\n'
            f'<rect width="100%" height="100%" fill="#ffffff"/>\n'
            f"<defs>{''.join(self._outlines.values())}</defs>\n"
            f'<g transform="translate(0 {self._high:g}) scale(1 -1)">\n{body}\n</g>\n</svg>\n'
        )

    def _do(self, operator: str, held: list[Any]) -> None:
        numbers = [value for value in held if isinstance(value, float)]
        if operator in ("q", "Q"):
            self._save_or_restore(operator)
        elif operator == "cm":
            self._matrix = _times(_matrix(numbers), self._matrix)
        elif operator in ("w", "rg", "RG", "g", "G"):
            self._paint_with(operator, numbers)
        elif operator in ("m", "l", "c", "re", "h"):
            self._draw(operator, numbers)
        elif operator in ("S", "s", "f", "F", "f*", "B", "b", "n"):
            self._end_path(operator)
        elif operator in ("BT", "Tm", "Td", "T*", "TL", "Tf", "Tj"):
            self._write(operator, held, numbers)

    def _save_or_restore(self, operator: str) -> None:
        if operator == "q":
            self._saved.append((self._matrix, self._stroke, self._fill, self._line))
        elif self._saved:
            self._matrix, self._stroke, self._fill, self._line = self._saved.pop()

    def _paint_with(self, operator: str, numbers: list[float]) -> None:
        if operator == "w":
            self._line = numbers[0]
            return
        shades = numbers * 3 if operator in ("g", "G") else numbers
        colour = "#" + "".join(f"{round(255 * shade):02x}" for shade in shades[:3])
        if operator in ("rg", "g"):
            self._fill = colour
        else:
            self._stroke = colour

    def _draw(self, operator: str, numbers: list[float]) -> None:
        if operator == "h":
            self._path.append("Z")
        elif operator == "re":
            x, y, wide, high = numbers
            corners = ((x, y), (x + wide, y), (x + wide, y + high), (x, y + high))
            told = [self._point(*corner) for corner in corners]
            self._path.append(f"M {told[0]} L {told[1]} L {told[2]} L {told[3]} Z")
        else:
            points = [self._point(*pair) for pair in zip(numbers[::2], numbers[1::2], strict=True)]
            self._path.append(f"{operator.upper()} {' '.join(points)}")

    def _point(self, x: float, y: float) -> str:
        a, b, c, d, e, f = self._matrix
        return f"{a * x + c * y + e:.2f} {b * x + d * y + f:.2f}"

    def _end_path(self, operator: str) -> None:
        path, self._path = " ".join(self._path), []
        if operator == "n" or not path:
            return
        if operator in ("s", "b"):
            path += " Z"
        stroked = operator in ("S", "s", "B", "b")
        filled = operator in ("f", "F", "f*", "B", "b")
        stroke = f'stroke="{self._stroke}" stroke-width="{self._line:g}"' if stroked else ""
        fill = self._fill if filled else "none"
        self._out.append(f'<path d="{path}" fill="{fill}" {stroke}/>')

    def _write(self, operator: str, held: list[Any], numbers: list[float]) -> None:
        if operator == "BT":
            self._text = self._begin = PLAIN
        elif operator == "Tm":
            self._text = self._begin = _matrix(numbers)
        elif operator == "TL":
            self._leading = numbers[0]
        elif operator in ("Td", "T*"):
            x, y = numbers if operator == "Td" else (0.0, -self._leading)
            self._begin = self._text = _times((1.0, 0.0, 0.0, 1.0, x, y), self._begin)
        elif operator == "Tf":
            self._font, self._size = str(held[0])[1:], numbers[0]
        else:
            self._show(held[-1])

    def _show(self, data: bytes) -> None:
        from reportlab.pdfbase.pdfmetrics import stringWidth

        name, letters = self._fonts.get(self._font, ("VZ-Regular", None))
        words = "".join(chr(letters[code]) for code in data) if letters is not None else ""
        wide = stringWidth(words, name, self._size)
        if words.strip():
            matrix = _times(self._text, self._matrix)
            told = " ".join(f"{value:.3f}" for value in matrix)
            font = outlines(name)
            scale = self._size / font.units
            spelled = quoteattr(UNWRITABLE.sub("", words))
            self._out.append(
                f'<g transform="matrix({told}) scale({scale:.6f})" fill="{self._fill}" '
                f"aria-label={spelled}>{self._letters(font, words)}</g>"
            )
        self._text = _times((1.0, 0.0, 0.0, 1.0, wide, 0.0), self._text)

    def _letters(self, font: "Outlines", words: str) -> str:
        """Each letter after the other, as a use of its outline."""
        x, used = 0, []
        for letter in words:
            ident = f"{font.name}-{ord(letter):x}"
            path = font.path(letter)
            if path:
                self._outlines[ident] = f'<path id="{ident}" d="{path}"/>'
                used.append(f'<use xlink:href="#{ident}" x="{x}"/>')
            x += font.advance(letter)
        return "".join(used)


class Outlines:
    """The outlines of a font's letters, in its own units."""

    def __init__(self, name: str) -> None:
        from fontTools.ttLib import TTFont

        self.name = name
        self._font = TTFont(FONTS / f"VastZoneSans-{name}.ttf", lazy=True)
        self.units: int = self._font["head"].unitsPerEm
        self._named = self._font.getBestCmap()
        self._glyphs = self._font.getGlyphSet()
        self._paths: dict[str, str] = {}

    def _glyph(self, letter: str) -> Any:
        return self._glyphs[self._named.get(ord(letter), ".notdef")]

    def path(self, letter: str) -> str:
        """The outline of a letter as the data of an SVG path; nothing for a space."""
        known = self._paths.get(letter)
        if known is None:
            known = self._paths[letter] = self._drawn(letter)
        return known

    def _drawn(self, letter: str) -> str:
        from fontTools.pens.svgPathPen import SVGPathPen

        pen = SVGPathPen(self._glyphs)
        self._glyph(letter).draw(pen)
        return str(pen.getCommands())

    def advance(self, letter: str) -> int:
        """How far the next letter stands."""
        return int(self._glyph(letter).width)


@cache
def outlines(name: str) -> Outlines:
    """The outlines of one of our own fonts, «VZ-Bold»; the regular ones for any other."""
    own = name.removeprefix("VZ-")
    return Outlines(own if name.startswith("VZ-") else "Regular")


def _tokens(code: bytes) -> Iterator[Any]:
    """Numbers, names with their stroke, strings as bytes, operators as words."""
    for found in TOKEN.finditer(code):
        piece = found.group()
        if piece.startswith(b"("):
            yield _string(piece[1:-1])
            continue
        if piece in (b"[", b"]"):
            continue
        try:
            yield float(piece)
        except ValueError:
            yield piece.decode("latin-1")


def _string(data: bytes) -> bytes:
    """A string without its escapes: octal, or one letter."""

    def plain(found: re.Match[bytes]) -> bytes:
        code = found.group(1)
        if code[:1].isdigit():
            return bytes((int(code, 8) & 0xFF,))
        return ESCAPES.get(code, code)

    return re.sub(rb"\\([0-7]{1,3}|.)", plain, data, flags=re.DOTALL)


def _matrix(numbers: list[float]) -> Matrix:
    a, b, c, d, e, f = numbers
    return a, b, c, d, e, f


def _times(one: Matrix, other: Matrix) -> Matrix:
    """One transformation, then the other."""
    a, b, c, d, e, f = one
    g, h, i, j, k, m = other
    return (
        a * g + b * i,
        a * h + b * j,
        c * g + d * i,
        c * h + d * j,
        e * g + f * i + k,
        e * h + f * j + m,
    )
