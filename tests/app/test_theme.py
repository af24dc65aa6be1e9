import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtGui import QColor, QFontInfo, QFontMetrics, QRawFont

from vastzone.app.theme import fonts
from vastzone.app.theme.colours import DAY, STAGE, contrast, legible, readable_on


@pytest.mark.parametrize("colours", [DAY, STAGE], ids=["day", "stage"])
def test_text_reads_well_on_every_surface(colours):
    for surface in (colours.paper, colours.panel, colours.raised, colours.sunken):
        for ink in (colours.ink, colours.muted, colours.action, colours.fault, colours.good):
            assert contrast(ink, surface) >= 4.5, (ink, surface)
    assert contrast(colours.on_action, colours.action) >= 4.5
    assert contrast(colours.fault, colours.fault_soft) >= 4.5
    assert contrast(colours.action, colours.fault_soft) >= 4.5
    assert contrast(colours.caution, colours.caution_soft) >= 4.5
    assert contrast(colours.ink, colours.caution_soft) >= 4.5
    for surface in (colours.paper, colours.panel, colours.raised, colours.sunken):
        assert contrast(colours.edge, surface) >= 3, surface
        assert contrast(colours.action, surface) >= 3, surface
    for part in colours.parts:
        assert contrast(readable_on(part), part) >= 4.5, part


@given(st.tuples(*[st.integers(0, 255)] * 6))
def test_any_ink_is_made_legible_on_anything(channels):
    ink, behind = QColor(*channels[:3]), QColor(*channels[3:])
    shade = legible(ink, behind)
    best = max(contrast(strong, behind) for strong in ("#1c1812", "#ffffff"))
    assert contrast(shade, behind) >= min(4.5, best)
    if contrast(ink, behind) >= 4.5:
        assert shade.rgb() == ink.rgb()


def test_the_shipped_family_has_tabular_figures_and_accidentals(qapp):
    fonts.load()
    face = fonts.font(14)
    assert QFontInfo(face).family() == fonts.FAMILY
    metrics = QFontMetrics(face)
    assert len({metrics.horizontalAdvance(str(d)) for d in range(10)}) == 1
    assert all(QRawFont.fromFont(face).supportsCharacter(ord(c)) for c in "♭♯→–−")
