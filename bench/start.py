"""Start to first painted window, against a bare PySide6 window, each in a fresh process."""

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator

from bench.table import Row

BARE = """
from PySide6.QtWidgets import QApplication, QMainWindow
class Window(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event); print(time.time()); app.quit()
app = QApplication([]); w = Window(); w.resize(1280, 800); w.show(); app.exec()
"""
OURS = """
import os, sys
from vastzone.app import run, window
painted = window.Window.paintEvent
def paint(self, event):
    painted(self, event); print(time.time(), flush=True); os._exit(0)
window.Window.paintEvent = paint
from vastzone import demo
run.run(demo.AS_FOUND, True)
"""
SHOWN = """
import os, sys
from vastzone.app import run
from vastzone.app.views.keys import canvas
painted = canvas.KeysCanvas.paintEvent
def paint(self, event):
    painted(self, event)
    if self.picture.beds:
        print(time.time(), flush=True); os._exit(0)
canvas.KeysCanvas.paintEvent = paint
from vastzone import demo
run.run(demo.AS_FOUND, True)
"""


def _seconds(code: str) -> float:
    timed = f"import time\n{code}"
    begun = time.time()
    with tempfile.TemporaryDirectory() as state:
        told = subprocess.run(
            [sys.executable, "-c", timed],
            capture_output=True,
            text=True,
            check=True,
            env={**_env(), "XDG_STATE_HOME": state},
        )
    return float(told.stdout.split()[0]) - begun


def _env() -> dict[str, str]:
    """As on a person's machine, where Python keeps what it has compiled."""
    return {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}


def rows() -> Iterator[Row]:
    codes = {"bare": BARE, "ours": OURS, "shown": SHOWN}
    runs = [{name: _seconds(code) for name, code in codes.items()} for _ in range(6)]
    bare, ours, shown = (min(run[name] for run in runs) for name in codes)
    against = f"{bare * 1e3:.0f} ms bare window"
    yield Row("Start to first painted window", f"{ours * 1e3:.0f} ms", against, ours / bare, 2.0)
    yield Row("Start to the demo on its keys", f"{shown * 1e3:.0f} ms", against, shown / bare, None)
