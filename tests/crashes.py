"""Programs that crash, each in a process of its own."""

import subprocess
import sys

from vastzone.files import native

CRASH = """
import os, sys
from pathlib import Path
from vastzone.core.plan import edits
from vastzone.desk.recovery import Autosave
from vastzone.desk.session import Desk
folder, plan, name = Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3]
desk = Desk(Autosave(folder))
desk.open(plan)
desk.watch_for_crashes()
desk.perform(edits.set_plan("Rename plan", name=name))
desk.autosave()
print(desk._autosave.copy, flush=True)
os._exit(9)
"""


def crashed(folder, plan, name="Changed"):
    """The plan that a program had open and changed when it crashed; its copy is in ``folder``."""
    command = [sys.executable, "-c", CRASH, str(folder), str(plan), name]
    done = subprocess.run(command, capture_output=True, text=True, timeout=60)
    assert done.returncode == 9, done.stderr
    from pathlib import Path

    return native.read(Path(done.stdout.strip()))
