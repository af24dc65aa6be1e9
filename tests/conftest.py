"""Shared by every test; nothing of Qt here, the core's tests run without it."""

import pytest
from hypothesis import settings

from tests.scale import scaled

settings.register_profile("patient", deadline=None, max_examples=scaled(20))
settings.load_profile("patient")


@pytest.fixture(autouse=True)
def own_state(tmp_path, monkeypatch):
    """No test sees or leaves preferences and recovery copies of the person running it."""
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
