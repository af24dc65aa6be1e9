"""Delays: worked by hand, and against a slow queue."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, zone
from vastzone.core.delay.crowd import crowd, crowded_paths
from vastzone.core.delay.late_notes import play_through
from vastzone.core.delay.load import line_loads
from vastzone.core.delay.paths import AIR_MS, delay_paths, verdict_of
from vastzone.core.delay.what_if import over_usb, what_ifs, with_running_status, with_splitter
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.trace import TraceEntry
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.hearing import set_buffer, set_hearing
from vastzone.core.plan.model.bodies import AudioBuffer
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Thru

DIN = 0.96


def compiled(plan):
    return compile_scene(plan, None)


def pad_into_laptop(frames=128):
    """A pad of 2 ms by USB into a laptop."""
    pad = Control(id="pad", name="Pad", kind="pad")
    send = Send(control="pad", message="note", number=36, channel=1)
    box = Device(
        id="pads",
        name="Pads",
        kind="pads",
        sensing_ms=2.0,
        ports=(Port(id="usb", name="USB", flow="both", link="usb"),),
        controls=(pad,),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    laptop = Device(
        id="laptop",
        name="Laptop",
        kind="computer",
        ports=(Port(id="usb", name="USB", flow="both", link="usb"),),
        parts=(part("piano"),),
        buffer=AudioBuffer(frames=frames),
    )
    return Plan(
        name="P", devices=(box, laptop), cables=(Cable(source="pads:usb", dest="laptop:usb"),)
    )


@pytest.mark.parametrize(
    ("frames", "ms", "verdict"), [(128, 9.03, "playable"), (512, 25.03, "late")]
)
def test_a_pad_by_usb_into_a_laptop_as_worked_by_hand(frames, ms, verdict):
    (path,) = delay_paths(compiled(pad_into_laptop(frames)))
    assert path.worst_ms == pytest.approx(ms, abs=0.01)
    assert path.verdict == verdict
    assert [piece.kind for piece in path.pieces] == ["sensing", "cable", "buffer", "converter"]
    assert path.usual_ms < path.worst_ms
    assert path.longest.kind == "buffer"


def test_air_and_wireless_ears_are_pieces_of_their_own():
    plan = pad_into_laptop()
    plan = changed(plan, devices=(changed(plan.devices[0], player="Ro"), plan.devices[1]))
    before = delay_paths(compiled(plan))[0].worst_ms
    far = set_hearing("Ro", by="air", metres=2.0)(plan)
    assert delay_paths(compiled(far))[0].worst_ms == pytest.approx(before + 2 * AIR_MS)
    ears = set_hearing("Ro", by="wireless ears", wireless_ms=4.0)(far)
    assert delay_paths(compiled(ears))[0].worst_ms == pytest.approx(before + 4.0)
    wired = set_hearing("Ro", by="wired ears")(ears)
    assert delay_paths(compiled(wired))[0].worst_ms == pytest.approx(before)


def test_ten_notes_on_din_as_worked_by_hand():
    plan = rig(keyboard(zone()), module(part()))
    (path,) = crowded_paths(compiled(plan), 10)
    together = crowd(compiled(plan), 10)
    assert (together.strokes, together.lines[0].messages) == (10, 10)
    assert together.lines[0].busy_ms == pytest.approx(9.6)
    assert path.worst_ms == pytest.approx(10 * DIN + DIN)
    status = compiled(with_running_status(plan))
    assert crowd(status, 10).lines[0].busy_ms == pytest.approx(0.96 + 9 * 0.64)


@pytest.mark.parametrize(("ms", "verdict"), [(5.0, "good"), (5.1, "playable"), (10.1, "late")])
def test_under_5_is_good_and_under_10_playable(ms, verdict):
    assert verdict_of(ms) == verdict


def chain(delays, running=False):
    """A keyboard, then modules by their thrus one after the other; the last one plays."""
    devices = [changed(keyboard(zone()), running_status=running)]
    cables, source = [], "board:out"
    for place, delay in enumerate(delays):
        last = place == len(delays) - 1
        ports = (Port(id="in", name="In", flow="in"), Port(id="thru", name="Thru", flow="out"))
        devices.append(
            Device(
                id=f"m{place}",
                name=f"M{place}",
                kind="module",
                delay_ms=delay,
                ports=ports,
                thrus=(Thru(source="in", dest="thru"),),
                running_status=running,
                parts=(part("piano", channel=1 if last else 9),),
            )
        )
        cables.append(Cable(source=source, dest=f"m{place}:in"))
        source = f"m{place}:thru"
    return Plan(name="Chain", devices=tuple(devices), cables=tuple(cables))


@given(
    st.lists(st.sampled_from((0.0, 0.5, 1.5, 4.0)), min_size=1, max_size=4),
    st.integers(2, 10),
    st.booleans(),
)
def test_what_waits_in_a_crowd_is_what_a_slow_queue_says(delays, fingers, running):
    """Each line is a till with one cashier; the message that is told comes last of all."""
    plan = chain(delays, running)
    (path,) = [one for one in crowded_paths(compiled(plan), fingers) if one.sounds]
    at = [0.0] * (fingers + 1)
    for place in range(len(delays)):
        free, first = 0.0, True
        for number, arrives in enumerate(at):
            takes = DIN if first or not running else 0.64
            free, first = max(free, arrives) + takes, False
            at[number] = free
        if place < len(delays) - 1:
            at = [moment + delays[place] for moment in at]
    assert path.worst_ms == pytest.approx(at[-1] + delays[-1])


def test_every_what_if_is_told_by_the_plan_it_stands_for():
    plan = chain([1.0, 2.0, 0.5])
    plan = set_buffer("m2", frames=256)(plan)
    by_name = {each.name: each for each in what_ifs(plan, None)}
    now = max(path.worst_ms for path in delay_paths(compiled(plan)))
    assert by_name["a splitter instead of thru chains"].worst_ms < now - 2.9
    assert (
        by_name["USB instead of DIN"].crowded_ms < by_name["running status everywhere"].crowded_ms
    )
    smaller = by_name["M2 at 64 frames"]
    assert smaller.worst_ms == pytest.approx(now - 2 * (256 - 64) / 48)
    for each in by_name.values():
        paths = delay_paths(compiled(each.plan))
        assert each.worst_ms == max(path.worst_ms for path in paths)
    split = with_splitter(plan)
    assert {one.dest for one in delay_paths(compiled(split))} == {"m2:piano"}
    assert with_splitter(rig(keyboard(zone()), module(part()))).devices
    assert not any(port.link == "din" for device in over_usb(plan).devices for port in device.ports)


def test_a_file_played_through_tells_which_notes_waited_and_where():
    plan = rig(keyboard(zone()), module(part()))
    chord = [(1000.0, Message("note_on", 0, 48 + n, 90)) for n in range(8)]
    told = play_through(compiled(plan), chord, TraceEntry("board", "keys"), 5.0)
    assert told.notes == 8 and told.worst_ms == pytest.approx(8 * DIN)
    assert [note.note for note in told.late] == [53, 54, 55]
    assert told.late[-1].waited_ms == pytest.approx(7 * DIN)
    assert told.late[-1].line == "Board to Box" and told.late[0].at_ms == 1000.0


def test_a_sweep_of_a_parameter_takes_four_messages_of_a_line():
    send = Send(control="c", message="nrpn", number=5, page=1, channel=1)
    board = keyboard(
        controls=(Control(id="c", name="C", kind="knob"),),
        programs=(Program(number=0, name="P", zones=(zone(),), sends=(send,)),),
    )
    aim = Target(id="t", name="T", part="piano", answers="nrpn", page=1, controller=5)
    (load,) = line_loads(compiled(rig(board, module(part(), targets=(aim,)))))
    (sweep,) = load.sweeps
    assert sweep.share == pytest.approx(100 * 4 * DIN / 1000)
    assert load.notes == pytest.approx(10 * 2 * 2 * DIN / 1000)
