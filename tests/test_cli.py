import json
import os
import subprocess
import sys

import pytest

from vastzone import demo
from vastzone.cli import main


def run(capsys, *words):
    status = main([str(w) for w in words])
    told = capsys.readouterr()
    assert "Traceback" not in told.out + told.err
    return status, told.out, told.err


def test_check_tells_faults_by_its_status(capsys):
    status, out, _ = run(capsys, "check", demo.AS_FOUND)
    assert status == 1 and "6 faults" in out
    assert run(capsys, "check", demo.READY)[0] == 0


def test_check_speaks_json(capsys):
    _, out, _ = run(capsys, "check", demo.AS_FOUND, "--json")
    rules = {f["rule"] for f in json.loads(out)["findings"]}
    assert {"dead keys", "octave naming", "connected twice", "keys that double"} <= rules


def test_trace_counts_what_each_part_sounded(capsys):
    words = ("trace", demo.READY, "--midi", demo.TUNE, "--scene", "The Keeper's Stair", "--json")
    status, out, _ = run(capsys, *words)
    told = json.loads(out)
    assert status == 0 and told["lost"] == [] and told["hanging"] == 0
    notes = {p["part"]: p["notes"] for p in told["parts"]}
    assert notes["dovecote:strings"] == notes["dovecote:sea-organ"] == 48
    assert min(p["lowest"] for p in told["parts"]) == 28


def test_trace_enters_where_it_is_told(capsys):
    status, out, _ = run(
        capsys, "trace", demo.READY, "--midi", demo.TUNE, "--at", "rookery:din-out", "--json"
    )
    assert [p["part"] for p in json.loads(out)["parts"]] == ["dovecote:viol"]
    assert status == 1


@pytest.mark.parametrize(
    "words",
    [
        ("check", "gone.vastzone"),
        ("check", demo.TUNE),
        ("trace", demo.READY, "--midi", demo.READY),
        ("trace", demo.READY, "--midi", "gone.mid"),
        ("trace", demo.READY, "--midi", demo.TUNE, "--scene", "Noon"),
        ("trace", demo.READY, "--midi", demo.TUNE, "--at", "nobody"),
        ("trace", demo.READY, "--midi", demo.TUNE, "--at", "heron:nothing"),
    ],
)
def test_what_cannot_be_done_is_one_sentence_and_status_2(capsys, words):
    status, out, err = run(capsys, *words)
    assert status == 2 and not out
    assert err.startswith("vastzone: ") and err.count("\n") == 1


def test_without_a_display_the_window_says_how_to_go_on():
    env = {
        k: v
        for k, v in os.environ.items()
        if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    }
    told = subprocess.run(
        [sys.executable, "-m", "vastzone", "demo"],
        env=env,
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert told.returncode == 2 and told.stderr.count("\n") == 1 and "xvfb-run" in told.stderr
