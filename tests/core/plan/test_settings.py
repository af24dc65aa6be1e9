"""One field set as it is entered; consoles parted; pedals plugged, worked out by hand."""

import pytest

from tests.core.console.bittern import device
from tests.rigs import keyboard, module, part, rig, scene, zone
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import consoles, pedals
from vastzone.core.plan.edits.settings import set_field, set_numbers
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.fields.owners import owners, send_owner
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Fault
from vastzone.core.plan.model.controls import Control, Program, Send, Zone
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup


def field(kind, ident):
    return next(f for f in fields_for(kind) if f.id == ident)


def owner(plan, kind, ident=None):
    for each in plan.devices:
        for found in owners(each):
            if found.kind == kind and ident in (None, getattr(found.thing, "id", None)):
                return found
    raise AssertionError


def host():
    ports = tuple(
        Port(id=i, name=i, flow=f)
        for i, f in (("a", "in"), ("b", "in"), ("x", "out"), ("y", "out"), ("u", "both"))
    )
    return rig(Device(id="host", name="Host", kind="computer", ports=ports), cables=())


def test_what_is_passed_on_is_set_by_its_two_ends():
    plan = host()
    refs = {r for r in dials(plan) if "thru" in r}
    assert "host/device.thru/u.u" not in refs and len(refs) == 8
    on = set_numbers({"host/device.thru/a.y": 1, "host/device.thru/u.x": 1}, "Set")(plan)
    assert {(t.source, t.dest) for t in on.devices[0].thrus} == {("a", "y"), ("u", "x")}
    off = set_numbers({"host/device.thru/a.y": 0}, "Set")(on)
    assert [(t.source, t.dest) for t in off.devices[0].thrus] == [("u", "x")]
    first = next(o for o in owners(plan.devices[0]) if o.kind == "passed on")
    one = set_field(first, fields_for("passed on")[0], True)(plan)
    assert len(one.devices[0].thrus) == 1
    with pytest.raises(EditError):
        set_numbers({"gone/device.thru/a.y": 1}, "Set")(plan)
    with pytest.raises(EditError):
        set_numbers({"host/device.thru/a.q": 1}, "Set")(plan)


def test_a_field_is_set_where_its_owner_is_and_refused_where_it_is_gone():
    plan = rig(keyboard(zone(), zone("other")), module(part()))
    low = owner(plan, "zone", "other")
    new = set_field(low, field("zone", "channel"), 9)(plan)
    assert [z.channel for z in new.devices[0].programs[0].zones] == [1, 9]
    bare = rig(keyboard(zone()), module(part()))
    with pytest.raises(EditError):
        set_field(low, field("zone", "channel"), 9)(bare)


def test_a_control_that_sent_nothing_begins_to_in_its_program_only():
    pad = Control(id="pad", name="Pad", kind="pad")
    programs = tuple(Program(number=n, name=f"P{n}") for n in range(2))
    board = keyboard(controls=(pad,), programs=programs)
    plan = rig(board, module(part()))
    silent = Send(control="pad", message="none")
    edit = set_field(send_owner(board, programs[1], silent, pad), field("send", "message"), "note")
    first, second = edit(plan).devices[0].programs
    assert first.sends == () and [s.message for s in second.sends] == ["note"]


def two_manuals():
    owner = device(beds=(("great", 36, 25), ("swell", 36, 25)), stops=4)
    zones = tuple(
        Zone(id=i, name=i, keybed=i, low=36, high=60, channel=n)
        for n, i in enumerate(("great", "swell"), 1)
    )
    sends = (Send(control="stop-1", message="controller", number=20, channel=1),)
    faults = (
        Fault(kind="open contact", block="great", at=1),
        Fault(kind="open contact", block="swell", at=2),
        Fault(kind="short", at=0, to=1),
    )
    owner = changed(
        owner,
        programs=(Program(number=0, name="P", zones=zones, sends=sends),),
        console=changed(owner.console, faults=faults, hidden=faults[:2]),
    )
    wishes = (
        Wish(id="both", name="Both", sources=("c:great", "c:swell"), plays="box:piano"),
        Wish(id="stop", name="Stop", sources=("c:stop-1",), plays="box:piano", note=60),
    )
    return rig(owner, module(part()), cables=(), wishes=wishes, scenes=(scene("a", c=0),))


def test_blocks_move_to_a_second_encoder_with_all_that_is_theirs():
    plan = two_manuals()
    new = consoles.split_off(plan, "c", ("swell", "stops"))(plan)
    first, second, _ = new.devices
    assert (first.id, second.id, second.name) == ("c", "c-2", "C 2")
    assert [b.id for b in first.console.blocks] == ["great"]
    assert [b.id for b in second.console.blocks] == ["swell", "stops"]
    assert all(not b.commons and not b.soldered for b in second.console.blocks)
    assert first.console.blocks == plan.devices[0].console.blocks[:1]
    assert [z.id for z in second.programs[0].zones] == ["swell"]
    assert [z.id for z in first.programs[0].zones] == ["great"]
    assert [s.control for s in second.programs[0].sends] == ["stop-1"]
    assert not first.programs[0].sends and len(second.controls) == 4 and not first.controls
    assert [w.sources for w in new.wishes] == [("c:great", "c-2:swell"), ("c-2:stop-1",)]
    assert [(p.device, p.program) for p in new.scenes[0].programs] == [("c", 0), ("c-2", 0)]
    assert [f.block for f in first.console.faults] == ["great", None]
    assert [f.block for f in second.console.faults] == ["swell"]
    assert [f.block for f in second.console.hidden] == ["swell"]


@pytest.mark.parametrize("blocks", [(), ("great", "swell", "stops"), ("gone",)])
def test_something_has_to_move_and_something_to_stay(blocks):
    plan = two_manuals()
    with pytest.raises(EditError):
        consoles.split_off(plan, "c", blocks)


def test_a_console_begins_with_what_is_wired_and_shoes_on_inputs_in_order():
    kinds = (("a", "stop"), ("s", "shoe"), ("k", "button"), ("t", "shoe"))
    owner = Device(
        id="c",
        name="C",
        kind="encoder",
        keybeds=keyboard().keybeds,
        controls=tuple(Control(id=i, name=i, kind=k) for i, k in kinds),
    )
    (new,) = consoles.begin(owner)(rig(owner, cables=())).devices
    assert [b.keybed for b in new.console.blocks] == ["keys", None]
    assert "a" in new.console.blocks[1].controls and "s" not in new.console.blocks[1].controls
    assert [(s.control, s.input) for s in new.console.shoes] == [("s", 1), ("t", 2)]
    ticked = consoles.tick("c", "keys/line/1", "soldered", True)(rig(new, cables=()))
    assert ticked.devices[0].console.soldered == ("keys/line/1",)
    again = consoles.tick("c", "keys/line/1", "soldered", True)(ticked)
    assert again.devices[0].console.soldered == ("keys/line/1",)
    off = consoles.tick("c", "keys/line/1", "soldered", False)(again)
    assert off.devices[0].console.soldered == ()


def pedal_plan():
    jack = PedalJack(
        id="j",
        name="J",
        accepts=("switch",),
        functions=("any",),
        control="sustain",
        sense="open",
        senses=("open", "closed"),
    )
    feet = tuple(Pedal(id=i, name=i, kind="switch", function="any", contact="closed") for i in "pq")
    return rig(keyboard(zone(), jacks=(jack,)), module(part()), pedals=feet)


def test_pedals_come_go_and_are_fitted_with_their_jacks_set():
    plan = pedal_plan()
    plug = PedalPlug(pedal="p", jack="board:j")
    fitted = pedals.take_over((plug,))(plan)
    assert fitted.pedal_plugs == (plug,)
    assert fitted.devices[0].jacks[0].sense == "closed"
    assert pedals.pull_out("p")(fitted).pedal_plugs == ()
    assert pedals.pull_out("q")(fitted).pedal_plugs == (plug,)
    gone = pedals.remove_pedal("p")(fitted)
    assert [p.id for p in gone.pedals] == ["q"] and gone.pedal_plugs == ()
    assert pedals.remove_pedal("q")(fitted).pedal_plugs == (plug,)
    named = pedals.set_pedal("q", "Name", name="Left")(fitted)
    assert [p.name for p in named.pedals] == ["p", "Left"]
    more = pedals.add_pedal(named.pedals[0])(named)
    assert len({p.id for p in more.pedals}) == 3
    assert lookup.by_id(more.devices[0].jacks, "j", "jack").sense == "closed"
