"""The layout of any rig: everything once, hands before sound, lanes where cables cross columns."""

from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone.core.pictures import rig_columns
from vastzone.core.plan.edits import cables
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Thru

BOTH = (Port(id="in", name="in", flow="in"), Port(id="out", name="out", flow="out"))


def device(n, kind):
    keys = (Keybed(id="k", name="K", low=36, keys=12),) if kind == "keyboard" else ()
    parts = (Part(id="p", name="P", tag="PP"),) if kind == "module" else ()
    thrus = (Thru(source="in", dest="out"),) if kind != "keyboard" else ()
    return Device(
        id=f"d{n}", name=f"D{n}", kind=kind, ports=BOTH, keybeds=keys, parts=parts, thrus=thrus
    )


@st.composite
def rigs(draw):
    kinds = draw(
        st.lists(st.sampled_from(("keyboard", "module", "merger")), min_size=1, max_size=9)
    )
    devices = tuple(device(n, kind) for n, kind in enumerate(kinds))
    ends = st.integers(0, len(devices) - 1)
    pairs = draw(st.lists(st.tuples(ends, ends), max_size=12))
    cables = tuple(
        dict.fromkeys(Cable(source=f"d{a}:out", dest=f"d{b}:in") for a, b in pairs if a != b)
    )
    return Plan(name="Rig", devices=devices, cables=cables)


@settings(max_examples=150, deadline=None)
@given(rigs())
def test_everything_stands_once_and_hands_stand_before_what_only_sounds(plan):
    columns = rig_columns.columns(plan)
    devices = {d.id: d for d in plan.devices}
    placed = [i for column in columns for i in column]
    assert sorted(i for i in placed if i in devices) == sorted(devices)
    assert len(placed) == len(set(placed))
    at = {i: n for n, column in enumerate(columns) for i in column}
    sounds = [at[d.id] for d in plan.devices if d.parts]
    hands = [at[d.id] for d in plan.devices if d.keybeds]
    if sounds and hands:
        assert max(hands) < min(sounds) and len(set(sounds)) == 1


@settings(max_examples=150, deadline=None)
@given(rigs())
def test_a_cable_that_crosses_columns_has_a_lane_in_each(plan):
    columns = rig_columns.columns(plan)
    at = {i: n for n, column in enumerate(columns) for i in column}
    for cable in plan.cables:
        a, b = (ref.partition(":")[0] for ref in (cable.source, cable.dest))
        low, high = sorted((at[a], at[b]))
        for column in range(low + 1, high):
            assert rig_columns.lane(a, b, column) in columns[column]


@settings(max_examples=100, deadline=None)
@given(rigs(), st.data())
def test_what_is_not_refused_can_be_connected_and_is_then_refused(plan, data):
    refs = [f"{d.id}:{p.id}" for d in plan.devices for p in d.ports]
    one, other = data.draw(st.sampled_from(refs)), data.draw(st.sampled_from(refs))
    if cables.refusal(plan, one, other):
        return
    joined = cables.connect(plan, one, other)(plan)
    new = joined.cables[-1]
    assert {new.source, new.dest} == {one, other} and new.source.endswith(":out")
    assert cables.refusal(joined, one, other)
