import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.plans import plans
from tests.random_rigs import wide_plans
from tests.rigs import keyboard, module, part, rig, simple, zone
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.cache import derived
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.dials import device_dials, dials, dials_named, record
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.files import native

SHIPPED = [native.read(demo.AS_FOUND), native.read(demo.READY), *(make() for make in RIGS.values())]


@settings(max_examples=40, deadline=None)
@given(plans(), st.data())
def test_every_number_can_be_set_by_its_reference(plan, data):
    channels = sorted(r for r in dials(plan) if r.endswith("/channel") and dials(plan)[r].value > 0)
    chosen = data.draw(st.dictionaries(st.sampled_from(channels), st.integers(1, 16)))
    changed = set_numbers(chosen, "Set")(plan)
    for ref, dial in dials(changed).items():
        assert dial.value == chosen.get(ref, dials(plan)[ref].value)


@pytest.mark.parametrize(
    "ref", ["nobody/part.x/channel", "box/part.nobody/channel", "board/9/zone.all/low"]
)
def test_a_reference_to_nothing_is_refused(ref):
    with pytest.raises(EditError):
        set_numbers({ref: 1}, "Set")(simple())


@pytest.mark.parametrize(("scope", "slots"), [("global", 1), ("program", 2), ("control", 4)])
def test_the_scope_says_what_is_one_number(scope, slots):
    programs = tuple(
        Program(number=n, name=f"P{n}", zones=(zone("a", 36, 50), zone("b", 51, 96)))
        for n in range(2)
    )
    board = keyboard(programs=programs, limits=(ScopeLimit(setting="zone-channel", scope=scope),))
    held = dials(rig(board, module(part())))
    assert (
        len({d.slot for r, d in held.items() if "/zone." in r and r.endswith("channel")}) == slots
    )


def slots_of(owner, ending):
    held = dials(rig(owner, module(part())))
    return {ref: d.slot for ref, d in held.items() if ref.endswith(ending) and "board/" in ref}


def test_channels_of_pads_are_one_by_program_by_bank_or_with_the_keys():
    pads = tuple(Control(id=i, name=i, kind="pad", banks=2) for i in "ab")
    sends = tuple(
        Send(control=i, bank=bank, message="note", number=40, channel=1)
        for i in "ab"
        for bank in (1, 2)
    )
    programs = tuple(Program(number=n, name=f"P{n}", sends=sends) for n in range(2))

    def channels(scope, **more):
        limit = ScopeLimit(setting="send-channel", scope=scope)
        board = keyboard(controls=pads, programs=programs, limits=(limit,), **more)
        return slots_of(board, "/channel")

    assert len(set(channels("control").values())) == 8
    assert len(set(channels("bank").values())) == 4
    assert len(set(channels("program").values())) == 2
    assert set(channels("global").values()) == {("board", "zone-channel")}
    banks = channels("bank")
    assert banks["board/0/a.1/channel"] == banks["board/0/b.1/channel"]
    assert banks["board/0/a.1/channel"] != banks["board/0/a.2/channel"]


def test_the_number_of_a_control_is_one_in_all_programs_where_it_is_global():
    pad = Control(id="a", name="A", kind="pad")
    send = Send(control="a", message="note", number=40, channel=1)
    programs = tuple(Program(number=n, name=f"P{n}", sends=(send,)) for n in range(2))
    limit = ScopeLimit(setting="send-number", scope="global")
    board = keyboard(controls=(pad,), programs=programs, limits=(limit,))
    assert set(slots_of(board, "/number").values()) == {("board", "send-number", "a.1")}


def test_what_a_receiver_cannot_change_is_fixed():
    parts = (part("set", receives="fixed"), part("free"))
    held = dials(rig(keyboard(zone()), module(*parts)))
    assert held["box/part.set/channel"].scope == "fixed"
    assert held["box/part.free/channel"].scope == "control"
    assert held["box/part.set/low"].scope == "control"


def test_a_number_without_a_record_is_free():
    plan, ref = simple(), "box/part.piano/channel"
    assert record(plan, ref).hold == "free"
    locked = lock(ref)(plan)
    assert (
        record(locked, ref).hold == "locked"
        and record(lock(ref, "free")(locked), ref).hold == "free"
    )


def test_results_are_kept_by_identity_of_what_they_came_from():
    calls = []

    @derived(2)
    def length(items: tuple[object, ...], name: str) -> int:
        calls.append(name)
        return len(items)

    one, other = [1], [1]
    assert (length((one,), "a"), length((one,), "a"), length((other,), "a")) == (1, 1, 1)
    assert calls == ["a", "a"], "equal is not the same"
    length((one,), "b")
    length((one,), "c")
    length((one,), "a")
    assert calls == ["a", "a", "b", "c", "a"], "only the last two are kept"


@settings(max_examples=30, deadline=None)
@given(st.one_of(wide_plans(), st.sampled_from(SHIPPED)), st.data())
def test_settings_by_name_are_those_of_the_device_in_its_order(plan, data):
    for device in plan.devices:
        every = device_dials(device)
        refs = [dial.ref for dial in every]
        some = frozenset(data.draw(st.sets(st.sampled_from(refs)))) if refs else frozenset()
        wanted = some | {f"{device.id}/0/zone.gone/low", f"{device.id}/gone"}
        assert dials_named(device, wanted) == tuple(d for d in every if d.ref in wanted)
