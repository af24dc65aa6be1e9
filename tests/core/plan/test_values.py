"""What a field can hold: kept and found again, entered and shown again, and no more than it says."""

import pytest

from tests.rigs import keyboard, module, part, rig, zone
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.errors import EditError
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.fields.owners import owners
from vastzone.core.plan.fields.part_fields import read_louder
from vastzone.core.plan.fields.send_fields import parameter_words, read_parameter
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.fields.values import (
    MISSING,
    Measure,
    NamedChoice,
    OnOff,
    Ports,
    Typed,
    Whole,
    optional_words,
    percent,
    points_words,
    read_optional,
    read_points,
    signed,
)
from vastzone.core.plan.fields.words import field_words, thing_words, value_words
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Encoder
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.queries import lookup
from vastzone.files import native

PLANS = [native.read(demo.AS_FOUND), native.read(demo.READY), *(make() for make in RIGS.values())]
HELD = [
    (owner, field)
    for plan in PLANS
    for device in plan.devices
    for owner in owners(device)
    for field in fields_for(owner.kind)
    if field.belongs_to(owner)
]


def test_every_value_is_kept_and_found_again():
    for owner, field in HELD:
        value = field.held(owner)
        stored = field.values.stored(owner, value)
        assert field.values.held(owner, stored) == value, owner.ref(field.id)
        assert field.read(owner) == stored


def test_every_value_is_shown_as_it_can_be_entered():
    for owner, field in HELD:
        value = field.held(owner)
        form, shown = field.values.form(owner), field.values.shown(owner, value)
        where = owner.ref(field.id)
        if not isinstance(field.values, Measure):
            assert field.values.entered(owner, shown) == value, where
        if form.kind == "choice":
            assert shown in [v for _, v in form.choices], where
            assert len({words for words, _ in form.choices}) == len(form.choices), where
        elif form.kind in ("number", "note"):
            assert form.low <= shown <= form.high, where
        elif form.kind == "check":
            assert shown in (True, False), where


def test_every_choice_that_is_offered_can_be_taken():
    for owner, field in HELD:
        form = field.values.form(owner)
        for words, shown in form.choices:
            value = field.values.entered(owner, shown)
            stored = field.values.stored(owner, value)
            assert words and field.values.held(owner, stored) == value


def owner_of(kind, **more):
    device = more.pop("device", None) or PLANS[0].devices[0]
    return next(o for o in owners(device) if o.kind == kind)


ZONE = owner_of("zone")


@pytest.mark.parametrize(
    ("values", "inside", "outside"),
    [
        (Whole(1, 16), (1, 16), (0, 17, -1)),
        (Whole(0, 127), (0, 127), (-1, 128)),
        (Whole(-5, 5), (-5, 0, 5), (-6, 6)),
        (Whole(1, 16, none="all"), (1, 16), (0, 17)),
        (OnOff(), (0, 1), (2, -1)),
        (NamedChoice(("a", "b")), (0, 1), (2, -1)),
    ],
)
def test_the_ends_of_values(values, inside, outside):
    for stored in inside:
        held = values.held(ZONE, stored)
        assert values.stored(ZONE, held) == stored
    for stored in outside:
        with pytest.raises(EditError):
            values.held(ZONE, stored)


def test_none_is_a_value_only_where_it_has_a_name():
    some = Whole(1, 16, none="follows the zones")
    assert some.held(ZONE, MISSING) is None and some.stored(ZONE, None) == MISSING
    assert some.words(ZONE, MISSING) == "follows the zones" and some.words(ZONE, 7) == "7"
    form = some.form(ZONE)
    assert form.kind == "choice" and form.choices[0] == ("follows the zones", None)
    assert form.choices[1:] == tuple((str(n), n) for n in range(1, 17))
    plain = Whole(1, 16).form(ZONE)
    assert (plain.kind, plain.low, plain.high) == ("number", 1, 16)
    with pytest.raises(EditError):
        some.held(ZONE, "seven")


def test_values_in_words():
    assert [signed(ZONE, n) for n in (-3, 0, 4)] == ["−3", "0", "+4"]
    assert percent(ZONE, 40) == "40 %"
    assert OnOff().words(ZONE, 1) == "on" and OnOff().words(ZONE, 0) == "off"
    chosen = NamedChoice(("a", "b"), words={"a": "first"})
    assert chosen.words(ZONE, 1) == "b"
    assert chosen.form(ZONE).choices == (("first", "a"), ("b", "b"))
    assert NamedChoice(("a", "b"), only=lambda owner: ("b",)).form(ZONE).choices == (("b", "b"),)
    assert Typed().words(ZONE, "") == "none" and Typed().words(ZONE, "x") == "x"


def test_measures_are_entered_in_whole_units():
    share = Measure(0, 100, 100.0)
    assert share.shown(ZONE, 0.126) == 13 and share.entered(ZONE, 50) == 0.5
    assert share.stored(ZONE, 0.25) == "0.25" and share.held(ZONE, "0.25") == 0.25
    with pytest.raises(EditError):
        share.held(ZONE, "much")


PORTS = tuple(
    Port(id=i, name=i.upper(), flow=f) for i, f in (("in", "in"), ("a", "out"), ("b", "both"))
)


def test_ports_are_bits_in_the_order_of_the_device():
    owner = owner_of("zone", device=keyboard(zone(ports=("b",)), ports=PORTS))
    out = Ports("out")
    assert out.stored(owner, ()) == 0 and out.stored(owner, ("a", "b")) == 6
    assert out.held(owner, 6) == ("a", "b") and out.held(owner, 7) == ("in", "a", "b")
    assert out.words(owner, 0) == "all" and out.words(owner, 6) == "A and B"
    assert out.form(owner).choices == (("all", ()), ("A", ("a",)), ("B", ("b",)))
    inside = Ports("in").form(owner).choices
    assert inside == (("all", ()), ("IN", ("in",)), ("B", ("b",)))
    for wrong in (8, -1):
        with pytest.raises(EditError, match="output"):
            out.held(owner, wrong)
    with pytest.raises(EditError, match="input"):
        Ports("in").held(owner, 8)
    both = owner_of("zone", device=keyboard(zone(ports=("a", "b")), ports=PORTS))
    assert out.form(both).choices[-1] == ("A and B", ("a", "b"))


def test_points_and_optional_numbers_as_they_are_typed():
    assert read_points("90 80, 40 10") == ((40, 10), (90, 80)) and read_points(" , ") == ()
    assert points_words(((40, 10), (90, 80))) == "40 10, 90 80"
    assert read_points("0 127") == ((0, 127),)
    for wrong in ("40", "40 x", "128 0", "0 128", "-1 0"):
        with pytest.raises(EditError):
            read_points(wrong)
    assert read_optional(" ") is None and read_optional("4.5") == 4.5
    assert optional_words(None) == "" and optional_words(4.5) == "4.5"
    with pytest.raises(EditError):
        read_optional("four")


def test_loudness_and_parameters_as_they_are_typed():
    assert read_louder("127 9, 0 -60") == ((0, -60.0), (127, 9.0))
    for wrong in ("128 1", "-1 1", "64", "64 61", "64 -61", "x 1"):
        with pytest.raises(EditError):
            read_louder(wrong)
    assert read_louder("64 60, 65 -60") == ((64, 60.0), (65, -60.0))
    assert read_parameter("2/5") == 261 and read_parameter("16383") == 16383
    assert read_parameter("127/127") == 16383 and parameter_words(261) == "2/5"
    for wrong in ("16384", "128/0", "0/128", "x", "-1"):
        with pytest.raises(EditError):
            read_parameter(wrong)


def told(device, ref):
    dial = dials(rig(device, cables=()))[ref]
    return thing_words(dial), field_words(dial), value_words(dial, dial.value)


def sending(message, number, **more):
    send = Send(control="pad", message=message, number=number, **more)
    pad = Control(id="pad", name="Pad", kind="pad", banks=2)
    return keyboard(
        controls=(pad,),
        programs=(Program(number=0, name="P", sends=(send,)),),
        first_program=1,
        octaves=3,
    )


def test_what_a_control_sends_in_the_naming_of_its_device():
    assert told(sending("note", 60), "board/0/pad.1/number") == (
        "Pad, bank 1",
        "Number",
        "C3 (60)",
    )
    assert told(sending("program", 0), "board/0/pad.1/number")[2] == "1"
    assert told(sending("note", 60, bank=2, layer=1), "board/0/pad.2.1/number")[0] == (
        "Pad, bank 2, layer 2"
    )
    owner = next(o for o in owners(sending("program", 4)) if o.kind == "send")
    number = next(f for f in fields_for("send") if f.id == "number")
    assert number.values.shown(owner, 4) == 5 and number.values.entered(owner, 5) == 4
    wide = next(o for o in owners(sending("nrpn", 5, page=2)) if o.kind == "send")
    assert number.values.shown(wide, 261) == "2/5" and number.values.entered(wide, "2/5") == 261


def encoder(low=36, asks="octave and index", first_index=1, **more):
    console = Console(
        blocks=(Block(id="keys", name="Keys", keybed="keys"),),
        encoder=Encoder(asks=asks, first_index=first_index),
    )
    board = keyboard(zone(**more), octaves=4, console=console)
    return changed(board, keybeds=(changed(board.keybeds[0], low=low),))


@pytest.mark.parametrize(
    ("device", "words"),
    [
        (keyboard(zone()), "0"),
        (keyboard(zone(transpose=-3)), "−3"),
        (encoder(), "C2: octave 2, index 1"),
        (encoder(transpose=-1), "B1: octave 1, index 12"),
        (encoder(first_index=0, transpose=1), "C♯2: octave 2, index 1"),
        (encoder(asks="note number"), "C2 (36)"),
        (encoder(low=1, transpose=-1), "C-1: octave -1, index 1"),
        (encoder(low=1, transpose=-2), "−2"),
        (encoder(low=116, transpose=11), "G9: octave 9, index 8"),
        (encoder(low=116, transpose=12), "+12"),
    ],
)
def test_a_shift_is_said_as_the_encoder_asks_for_it(device, words):
    assert told(device, "board/0/zone.all/transpose")[2] == words


def test_what_an_input_has_depends_on_what_it_is_set_to():
    curlew = lookup.device(PLANS[0], "curlew")
    has = {}
    for owner in owners(curlew):
        if owner.kind == "input":
            has[owner.thing.type] = {f.id for f in fields_for("input") if f.belongs_to(owner)}
    assert {"half", "closed"} <= has["hi-hat"] and "linked" not in has["hi-hat"]
    assert "linked" in has["dual"] and not {"half", "closed"} & has["dual"]
    assert "linked" not in has["kick"]


def test_parts_are_named_with_their_kits():
    device = module(part(kit=None), octaves=4)
    assert told(device, "box/part.piano/channel") == ("Part Piano", "Channel", "1")


ENDS = {
    "block/distance": (0, 5000),
    "block/pitch": (0, 500),
    "encoder/analogue": (0, 64),
    "encoder/commons": (1, 256),
    "encoder/debounce_ms": (0, 1000),
    "encoder/keyboards": (1, 32),
    "encoder/lines": (1, 64),
    "encoder/settle_us": (0, 10000),
    "input/closed": (0, 127),
    "input/half": (0, 127),
    "part/bend": (0, 48),
    "part/transpose": (-60, 60),
    "part/vel_high": (1, 127),
    "part/vel_low": (1, 127),
    "send/starts": (0, 126),
    "send/ends": (1, 127),
    "send/threshold": (0, 127),
    "send/vel_high": (1, 127),
    "send/vel_low": (1, 127),
    "shoe/hysteresis": (0, 127),
    "shoe/noise": (0, 640),
    "target/fall_ms": (0, 10000),
    "target/high": (-20000, 20000),
    "target/low": (-20000, 20000),
    "target/rise_ms": (0, 10000),
    "zone/channel": (1, 16),
    "zone/octave": (-5, 5),
    "zone/transpose": (-60, 60),
    "zone/vel_high": (1, 127),
    "zone/vel_low": (1, 127),
}
CHOICES = {
    "device/octaves": [3, 4, 5],
    "device/first_program": [0, 1],
    "encoder/asks": ["octave and index", "note number"],
    "encoder/first_index": [0, 1],
    "input/crosstalk": [None, *range(128)],
    "input/sensitivity": [None, *range(128)],
    "input/threshold": [None, *range(128)],
    "part/trigger": ["gate", "one-shot", "toggle"],
    "part/receives": ["set", "fixed", "learns", "takes all"],
    "send/mode": ["momentary", "toggle", "trigger"],
    "send/mutes": [None, *(f"group-{n}" for n in range(1, 9))],
    "send/velocity": [None, *range(1, 128)],
    "shoe/input": [None, 1, 2, 3, 4],
    "target/controller": [None, *range(120)],
    "target/takeover": ["jump", "pick-up"],
}


def test_what_is_typed_has_the_ends_that_a_device_has():
    met = set()
    for owner, field in HELD:
        form = field.values.form(owner)
        if form.kind == "number" and field.full_name in ENDS:
            met.add(field.full_name)
            assert (form.low, form.high) == ENDS[field.full_name], owner.ref(field.id)
    assert met == set(ENDS)


def test_what_is_chosen_is_all_that_there_is_to_choose():
    met = set()
    for owner, field in HELD:
        form = field.values.form(owner)
        if form.kind == "choice" and field.full_name in CHOICES:
            met.add(field.full_name)
            assert [v for _, v in form.choices] == CHOICES[field.full_name], owner.ref(field.id)
    assert met == set(CHOICES)


def test_values_of_fourteen_bits_are_entered_in_fourteen_bits():
    tops = {}
    for owner, field in HELD:
        if field.full_name in ("send/low", "send/high"):
            tops[owner.thing.message] = field.values.form(owner).high
    wide = {"pair", "rpn", "nrpn", "bend"}
    assert {m: top for m, top in tops.items() if m in wide} == {m: 16383 for m in tops if m in wide}
    assert {top for m, top in tops.items() if m not in wide} == {127}
    assert wide & set(tops)


def test_a_target_of_a_part_listens_on_its_channel_and_has_none_of_its_own():
    own, of_part = Target(id="own", name="Own"), Target(id="of", name="Of", part="piano")
    refs = set(dials(rig(module(part(), targets=(own, of_part)), cables=())))
    assert "box/target.own/channel" in refs and "box/target.of/channel" not in refs


def test_notes_are_entered_among_the_keys_that_there_are():
    low = next(f for f in fields_for("zone") if f.id == "low")
    form = low.values.form(owner_of("zone", device=keyboard(zone())))
    assert (form.kind, form.low, form.high) == ("note", 36, 96)
    wide = next(f for f in fields_for("part") if f.id == "low")
    form = wide.values.form(owner_of("part", device=module(part())))
    assert (form.kind, form.low, form.high) == ("note", 0, 127)
    for wrong in (-1, 128):
        with pytest.raises(EditError):
            wide.values.held(ZONE, wrong)
    assert (wide.values.held(ZONE, 0), wide.values.held(ZONE, 127)) == (0, 127)
