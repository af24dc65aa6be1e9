"""Make the shipped type family from Source Sans 3 by adding a flat and a sharp sign.

The licence (SIL Open Font License 1.1) reserves the name of the original, so the result has
a name of its own.  Run once by a maintainer; the three results are committed.

    python tools/make_font.py FOLDER_WITH_THE_ORIGINAL_TTF_FILES
"""

import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from fontTools.pens.cu2quPen import Cu2QuPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

FAMILY = "Vast Zone Sans"
OUT = Path(__file__).parents[1] / "src/vastzone/fonts"
STEM = {"Regular": 62, "SemiBold": 84, "Bold": 104}
SOURCES = {
    "Regular": "400Regular/SourceSans3_400Regular.ttf",
    "SemiBold": "600SemiBold/SourceSans3_600SemiBold.ttf",
    "Bold": "700Bold/SourceSans3_700Bold.ttf",
}


def polygon(pen: Any, points: list[tuple[float, float]]) -> None:
    pen.moveTo(points[0])
    for point in points[1:]:
        pen.lineTo(point)
    pen.closePath()


def sharp(pen: Any, stem: float) -> None:
    """Two uprights and two rising bars, in a 480-unit cell."""
    thin, thick = stem * 0.8, stem * 1.25
    for x, drop in ((165, 0), (315, 45)):
        polygon(
            pen,
            [
                (x - thin / 2, -130 + drop),
                (x - thin / 2, 700 + drop),
                (x + thin / 2, 700 + drop),
                (x + thin / 2, -130 + drop),
            ],
        )
    for y in (150, 400):
        polygon(
            pen,
            [
                (60, y - thick / 2),
                (60, y + thick / 2),
                (420, y + 80 + thick / 2),
                (420, y + 80 - thick / 2),
            ],
        )


def flat(pen: Any, stem: float) -> None:
    """An upright with one bowl; the counter runs the other way round."""
    thin = stem * 0.8
    pen.moveTo((80, -40))
    pen.lineTo((80, 760))
    pen.lineTo((80 + thin, 760))
    pen.lineTo((80 + thin, 330))
    pen.curveTo((150, 420), (365, 440), (365, 270))
    pen.curveTo((365, 120), (190, 20), (80, -40))
    pen.closePath()
    pen.moveTo((80 + thin, 60))
    pen.curveTo((180, 120), (365 - stem * 1.2, 190), (365 - stem * 1.2, 275))
    pen.curveTo((365 - stem * 1.2, 370), (150, 360), (80 + thin, 255))
    pen.closePath()


def add(
    font: Any,
    codepoint: int,
    name: str,
    draw: Callable[[Any, float], None],
    stem: float,
    width: int,
) -> None:
    pen = TTGlyphPen(None)
    draw(Cu2QuPen(pen, max_err=0.6), stem)
    glyph = pen.glyph()
    font.setGlyphOrder([*font.getGlyphOrder(), name])
    font["glyf"][name] = glyph
    glyph.recalcBounds(font["glyf"])
    font["hmtx"][name] = (width, glyph.xMin)
    for table in font["cmap"].tables:
        if table.isUnicode():
            table.cmap[codepoint] = name


def rename(font: Any, style: str) -> None:
    for record in font["name"].names:
        text = {
            1: FAMILY if style != "SemiBold" else f"{FAMILY} SemiBold",
            3: f"{FAMILY} {style}",
            4: f"{FAMILY} {style}",
            6: f"VastZoneSans-{style}",
            16: FAMILY,
            17: style,
        }.get(record.nameID)
        if text:
            record.string = text


def main(folder: str) -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    for style, path in SOURCES.items():
        font = TTFont(Path(folder) / path)
        scale = font["head"].unitsPerEm / 1000
        assert scale == 1, "outlines are drawn for 1000 units to the em"
        add(font, 0x266F, "uni266F", sharp, STEM[style], 480)
        add(font, 0x266D, "uni266D", flat, STEM[style], 420)
        rename(font, style)
        font.save(OUT / f"VastZoneSans-{style}.ttf")


if __name__ == "__main__":
    main(sys.argv[1])
