"""Programs that crash, each in a process of its own."""

import subprocess
import sys
from pathlib import Path

from vastzone.files import native

CRASH = """
import os, sys
from pathlib import Path
from vastzone.core.plan.edits.edit import set_plan
from vastzone.desk.recovery import Autosave
from vastzone.desk.session import Desk
folder, plan, name = Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3]
desk = Desk(Autosave(folder))
desk.open(plan)
desk.watch_for_crashes()
desk.perform(set_plan("Rename plan", name=name))
desk.autosave()
print(desk._autosave.copy, flush=True)
if len(sys.argv) > 4:
    import faulthandler
    faulthandler._sigsegv()
os._exit(9)
"""


def crashed(folder, plan, name="Changed", hard=False):
    """The plan that a program had open and changed when it crashed; its copy is in ``folder``.

    A ``hard`` crash is one of the process itself.
    """
    command = [sys.executable, "-c", CRASH, str(folder), str(plan), name, *["hard"] * hard]
    done = subprocess.run(command, capture_output=True, text=True, timeout=60)
    assert done.returncode == (-11 if hard else 9), done.stderr
    return native.read(Path(done.stdout.strip()))
