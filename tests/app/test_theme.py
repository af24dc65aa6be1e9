import pytest
from PySide6.QtGui import QFontInfo, QFontMetrics, QRawFont

from vastzone.app.theme import fonts
from vastzone.app.theme.colours import DAY, STAGE, contrast, readable_on


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
    for part in colours.parts:
        assert contrast(readable_on(part), part) >= 4.5, part


def test_the_shipped_family_has_tabular_figures_and_accidentals(qapp):
    fonts.load()
    face = fonts.font(14)
    assert QFontInfo(face).family() == fonts.FAMILY
    metrics = QFontMetrics(face)
    assert len({metrics.horizontalAdvance(str(d)) for d in range(10)}) == 1
    assert all(QRawFont.fromFont(face).supportsCharacter(ord(c)) for c in "♭♯→–−")
