"""Programs killed while they start, save and copy: ``python -m tests.kills --times 300``."""

import argparse
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from tests.rigs import simple
from vastzone.desk.recovery import discard, leftovers
from vastzone.files import native
from vastzone.files.whole import UNFINISHED

PROGRAM = """
import sys
from pathlib import Path
from vastzone.core.plan.edits.edit import set_plan
from vastzone.desk import preferences
from vastzone.desk.recovery import Autosave, discard, leftovers
from vastzone.desk.session import Desk
folder, plan = Path(sys.argv[1]), Path(sys.argv[2])
settings = folder / "preferences.json"
held, _ = preferences.load(settings)
desk = Desk(Autosave(folder / "recovery"))
desk.open(plan)
desk.watch_for_crashes()
print("up", flush=True)
for left in leftovers(folder / "recovery").offers:
    desk.load(left.plan, left.path, clean=False)
    desk.autosave()
    discard(left.copy)
for number in range(100000):
    desk.perform(set_plan("Count", notes=desk.plan.notes[-400:] + f" {number}"))
    desk.autosave()
    if number % 3 == 2:
        desk.save(plan, over=True)
        held = held.opened(plan)
        preferences.store(held, settings)
"""


def kill_once(folder: Path, plan: Path, chance: random.Random) -> None:
    """Start the program and kill it at any moment; what is left must be whole."""
    before = native.read(plan)
    program = subprocess.Popen(
        [sys.executable, "-c", PROGRAM, str(folder), str(plan)],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    if chance.random() < 0.8:
        assert program.stdout is not None
        program.stdout.readline()
    time.sleep(chance.choice((0.0, 0.01, 0.05, 0.2)) * chance.random())
    program.kill()
    _, said = program.communicate()
    assert not said, said.decode()
    after = native.read(plan)
    assert after.devices == before.devices, "neither the old nor the new plan"
    found = leftovers(folder / "recovery")
    assert len(found.offers) <= 1, "one offer"
    assert not [remark for remark in found.remarks if "damaged" in remark]
    for left in found.offers:
        assert left.plan.devices == before.devices and left.path in (plan, None)
        discard(left.copy)
    again = subprocess.run(
        [sys.executable, "-c", PROGRAM.split("for number")[0], str(folder), str(plan)],
        capture_output=True,
    )
    assert again.returncode == 0, again.stderr.decode()
    litter = [*folder.rglob(f"*{UNFINISHED}"), *plan.parent.glob(f".*{UNFINISHED}")]
    assert not litter, "litter is cleared by the next start"


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--times", type=int, default=300)
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args()
    chance = random.Random(options.seed)
    with tempfile.TemporaryDirectory() as place:
        folder, plan = Path(place) / "state", Path(place) / "plans" / "show.vastzone"
        plan.parent.mkdir()
        native.write(simple(), plan)
        for number in range(options.times):
            kill_once(folder, plan, chance)
            if number % 50 == 49:
                print(f"{number + 1} killed: old or new, one offer, no litter", flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
