import json
import os
import subprocess
import sys

import pytest

from vastzone import demo
from vastzone.cli import main
from vastzone.files import native


def run(capsys, *words):
    status = main([str(w) for w in words])
    told = capsys.readouterr()
    assert "Traceback" not in told.out + told.err
    return status, told.out, told.err


def test_check_tells_faults_by_its_status(capsys):
    status, out, _ = run(capsys, "check", demo.AS_FOUND)
    assert status == 1 and "faults" in out
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
    assert not any(part.startswith("mudlark") for part in notes)
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
        ("why", demo.READY, "heron:nothing"),
        ("why", demo.READY, "heron:keys", "H2"),
        ("cards", demo.READY, "--mark", "heron=done"),
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


def test_numbers_are_worked_out_and_proved(capsys, tmp_path):
    out = tmp_path / "worked.vastzone"
    status, told, _ = run(capsys, "numbers", demo.AS_FOUND, "-o", out, "--json")
    assert status == 0 and json.loads(told)["solved"] and json.loads(told)["gap"] == 0
    assert run(capsys, "prove", demo.AS_FOUND)[0] == 1
    status, told, _ = run(capsys, "prove", out, "--json")
    counts = json.loads(told)["counts"]
    assert status == 0 and counts.pop("as meant") > 100 and not any(counts.values())
    told = json.loads(run(capsys, "diff", out, demo.READY, "--json")[1])["differences"]
    fitted = [one for one in told if "Jack Sustain" in one or "Thunder sheet" in one]
    assert len(fitted) == 2, "ready is fitted"
    status, told, _ = run(capsys, "diff", demo.AS_FOUND, out)
    assert status == 1 and "  Zone Bells, channel from 9 to 6.\n" in told


def test_what_would_fall_silent_is_written_only_where_that_is_accepted(capsys, tmp_path):
    from tests.core.solve.test_as_meant import filled

    source, out = tmp_path / "filled.vastzone", tmp_path / "out.vastzone"
    native.write(filled("global"), source)
    status, told, _ = run(capsys, "numbers", source, "-o", out)
    assert status == 1 and "Pad 4 of Pads would fall silent" in told and not out.exists()
    told = json.loads(run(capsys, "numbers", source, "-o", out, "--json")[1])
    assert not told["solved"] and len(told["silent"]) == 1 and not out.exists()
    assert run(capsys, "numbers", source, "-o", out, "--accept")[0] == 0 and out.exists()


def test_wishes_that_clash_are_named_with_mends(capsys, tmp_path):
    from tests.rigs import joined, keyboard, module, part, wish, zone
    from vastzone.core.plan.edits.locks import lock

    plan = joined(
        keyboard(zone("a", 36, 64), zone("b", 60, 96)),
        module(part("one", 1), part("two", 1)),
        wishes=(wish("a", "box:one", 36, 64), wish("b", "box:two", 60, 96)),
    )
    for ref in ("box/part.one/channel", "box/part.two/channel"):
        plan = lock(ref)(plan)
    native.write(plan, tmp_path / "clash.vastzone")
    status, told, _ = run(capsys, "numbers", tmp_path / "clash.vastzone", "--json")
    raw = json.loads(told)
    assert status == 1 and len(raw["locks"]) == 2 and raw["mends"]
    assert run(capsys, "numbers", tmp_path / "clash.vastzone")[0] == 1


def test_cards_are_written_for_what_changed(capsys, tmp_path):
    status, told, _ = run(capsys, "cards", demo.READY, "-o", tmp_path / "out")
    assert status == 0 and "Store to slot 5." in told and "Close its editor" in told
    rows = (tmp_path / "out" / "cards.csv").read_text().splitlines()
    assert any("dial,Zone Bells,9,channel 6,planned" in row for row in rows)
    assert (tmp_path / "out" / "cards.pdf").read_bytes().startswith(b"%PDF")
    assert (tmp_path / "out" / "tracks-curlew.csv").read_text().startswith("track,drum")
    assert run(capsys, "cards", demo.READY, "-o", "/proc/none")[0] == 2


def test_the_library_ships_and_devices_are_reused(capsys, tmp_path):
    status, told, _ = run(capsys, "devices", "--json")
    assert status == 0 and len(json.loads(told)) >= 10
    plan, own = tmp_path / "p.vastzone", tmp_path / "heron.vzdevice"
    assert run(capsys, "devices", demo.READY, "--save", "heron", "-o", own)[0] == 0
    assert run(capsys, "devices", demo.READY, "--add", own, "-o", plan)[0] == 0
    assert "The device Heron 73 2 is new." in run(capsys, "diff", demo.READY, plan)[1]
    own.write_text('{"format": "vastzone-device", "version": 9}')
    assert run(capsys, "devices", demo.READY, "--add", own, "-o", plan)[0] == 2
    assert run(capsys, "devices", demo.READY, "--add", "spoons", "-o", plan)[0] == 2
    told = "Plover: 61 keys, 9 faders"
    assert run(capsys, "devices", demo.READY, "--add", told, "-o", plan, "--force")[0] == 0
    assert "The device Plover is new." in run(capsys, "diff", demo.READY, plan)[1]
    assert run(capsys, "devices", demo.READY, "--add", "9 spoons", "-o", plan)[0] == 2


def test_why_names_the_first_cause_and_the_checklist(capsys):
    status, told, _ = run(
        capsys, "why", demo.AS_FOUND, "heron:keys", "C4", "--scene", "Squall", "--json"
    )
    assert status == 1 and json.loads(told)["cause"]["cause"] == "dead key"
    status, told, _ = run(capsys, "why", demo.READY, "heron:keys", "C4", "--scene", "Squall")
    assert status == 0 and "have power" in told


def test_steps_are_ticked_until_the_device_holds_them(capsys, tmp_path):
    plan = tmp_path / "tour.vastzone"
    plan.write_bytes(demo.READY.read_bytes())
    assert "Zone Swell manual, highest from C6 (96)" in run(capsys, "diff", plan)[1]
    sent = run(capsys, "cards", plan, "--mark", "wren=sent", "--by", "ro")[1]
    assert "Wren 32" in sent and "Store to slot 1." in sent
    assert "Wren 32" not in run(capsys, "cards", plan, "--mark", "wren=stored")[1]
    assert "Wren 32" not in run(capsys, "diff", plan)[1]
    assert run(capsys, "cards", plan, "--mark", "wren=planned")[0] == 2


def test_what_is_dialled_is_proved_by_what_the_devices_hold(capsys, tmp_path):
    plan = tmp_path / "tour.vastzone"
    plan.write_bytes(demo.READY.read_bytes())
    assert run(capsys, "prove", plan)[0] == 0
    status, told, _ = run(capsys, "prove", plan, "--dialled", "--json")
    assert status == 1 and json.loads(told)["counts"]["silent"]
    for device in ("heron", "wren", "dipper", "curlew", "dovecote", "mudlark", "echo-pool"):
        run(capsys, "cards", plan, "--mark", f"{device}=stored")
    for device in ("rookery", "bittern"):
        run(capsys, "cards", plan, "--mark", f"{device}=stored")
    assert run(capsys, "prove", plan, "--dialled")[0] == 0
    assert run(capsys, "diff", plan)[0] == 0


def test_the_memory_of_a_device_goes_into_a_file_and_out_of_one(capsys, tmp_path):
    plan, backup = tmp_path / "tour.vastzone", tmp_path / "heron.vzmemory"
    plan.write_bytes(demo.AS_FOUND.read_bytes())
    assert run(capsys, "memory", plan, "heron", "--save", backup)[0] == 0
    assert run(capsys, "diff", plan, backup)[0] == 0
    run(capsys, "cards", plan, "--mark", "heron=stored")
    status, told, _ = run(capsys, "diff", plan, backup)
    assert status == 1 and "Zone Brass is new" in told
    run(capsys, "memory", plan, "heron", "--load", backup)
    assert run(capsys, "diff", plan, backup)[0] == 0
    told = run(capsys, "memory", plan, "heron", "--begin", "not known")[1]
    assert "Nothing is known of it." in told
    counts = json.loads(run(capsys, "prove", plan, "--dialled", "--json")[1])["counts"]
    assert counts["not known"] > 20


def test_prove_tells_the_causes_with_their_fixes(capsys):
    from vastzone import demo

    assert main(["prove", str(demo.AS_FOUND), "--json"]) == 1
    told = json.loads(capsys.readouterr().out)
    widest = told["causes"][0]
    assert widest["rule"] == "connected twice" and widest["keys"] > 300 and widest["fixes"]
    assert all(c["why"].endswith(".") for c in told["causes"])
    assert main(["prove", str(demo.READY), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["causes"] == []


def test_a_defect_has_a_status_of_its_own_and_a_report(capsys, monkeypatch, tmp_path):
    from vastzone.cli import check

    def broken(*_):
        raise RuntimeError("broken inside")

    monkeypatch.setattr(check, "read_rig", broken)
    status, out, err = run(capsys, "check", demo.READY)
    assert status == 3 and not out and err.count("\n") == 1
    (report,) = (tmp_path / "state").rglob("*.txt")
    assert str(report) in err and "broken inside" in report.read_text()


def test_nothing_is_replaced_unasked(capsys, tmp_path):
    out = tmp_path / "out.vastzone"
    assert run(capsys, "numbers", "demo", "-o", out)[0] == 0
    kept = out.read_bytes()
    status, _, err = run(capsys, "numbers", "demo-ready", "-o", out)
    assert status == 2 and "--force" in err and out.read_bytes() == kept
    assert run(capsys, "numbers", "demo-ready", "-o", out, "--force")[0] == 0
    assert out.read_bytes() != kept
    assert run(capsys, "cards", "demo", "-o", tmp_path)[0] == 0
    assert run(capsys, "cards", "demo", "-o", tmp_path)[0] == 2
    assert run(capsys, "cards", "demo", "--mark", "heron=sent")[0] == 2
