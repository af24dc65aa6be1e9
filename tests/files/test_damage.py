"""Any bytes give a value or one sentence, and whatever is read as a plan can be worked with.

``make fuzz`` tries many times as often as the tests do.
"""

import json
import os
import random

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.nasty import NAMES
from tests.scale import scaled
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.cards.card import cards
from vastzone.core.console.circuit import built
from vastzone.core.console.trials import read_pin_test
from vastzone.core.errors import PlanError
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.desk.preferences import load
from vastzone.files import native
from vastzone.files.devices import SHIPPED, read_device
from vastzone.files.midi_file import read_song
from vastzone.files.strikes import read_strikes
from vastzone.files.tables import read_sweep

STRIKES = b"time_ms,pad,peak\n" + b"".join(b"%d,snare,%d\n" % (n * 90, 20 + n) for n in range(40))
SWEEP = b"travel,value\n" + b"".join(b"0.%02d,%d\n" % (n, n) for n in range(99))
PREFERENCES = b'{"theme":"stage","recent":["/a/b.vastzone","/c"]}'
DEVICE = next(iter(sorted(SHIPPED.glob("*.vzdevice")))).read_bytes()
SMALL = native.to_json(RIGS["c"]())
READERS = {
    "plan.vastzone": (SMALL, native.read),
    "demo.vastzone": (demo.READY.read_bytes(), native.read),
    "device.vzdevice": (DEVICE, read_device),
    "song.mid": (demo.TUNE.read_bytes(), read_song),
    "strikes.csv": (STRIKES, read_strikes),
    "sweep.csv": (SWEEP, read_sweep),
    "preferences.json": (PREFERENCES, load),
}
PIECES = (
    b"",
    b"\0",
    b"\xff\xfe",
    b"\xef\xbb\xbf",
    b"[" * 5000,
    b"{" * 300,
    b"9" * 5000,
    b"1e999",
    b"-1",
    b"NaN",
    b"null",
    b'"',
    b"\\ud800",
    b'"id":"x","id":"y",',
    b"\x80" * 40,
    b"MTrk",
    b"\xff\x59\x02\x7f\x7f",
    b"\xff\x51\x03\0\0\0",
    b"x" * 140_000,
    b"=1+1",
    b"\r\n\t,;",
    "ﷺ🎹".encode(),
    b"\x7f\xff\xff\xff",
)
WOUNDS = st.lists(
    st.tuples(
        st.sampled_from(["cut", "flip", "insert", "remove", "twice", "replace"]),
        st.floats(0, 1),
        st.floats(0, 1),
        st.sampled_from(PIECES),
        st.integers(0, 255),
    ),
    min_size=1,
    max_size=4,
)


def wounded(data, wounds):
    """The bytes with some damage done, one after the other."""
    for kind, at, to, piece, value in wounds:
        first, last = sorted((int(at * len(data)), int(to * len(data))))
        last = min(last, first + 400)
        if kind == "cut":
            data = data[:first]
        elif kind == "flip" and data:
            place = min(first, len(data) - 1)
            data = data[:place] + bytes([value]) + data[place + 1 :]
        elif kind == "insert":
            data = data[:first] + piece + data[first:]
        elif kind == "remove":
            data = data[:first] + data[last:]
        elif kind == "twice":
            data = data[:last] + data[first:]
        else:
            data = data[:first] + piece + data[last:]
    return data


def survives(read, path):
    """What a reader makes of a file: a value, or None for one sentence."""
    try:
        return read(path)
    except PlanError as error:
        said = str(error)
        assert "\n" not in said and 10 < len(said) < 900, said
        return None


@pytest.mark.parametrize("name", READERS)
@settings(
    max_examples=scaled(60),
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
)
@given(wounds=WOUNDS)
def test_damaged_files_of_every_kind_are_a_value_or_one_sentence(name, wounds, tmp_path):
    data, read = READERS[name]
    path = tmp_path / name
    path.write_bytes(wounded(data, wounds))
    found = survives(read, path)
    if found is not None and name.endswith(".vastzone"):
        assert native.from_json(native.to_json(found), name) == found


PLANS = {name: native.to_json(made()) for name, made in RIGS.items()}
PLANS["demo"] = demo.AS_FOUND.read_bytes()
ODD = (None, -1, 0, 1, 127, 128, 10**30, 1e308, True, "", "x", "a:b", [], {}, [[]], *NAMES[:6])
NUMBERS = (-(2**62), -7, -1, 0, 1, 2, 12, 16, 17, 63, 127, 128, 511, 16384, 2**31, 2**62)


def places_in(value):
    """Every place in JSON: what holds a value, and its key there."""
    found, waiting = [], [value]
    while waiting:
        held = waiting.pop()
        for key in list(held) if isinstance(held, dict) else range(len(held)):
            found.append((held, key))
            if isinstance(held[key], dict | list):
                waiting.append(held[key])
    return found


def of_its_kind(value, others, chance):
    """Another value of the same kind: a number near or far, a word of the plan, a list cut."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        return chance.choice((*NUMBERS, value + chance.choice((-1, 1, 12))))
    if isinstance(value, list):
        kept = [item for item in value if chance.random() < 0.7]
        return kept + kept[:1] if chance.random() < 0.3 else kept
    alike = [held[key] for held, key in others if type(held[key]) is type(value)]
    return chance.choice(alike)


def changed_somewhere(value, chance):
    """JSON with one value, anywhere in it, replaced: mostly by one of its kind."""
    places = places_in(value)
    holder, key = chance.choice(places)
    new = chance.choice(ODD)
    if chance.random() < 0.85:
        new = of_its_kind(holder[key], places, chance)
    holder[key] = json.loads(json.dumps(new))
    return value


@settings(max_examples=scaled(120), deadline=None)
@given(st.sampled_from(sorted(PLANS)), st.integers(0, 2**32))
def test_whatever_is_read_as_a_plan_can_be_checked_proved_and_dialled(rig, seed):
    chance = random.Random(seed)
    raw = json.loads(PLANS[rig])
    for _ in range(chance.randint(1, 3)):
        raw = changed_somewhere(raw, chance)
    try:
        plan = native.from_json(json.dumps(raw).encode(), "changed")
    except PlanError as error:
        assert "\n" not in str(error) and len(str(error)) < 900
        return
    assert native.from_json(native.to_json(plan), "again") == plan
    check(plan)
    prove(plan)
    causes(plan)
    cards(plan, of_plan(plan), everything=True)


@pytest.mark.parametrize(
    "coding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "utf-32"]
)
def test_text_is_read_in_any_of_its_encodings(tmp_path, coding):
    path = tmp_path / "a.vastzone"
    path.write_bytes(SMALL.decode().encode(coding))
    assert native.read(path) == RIGS["c"]()


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"\xff" * 9, "no text"),
        (b"[" * 3_000_000, "nested"),
        (b'{"a":1,"a":2}', "twice"),
        (b"9" * 9000, "too large"),
        (b"[1e999]", "too large"),
        (b"", "whole JSON"),
        (b" " * (49 << 20), "48 MB"),
    ],
)
def test_what_is_wrong_with_a_file_is_said(tmp_path, data, said):
    path = tmp_path / "a.vastzone"
    path.write_bytes(data)
    with pytest.raises(PlanError) as refused:
        native.read(path)
    assert said in str(refused.value)


@pytest.mark.parametrize("read", [read for _, read in READERS.values() if read is not load])
def test_pipes_devices_and_folders_are_refused_at_once(tmp_path, read):
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    for path in (pipe, tmp_path, tmp_path / "absent", tmp_path / ("x" * 300)):
        assert survives(read, path) is None
    for device in ("/dev/zero", "/dev/tty"):
        if os.path.exists(device):
            assert survives(read, type(pipe)(device)) is None
    loop = tmp_path / "loop"
    loop.symlink_to(loop)
    assert survives(read, loop) is None


@settings(max_examples=scaled(200), deadline=None)
@given(
    st.one_of(
        st.text(max_size=40),
        st.sampled_from(NAMES),
        st.from_regex(r"[LC]?\d{0,5000}-?[LC]\d{1,9}", fullmatch=True),
    )
)
def test_a_pin_report_of_any_kind_is_read_or_refused(words):
    owner = RIGS["d"]().devices[0]
    try:
        read_pin_test(words, built(owner, owner.console))
    except PlanError as error:
        assert len(str(error)) < 900
