"""The demo: the Paper Lighthouse, a touring shadow-puppet company, as found and ready."""

from pathlib import Path

FOLDER = Path(__file__).parent
AS_FOUND = FOLDER / "as-found.vastzone"
READY = FOLDER / "ready.vastzone"
TUNE = FOLDER / "keepers-stair.mid"
