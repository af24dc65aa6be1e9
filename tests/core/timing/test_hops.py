import pytest

from vastzone.core.timing.hops import din_ms, link_ms


def test_din_times_follow_from_the_baud_rate():
    assert din_ms(1) == pytest.approx(0.32)
    assert din_ms(3) == pytest.approx(0.96)
    assert din_ms(3, running_status=True) == pytest.approx(0.64)


def test_links():
    assert (link_ms("usb"), link_ms("bluetooth"), link_ms("internal")) == (1.0, 15.0, 0.0)
