"""``vastzone`` and ``vastzone demo``: the window."""

import argparse
from pathlib import Path


def run_open(options: argparse.Namespace) -> int:
    """Open the window with a file, or with a new plan."""
    return _run(options.file, untitled=False)


def run_demo(options: argparse.Namespace) -> int:
    """Open the window with a demo plan, which is saved under a name of its own."""
    from vastzone import demo

    return _run(demo.READY if options.ready else demo.AS_FOUND, untitled=True)


def _run(path: Path | None, untitled: bool) -> int:
    from vastzone.app.run import run

    return run(path, untitled)
