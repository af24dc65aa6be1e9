"""Many monkeys, each in a process of its own: ``python -m tests.app.monkeys --seeds 1-20``.

Exit status 1 when any of them found something; each failure is told with the end of its output.
"""

import argparse
import faulthandler
import os
import random
import resource
import subprocess
import sys
import tempfile
import time
import traceback
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from vastzone import demo

MEMORY = 6 << 30
"""Bytes of memory that a monkey may make the window use."""
PLANS = ("demo", "ready", "empty", "full", "a", "b", "c", "d")


def main() -> int:
    options = _parser().parse_args()
    if options.one is not None:
        return play_one(options.one, options.plan[0], options)
    first, _, last = options.seeds.partition("-")
    seeds = range(int(first), int(last or first) + 1)
    runs = [(seed, plan) for plan in options.plan for seed in seeds]
    with ThreadPoolExecutor(options.jobs) as pool:
        results = list(pool.map(lambda run: _one(*run, options), runs))
    failed = [r for r in results if not r]
    print(f"{len(results) - len(failed)} of {len(results)} monkeys went home unharmed.")
    return 1 if failed else 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seeds", default="1-4", help="for example 1-20")
    parser.add_argument("--actions", type=int, default=1500)
    parser.add_argument("--minutes", type=float, default=0.0, help="go on for so long instead")
    parser.add_argument("--wedge", type=float, default=1.0, help="seconds; more on a busy machine")
    parser.add_argument("--plan", nargs="+", choices=PLANS, default=["demo"])
    parser.add_argument("--jobs", type=int, default=2)
    parser.add_argument("--one", type=int, help=argparse.SUPPRESS)
    return parser


def _one(seed: int, plan: str, options: argparse.Namespace) -> bool:
    """One monkey in a process of its own; whether it went home unharmed."""
    command = [
        sys.executable,
        "-X",
        "faulthandler",
        "-m",
        "tests.app.monkeys",
        "--one",
        str(seed),
        "--plan",
        plan,
        "--actions",
        str(options.actions),
        "--minutes",
        str(options.minutes),
        "--wedge",
        str(options.wedge),
    ]
    environment = dict(os.environ)
    if not environment.get("DISPLAY"):
        environment.setdefault("QT_QPA_PLATFORM", "offscreen")
    done = subprocess.run(command, capture_output=True, text=True, env=environment)
    said = done.stdout.strip().splitlines()
    good = done.returncode == 0
    print(
        f"{plan} {seed}: {'good' if good else f'FAILED ({done.returncode})'}"
        f"  {said[-1] if said else ''}",
        flush=True,
    )
    if not good:
        print("\n".join(done.stderr.strip().splitlines()[-80:]), flush=True)
    return good


def play_one(seed: int, plan: str, options: argparse.Namespace) -> int:
    """Play one seed here; every error, Qt warning and wedge ends it."""
    faulthandler.enable()
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    from PySide6.QtCore import qInstallMessageHandler
    from PySide6.QtWidgets import QApplication

    from tests.app.monkey import Monkey, answer_dialogs
    from vastzone.app import dialogs
    from vastzone.app.jobs import wind_up
    from vastzone.app.run import WIND_UP_S
    from vastzone.app.window import Window

    errors: list[str] = []
    qInstallMessageHandler(lambda kind, context, text: _warned(errors, text))
    sys.excepthook = lambda *raised: errors.append(_told(raised))
    QApplication.setStyle("Fusion")
    app = QApplication([])
    with tempfile.TemporaryDirectory() as folder:
        files = odd_files(Path(folder))
        answer_dialogs(lambda name, run: setattr(dialogs, name, run), random.Random(seed), files)
        window = Window(Path(folder) / "state")
        window.fill()
        window.show()
        load(window, plan)
        window.desk.wake()
        monkey = Monkey(window, seed, options.wedge)
        monkey.errors = errors
        until = time.monotonic() + 60 * options.minutes
        rounds = 0
        while rounds == 0 or time.monotonic() < until:
            _round(monkey, 100 if options.minutes else options.actions, errors)
            rounds += 1
        done = sum(monkey.done.values())
        print(f"{done} actions, longest {monkey.longest * 1e3:.0f} ms", flush=True)
        if not errors:
            window.desk.load(window.desk.plan, None)
            window.close()
        app.processEvents()
    for error in errors[:3]:
        print(error, file=sys.stderr)
    status = 1 if errors else 0
    if not wind_up(WIND_UP_S):  # as the program itself ends
        sys.stderr.flush()
        os._exit(status)
    return status


def _round(monkey, actions, errors) -> None:
    try:
        monkey.play(actions)
    except Exception:
        errors.append(traceback.format_exc())
    if errors:
        raise SystemExit(_give_up(monkey, errors))


def _give_up(monkey, errors) -> int:
    print(f"after {len(monkey.trail)} actions", flush=True)
    for error in errors[:2]:
        print(error, file=sys.stderr)
    print(f"last gestures: {monkey.trail[-8:]}", file=sys.stderr)
    sys.stderr.flush()
    os._exit(1)


def _warned(errors: list[str], text: str) -> None:
    if "propagateSizeHints" not in text and "does not support" not in text:
        errors.append(f"Qt said: {text}")


def _told(raised) -> str:
    return "".join(traceback.format_exception(*raised))


def odd_files(folder: Path) -> list[Path]:
    """Files to open and save: copies of the demos, a damaged one, an empty one, one not there."""
    copies = [folder / "found.vastzone", folder / "ready.vastzone"]
    for copy, plan in zip(copies, (demo.AS_FOUND, demo.READY), strict=True):
        copy.write_bytes(plan.read_bytes())
    damaged, empty = folder / "damaged.vastzone", folder / "empty.mid"
    damaged.write_text('{"format": "vastzone", "version": 1, "plan": {')
    empty.write_bytes(b"")
    return [*copies, damaged, empty, folder / "absent.vastzone"]


def load(window, plan: str) -> None:
    """Open the plan of that name."""
    if plan in ("demo", "ready"):
        path = demo.AS_FOUND if plan == "demo" else demo.READY
        window.documents.open_path(path, untitled=True)
    elif plan == "empty":
        window.begin()
    elif plan == "full":
        from bench.full_house import full_house

        window.desk.load(full_house(), None)
    else:
        from tests.trial_rigs import RIGS

        window.desk.load(RIGS[plan](), None)


if __name__ == "__main__":
    sys.exit(main())
