"""Real ports: a JACK server with its dummy driver, another process playing into the program."""

import importlib.util
import shutil
import subprocess
import sys
import time
from pathlib import Path

import pytest

from vastzone.core.midi.messages import Message
from vastzone.ports.real import RealSystem
from vastzone.ports.standin import StandIn
from vastzone.ports.watch import Inputs

PLAYER = """
import rtmidi, sys, time
out = rtmidi.MidiOut(rtmidi.API_UNIX_JACK, "Heron 73")
out.open_virtual_port("keys")
for line in sys.stdin:
    for note in (60, 64, 67):
        out.send_message([0x90, note, 90]); time.sleep(0.02)
        out.send_message([0x80, note, 0]); time.sleep(0.02)
out.close_port()
"""

pytestmark = pytest.mark.skipif(
    not shutil.which("jackd") or not importlib.util.find_spec("rtmidi"),
    reason="JACK (Debian’s jackd2) or python-rtmidi is not here",
)


def wait_for(happened, seconds=10.0):
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        if happened():
            return True
        time.sleep(0.05)
    return False


def clear_dead_servers():
    """Servers that were killed stay in a registry of few places: empty it when none is alive."""
    names = (p.read_text().strip() for p in Path("/proc").glob("[0-9]*/comm") if p.exists())
    if "jackd" not in set(names):
        for left in Path("/dev/shm").glob("jack*"):
            if left.is_file():
                left.unlink(missing_ok=True)


@pytest.fixture(scope="module")
def registry():
    """Emptied once: this process goes on using the one that it found."""
    clear_dead_servers()


@pytest.fixture
def jack(monkeypatch, registry):
    name = "vastzone-test"
    monkeypatch.setenv("JACK_DEFAULT_SERVER", name)
    monkeypatch.setenv("JACK_NO_AUDIO_RESERVATION", "1")
    server = subprocess.Popen(
        ["jackd", "-r", "-t", "5000", "-n", name, "-d", "dummy", "-r", "48000", "-p", "1024"],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    yield server
    server.terminate()  # a killed server would stay in the registry of servers, which has few places
    try:
        server.wait(5)
    except subprocess.TimeoutExpired:
        server.kill()
        server.wait()


def test_another_process_plays_into_the_input(jack):
    inputs = Inputs(StandIn(), (RealSystem("UNIX_JACK"),))
    assert wait_for(lambda: not (inputs.refresh(), inputs.listing.missing)[1])
    player = subprocess.Popen([sys.executable, "-c", PLAYER], stdin=subprocess.PIPE, text=True)
    found = []
    assert wait_for(lambda: found.extend(inputs.refresh().added) or found)
    assert "Heron 73" in found[0].shown
    port = inputs.open(found[0])
    heard = []
    for _ in range(4):  # a busy machine may lose what is played while ports are being joined
        heard.clear()
        time.sleep(0.3)
        port.read()
        player.stdin.write("\n")
        player.stdin.flush()
        if wait_for(lambda: heard.extend(port.read()) or len(heard) >= 6, 4.0):
            break
    assert [m for m in heard if m.kind == "note_on"] == [
        Message("note_on", 0, note, 90) for note in (60, 64, 67)
    ]
    port.close()
    player.communicate()
    assert wait_for(lambda: found[0] in inputs.refresh().removed)
    inputs.close()


def handles():
    """Open descriptors and threads of this process."""
    return len(list(Path("/proc/self/fd").iterdir())), len(list(Path("/proc/self/task").iterdir()))


def settled():
    """The handles once nothing ends any more: threads of a dead server take a moment."""
    counted = []

    def stands_still():
        counted.append(handles())
        return len(counted) > 6 and len(set(counted[-6:])) == 1

    assert wait_for(stands_still)
    return counted[-1]


def no_more_than(before):
    return all(now <= then for now, then in zip(handles(), before, strict=True))


@pytest.mark.parametrize("death", ["kill", "terminate"])
def test_a_server_that_dies_is_noticed_and_found_again_without_leaks(jack, death):
    inputs = Inputs(StandIn(), (RealSystem("UNIX_JACK"),))
    servers = [jack]
    before = None
    for _ in range(3):
        assert wait_for(lambda: not (inputs.refresh(), inputs.listing.missing)[1])
        player = subprocess.Popen([sys.executable, "-c", PLAYER], stdin=subprocess.PIPE, text=True)
        found = []
        assert wait_for(lambda found=found: found.extend(inputs.refresh().added) or found)
        port = inputs.open(found[0])
        getattr(servers[-1], death)()
        servers[-1].wait()
        begun = time.monotonic()
        assert wait_for(lambda name=found[0]: name in inputs.refresh().removed, 1.0)
        assert time.monotonic() - begun < 1.0
        assert len(inputs.listing.missing) == 1 and port.read() == []
        player.kill()
        player.communicate()
        before = before or settled()
        assert wait_for(lambda before=before: no_more_than(before)), (
            "no round leaves more open than the first"
        )
        servers.append(
            subprocess.Popen(servers[-1].args, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        )
    servers[-1].terminate()
    servers[-1].wait()
    inputs.close()
