"""The demo: the Paper Lighthouse, a touring shadow-puppet company, as found and ready."""

from pathlib import Path

FOLDER = Path(__file__).parent
AS_FOUND = FOLDER / "as-found.vastzone"
READY = FOLDER / "ready.vastzone"
TUNE = FOLDER / "keepers-stair.mid"
PLANS = {"demo": AS_FOUND, "demo-as-found": AS_FOUND, "demo-ready": READY}
"""The demo plans by the names that commands know them by."""
