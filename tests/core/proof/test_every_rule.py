"""Every rule in a rig that breaks it and in one beside it that does not; every fix mends."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.model.audio import AudioCable, AudioInput, OutputWish
from vastzone.core.plan.model.bodies import AudioBuffer, AudioOutput, Place, PowerSource, Supply
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Encoder, Shoe
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.proof.rules import page_of, view_of
from vastzone.files import native

MAIN = AudioOutput(id="main", name="Main")
PIANO = wish("piano", "box:piano")


def played(*zones, parts=None, wishes=(PIANO,), cables=(("board:out", "box:in"),)):
    return rig(keyboard(*zones), module(*(parts or (part(),))), wishes=wishes, cables=cables)


def drums(channel=1, rhythm=True, others=10, liked=True):
    parts = (part("drums", channel, rhythm=rhythm), part("bells", others))
    return rig(keyboard(zone()), module(*parts), schools=Schools(rhythm_on_10=liked))


def sounds(count, scenes=()):
    wishes = tuple(
        wish(f"w{n}", "box:piano", sources=("pads:pad-1",), note=60 + n) for n in range(count)
    )
    return joined(pads(2), module(part()), wishes=wishes, scenes=scenes)


def in_jack(kind, *accepts, functions=("any",)):
    jack = PedalJack(
        id="jack", name="Jack", accepts=accepts, functions=functions, control="sustain"
    )
    pedal = Pedal(id="p", name="P", kind=kind, function="any")
    plug = PedalPlug(pedal="p", jack="board:jack")
    board = keyboard(zone(), jacks=(jack,))
    return rig(board, module(part()), pedals=(pedal,), pedal_plugs=(plug,))


def moved(kind="knob", unit="", top=127.0, mode="continuous", number=20, to=20, **more):
    send = Send(control="c", message="controller", number=number, channel=1, **more)
    board = keyboard(
        controls=(Control(id="c", name="C", kind=kind),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    mix = Target(id="mix", name="Mix", part="piano", controller=to, unit=unit, high=top, mode=mode)
    moves = Wish(id="m", name="M", sources=("board:c",), moves="box:mix")
    return rig(board, module(part(), targets=(mix,)), wishes=(moves,))


def track(shape):
    shoe = Shoe(control="shoe", input=1, track=shape)
    console = Console(blocks=(Block(id="keys", name="Keys", keybed="keys"),), shoes=(shoe,))
    return rig(
        keyboard(zone(), controls=(Control(id="shoe", name="Shoe", kind="shoe"),), console=console),
        module(part()),
    )


def kick(sound, sends=True):
    send = (Send(control="pad", message="note", number=36, channel=10),)
    board = keyboard(
        controls=(Control(id="pad", name="Pad", kind="pad"),),
        programs=(Program(number=0, name="P", sends=send if sends else ()),),
    )
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="kick", name="Kick", note=36),))
    box = module(part("drums", 10, kit="kit"), kits=(kit,))
    return rig(
        board, box, wishes=(wish("w", "box:drums", sources=("board:pad",), sounds=(sound,)),)
    )


TWO = (part("piano", 1), part("two", 2))
LOW = wish("low", "box:piano", 36, 59)
CASES = {
    "channel 10 not rhythm": (
        drums(),
        (drums(rhythm=False), drums(others=9), drums(liked=False)),
    ),
    "more sounds than pads": (sounds(3), (sounds(2),)),
    "wrong jack": (in_jack("triple", "switch"), (in_jack("switch", "switch"),)),
    "step too coarse": (
        moved(unit="dB", top=127.5),
        (moved(unit="dB", top=126.5), moved(unit="dB", top=127.5, low=9, high=9), moved()),
    ),
    "switch on a sweep": (moved("switch"), (moved(), moved("switch", mode="trigger"))),
    "sweep on a switch": (moved(mode="toggle"), (moved(), moved("button", mode="toggle"))),
    "shoe track": (track("reversed"), (track("whole"),)),
    "velocity hole": (played(zone(vel_low=2)), (played(zone()),)),
    "zone too wide": (played(zone(), wishes=(LOW,)), (played(zone(high=59), wishes=(LOW,)),)),
    "plays unwished": (
        played(zone(), zone("more", channel=2), parts=TWO),
        (played(zone(), parts=TWO),),
    ),
    "wrong pitch": (played(zone(transpose=3)), (played(zone()),)),
    "sends nothing": (kick("kick", sends=False), (kick("kick"),)),
    "sound not in kit": (kick("snare"), (kick("kick"),)),
    "wrong controller": (moved(number=21), (moved(),)),
    "no way there": (played(zone(), cables=()), (played(zone()),)),
    "range not as wished": (moved(high=64), (moved(), moved(low=127, high=0))),
    "far from its root": (
        played(zone(high=73), parts=(part(repitch=13),)),
        (
            played(zone(low=47, high=73), parts=(part(repitch=13),)),
            played(zone(), parts=(part(),)),
        ),
    ),
}


def capped(high, ceiling, low=-40.0, top=10.0):
    send = Send(control="c", message="controller", number=20, channel=1, high=high)
    board = keyboard(
        controls=(Control(id="c", name="C", kind="knob"),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    level = Target(
        id="t", name="T", part="piano", controller=20, low=low, high=top, unit="dB", ceiling=ceiling
    )
    return rig(board, module(part(), targets=(level,)))


def slots(count, most=3, taken=(1,)):
    targets = tuple(Target(id=f"t{n}", name=f"T{n}", controller=20 + n) for n in range(count))
    idle = Target(id="idle", name="Idle")
    limit = CountLimit(what="assign-slots", most=most, taken=taken)
    return rig(keyboard(zone()), module(part(), targets=(*targets, idle), limits=(limit,)))


def octave(octaves, low=36, high=96, **more):
    return played(zone(octave=octaves, **more), parts=(part(low=low, high=high),), wishes=())


def heard(*cables, outputs=(MAIN,), channels=(1, 2), wishes=(), phantom=False, **more):
    """A keyboard that plays a piano on the first output of a box, and a desk."""
    inputs = tuple(AudioInput(id=f"c{n}", name=f"Channel {n}", phantom=phantom) for n in channels)
    desk = Device(id="desk", name="Desk", kind="desk", audio_inputs=inputs)
    box = changed(module(part(**more)), outputs=outputs)
    plan = rig(keyboard(zone()), box, wishes=(PIANO,))
    plan = changed(plan, devices=(*plan.devices, desk))
    joined_by = tuple(AudioCable(**cable) for cable in cables)
    return changed(plan, audio_cables=joined_by, output_wishes=wishes)


def line(source="main", dest="c1", **more):
    return {"source": f"box:{source}", "dest": f"desk:{dest}", **more}


def output_wish(want, **more):
    return OutputWish(id="w", name="W", of=("box:piano",), want=want, **more)


STEREO = AudioOutput(id="main", name="Main", kind="pair")
SIDES = (line(leg="left"), line(dest="c2", leg="right"))
CASES |= {
    "sound nowhere": (heard(), (heard(line()),)),
    "sound at the desk twice": (heard(line(), line(dest="c2")), (heard(line()),)),
    "one side lost": (
        heard(line(leg="left"), outputs=(STEREO,)),
        (heard(*SIDES, outputs=(STEREO,)), heard(line())),
    ),
    "not on its channel": (
        heard(line(), wishes=(output_wish("channel", channel="desk:c2"),)),
        (heard(line(), wishes=(output_wish("channel", channel="desk:c1"),)),),
    ),
    "output wish not kept": (
        heard(line(), wishes=(output_wish("stereo"),)),
        (heard(*SIDES, outputs=(STEREO,), wishes=(output_wish("stereo"),)),),
    ),
    "phantom into an output": (
        heard(line(), phantom=True),
        (heard(line()), heard(line(di=True), phantom=True)),
    ),
    "long line without a box": (
        heard(line(metres=10.0)),
        (heard(line(metres=5.0)), heard(line(metres=10.0, di=True)), heard(line())),
    ),
}


def late(frames):
    box = changed(module(part()), buffer=AudioBuffer(frames=frames))
    return rig(keyboard(zone()), box, wishes=(PIANO,))


def swept(count, message="controller", width=1):
    """Knobs that sweep on one line, each sent on so many layers."""
    controls, sends = [], []
    for n in range(count):
        controls.append(Control(id=f"k{n}", name=f"K{n}", kind="knob"))
        for layer in range(width):
            sends.append(
                Send(control=f"k{n}", message=message, number=n, page=1, channel=1, layer=layer)
            )
    program = Program(number=0, name="P", zones=(zone(),), sends=tuple(sends))
    return rig(keyboard(controls=tuple(controls), programs=(program,)), module(part()))


def drummed(link):
    pad = Control(id="pad", name="Pad", kind="pad")
    send = Send(control="pad", message="note", number=60, channel=1)
    board = keyboard(
        link=link, controls=(pad,), programs=(Program(number=0, name="P", sends=(send,)),)
    )
    return rig(board, module(part(), link=link))


def fed(source=None, hours=4.0, **supply):
    """A box that takes some supply of a source."""
    box = changed(module(part()), supply=Supply(**supply))
    plan = rig(keyboard(zone()), box, wishes=(PIANO,))
    sources = (PowerSource(id="s", name="S", feeds=("box",), **source),) if source else ()
    return changed(plan, power=sources, hours=hours)


def brick(**more):
    return {"kind": "brick", "volts": 9.0, "milliamps": 1000, "polarity": "centre minus", **more}


def linked(link="usb", trs=("", ""), crossed=False, apart=0.0, guests=1):
    out = Port(id="out", name="Out", flow="out", link=link, trs=trs[0])
    into = Port(id="in", name="In", flow="in", link=link, trs=trs[1])
    boards = []
    for n in range(guests):
        boards.append(keyboard(zone(), ident=f"board{n}" if n else "board", ports=(out,)))
    box = changed(module(part(), ports=(into,)), place=Place(x=apart, y=0.0))
    boards[0] = changed(boards[0], place=Place(x=0.0, y=0.0))
    ends = [(f"{board.id}:out", "box:in") for board in boards]
    plan = rig(*boards, box, cables=ends)
    return changed(plan, cables=tuple(changed(cable, crossed=crossed) for cable in plan.cables))


def on_hub(milliamps, own=False):
    """A keyboard powered by a laptop through a hub."""
    ports = [Port(id="up", name="Up", flow="both", link="usb")]
    ports += [Port(id=f"d{n}", name=f"D{n}", flow="both", link="usb") for n in (1, 2)]
    supply = Supply(kind="adapter", volts=5.0, milliamps=2000) if own else Supply(kind="usb")
    hub = Device(id="hub", name="Hub", kind="interface", ports=tuple(ports), supply=supply)
    laptop = Device(
        id="laptop",
        name="Laptop",
        kind="computer",
        ports=(Port(id="usb", name="USB", flow="both", link="usb"),),
    )
    both = Port(id="out", name="USB", flow="both", link="usb")
    boards = []
    for n in range(2):
        board = keyboard(zone(), ident=f"b{n}", ports=(both,))
        boards.append(changed(board, supply=Supply(kind="usb", milliamps=milliamps)))
    ends = [("hub:up", "laptop:usb"), ("b0:out", "hub:d1"), ("b1:out", "hub:d2")]
    return rig(*boards, hub, laptop, cables=ends)


NINE = {"kind": "adapter", "volts": 9.0, "milliamps": 400, "polarity": "centre minus"}
CASES |= {
    "wrong polarity": (fed(brick(polarity="centre plus"), **NINE), (fed(brick(), **NINE),)),
    "wrong voltage": (
        fed(brick(volts=12.0), **NINE),
        (fed(brick(), **NINE), fed(brick(volts=9.2), **NINE)),
    ),
    "plug does not fit": (
        fed(brick(plug="2.5 mm"), plug="2.1 mm", **NINE),
        (fed(brick(plug="2.1 mm"), plug="2.1 mm", **NINE), fed(brick(), plug="2.1 mm", **NINE)),
    ),
    "supply overloaded": (fed(brick(milliamps=300), **NINE), (fed(brick(), **NINE),)),
    "supply without reserve": (
        fed(brick(milliamps=499), **NINE),
        (fed(brick(milliamps=500), **NINE), fed(brick(milliamps=399), **NINE)),
    ),
    "battery ends early": (
        fed(kind="battery", watt_hours=10.0, watts=2.2),
        (fed(kind="battery", watt_hours=10.0, watts=2.1), fed(kind="battery", watts=2.0)),
    ),
    "hub overloaded": (on_hub(251), (on_hub(250), on_hub(251, own=True))),
    "USB without a host": (
        linked("usb"),
        (linked("din"), fed({"kind": "hub", "volts": 5.0}, kind="usb", milliamps=100)),
    ),
    "not fed": (
        changed(fed(brick(), **NINE), power=(PowerSource(id="s", name="S", kind="strip"),)),
        (fed(brick(), **NINE), fed(**NINE)),
    ),
    "small jacks crossed": (
        linked("din", ("A", "B")),
        (
            linked("din", ("A", "A")),
            linked("din", ("A", "B"), crossed=True),
            linked("din", ("A", "")),
        ),
    ),
    "too much radio": (linked("bluetooth", guests=5), (linked("bluetooth", guests=4),)),
    "cable too long": (linked("din", apart=14.0), (linked("din", apart=13.0),)),
}


CASES |= {
    "late": (late(512), (late(128),)),
    "Bluetooth under drums": (drummed("bluetooth"), (drummed("din"), drummed("usb"))),
    "sweep starves notes": (swept(1, "nrpn", 2), (swept(1, "nrpn"), swept(1))),
    "line busy": (swept(2, "nrpn"), (swept(1, "nrpn"), swept(3))),
}


CASES |= {
    "outside 0–127": (
        played(zone(octave=2, transpose=8), wishes=()),
        (played(zone(octave=2, transpose=7), wishes=()), played(zone(octave=-3), wishes=())),
    ),
    "above its ceiling": (
        # Of 50 dB over 127 steps half a step is 0.197 dB; value 100 is −0.63 dB.
        capped(100, -0.85),
        (capped(100, -0.78), capped(100, 0.0), capped(127, None)),
    ),
    "more targets than slots": (slots(3), (slots(2), slots(3, taken=()), slots(3, most=4))),
    "octave naming": (
        octave(1),
        (
            octave(0),
            octave(-3),
            octave(1, transpose=1),
            octave(1, low=0, high=127),
            octave(1, high=95),
            octave(1, low=37),
        ),
    ),
    "two controls on one number": (
        rig(
            keyboard(
                controls=tuple(Control(id=c, name=c, kind="knob") for c in "ab"),
                programs=(
                    Program(
                        number=0,
                        name="P",
                        sends=tuple(
                            Send(control=c, message="controller", number=20, channel=1)
                            for c in "ab"
                        ),
                    ),
                ),
            ),
            module(part(), targets=(Target(id="t", name="T", part="piano", controller=20),)),
        ),
        (moved(),),
    ),
    "part nobody reaches": (
        played(zone(), parts=TWO, wishes=()),
        (played(zone(), wishes=()),),
    ),
}


def told(plan):
    return {cause.finding.rule for cause in causes(plan)}


@pytest.mark.parametrize("rule", CASES)
def test_a_rule_is_told_where_it_is_broken_and_not_beside_it(rule):
    broken, whole = CASES[rule]
    assert rule in told(broken)
    for plan in whole:
        assert rule not in told(plan)


def test_only_the_scenes_that_want_too_many_sounds_are_told():
    plan = sounds(3, scenes=(scene("dusk"), scene("dawn")))
    wishes = tuple(changed(w, scenes=("dawn",)) for w in plan.wishes)
    plan = joined(pads(2), module(part()), wishes=wishes, scenes=plan.scenes)
    (one,) = [f for f in check(plan) if f.rule == "more sounds than pads"]
    assert one.scenes == ("dawn",) and "3 sounds" in one.sentence and "2 kits" in one.sentence


def test_dead_keys_are_a_fault_between_zones_and_a_hint_at_the_ends():
    plan = played(zone("low", 40, 59), zone("high", 61, 90), wishes=())
    dead = [f for f in check(plan) if f.rule == "dead keys"]
    spans = [(f.severity, f.spans[0].low, f.spans[0].high) for f in dead]
    assert sorted(spans) == [("fault", 60, 60), ("hint", 36, 39), ("hint", 91, 96)]
    assert sorted(f.sentence.split()[0] for f in dead) == ["1", "4", "6"]


def test_pins_that_no_assigning_can_give_have_no_fix_that_does_nothing():
    owner = Device(
        id="c",
        name="C",
        kind="encoder",
        controls=tuple(Control(id=f"s{n}", name=f"S{n}", kind="stop") for n in range(24)),
    )
    owner = consoles.begin(owner)(rig(owner, cables=())).devices[0]
    encoder = Encoder(commons=1, lines=8)
    plan = consoles.set_console("c", "", encoder=encoder)(rig(owner, cables=()))
    (one,) = [f for f in check(plan) if f.rule == "pins not assigned"]
    assert all(fix(plan) != plan for fix in one.fixes)


@pytest.mark.parametrize("octaves", [1, -1, 2])
def test_a_zone_that_misses_by_octaves_is_shifted_back_or_its_part_is(octaves):
    plan = octave(octaves)
    (one,) = [f for f in check(plan) if f.rule == "octave naming"]
    labels = [fix.label for fix in one.fixes]
    way = "down" if octaves > 0 else "up"
    assert way in labels[0] and ("two octaves" in labels[0]) is (abs(octaves) == 2)
    for fix in one.fixes:
        assert "octave naming" not in told(fix(plan))


def test_an_unheard_zone_is_offered_channels_that_nothing_uses_first():
    parts = (part("piano", 1), part("two", 2), part("three", 3), part("low", 4, high=20))
    other = Program(number=1, name="Q", zones=(zone(channel=2),))
    board = keyboard(programs=(Program(number=0, name="P", zones=(zone(channel=9),)), other))
    plan = rig(board, module(*parts), scenes=(scene("a", board=0),))
    (one,) = [f for f in check(plan) if f.rule == "unheard zone"]
    offered = [fix.label for fix in one.fixes if "channel" in fix.label]
    assert [label.split("channel ")[1][0] for label in offered] == ["1", "3", "2"]
    for fix in one.fixes:
        assert "unheard zone" not in told(fix(plan))


@pytest.mark.parametrize(
    ("low", "high", "labels"),
    [
        (48, 127, ["Let Piano answer", "Begin All on C3"]),
        (0, 84, ["Let Piano answer", "End All on C6"]),
        (48, 84, ["Let Piano answer"]),
    ],
)
def test_keys_outside_a_part_are_left_out_or_let_in(low, high, labels):
    plan = played(zone(), parts=(part(low=low, high=high),), wishes=())
    found = [f for f in check(plan) if f.rule == "outside part"]
    for label in labels:
        assert any(fix.label.startswith(label) for f in found for fix in f.fixes), label
    for one in found:
        for fix in one.fixes:
            spans = {s for f in check(fix(plan)) if f.rule == "outside part" for s in f.spans}
            assert not spans & set(one.spans)


def test_a_zone_is_begun_or_ended_where_its_part_is_wished():
    for low, high, label in ((60, 96, "Begin All on C4"), (36, 71, "End All on B4")):
        plan = played(zone(), wishes=(wish("some", "box:piano", low, high),))
        fixes = [f for c in causes(plan) for f in c.finding.fixes]
        mend = next(fix for fix in fixes if fix.label == label)
        assert not told(mend(plan)) & {"zone too wide"}
    middle = played(zone(), wishes=(wish("some", "box:piano", 48, 71),))
    assert "zone too wide" in told(middle)


PLANS = {
    "as found": lambda: native.read(demo.AS_FOUND),
    "ready": lambda: native.read(demo.READY),
    **RIGS,
}


@pytest.mark.parametrize("name", PLANS)
def test_a_fix_takes_away_what_it_is_offered_for(name):
    plan = PLANS[name]()
    for finding in check(plan):
        for fix in finding.fixes:
            after = {(f.rule, f.sentence, f.scenes) for f in check(fix(plan))}
            assert (finding.rule, finding.sentence, finding.scenes) not in after, fix.label


def seen_in(plan, rule):
    finding = next(c.finding for c in causes(plan) if c.finding.rule == rule)
    return view_of(plan, finding), page_of(plan, finding)


def test_a_finding_is_seen_where_its_first_subject_is():
    assert seen_in(kick("kick", sends=False), "sends nothing") == ("pads", "")
    assert seen_in(moved(number=21), "wrong controller") == ("pedals", "")
    assert seen_in(played(zone(transpose=3)), "wrong pitch") == ("keys", "")
    assert seen_in(played(zone(), cables=()), "no way there") == ("rig", "")
    assert seen_in(in_jack("triple", "switch"), "wrong jack") == ("pedals", "Jacks")
    assert seen_in(slots(3), "more targets than slots") == ("pedals", "Table")


@pytest.mark.parametrize(
    ("sent", "listens", "labels"),
    [
        (
            {"number": 21},
            {"controller": 20},
            ("Send controller 20 from C", "Let T listen to controller 21"),
        ),
        ({"number": 21}, {}, ("Let T listen to controller 21",)),
        ({"number": 21}, {"controller": 5, "answers": "nrpn"}, ("Send NRPN 0/5 from C",)),
        (
            {"number": 3, "message": "pair"},
            {"controller": 4, "answers": "pair"},
            ("Send controller 4 from C", "Let T listen to controller 3"),
        ),
    ],
)
def test_a_wrong_controller_is_mended_where_either_side_can_change(sent, listens, labels):
    send = Send(**{"control": "c", "message": "controller", "channel": 1} | sent)
    board = keyboard(
        controls=(Control(id="c", name="C", kind="knob"),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    aim = Target(id="t", name="T", part="piano", **listens)
    plan = rig(
        board,
        module(part(), targets=(aim,)),
        wishes=(Wish(id="m", name="M", sources=("board:c",), moves="box:t"),),
    )
    (finding,) = [c.finding for c in causes(plan) if c.finding.rule == "wrong controller"]
    assert tuple(fix.label for fix in finding.fixes) == labels
    for fix in finding.fixes:
        assert "wrong controller" not in told(fix(plan)), fix.label


def test_a_number_that_something_else_listens_to_is_not_offered():
    plan = moved(number=21)
    box = plan.devices[1]
    other = Target(id="o", name="O", part="piano", controller=21)
    plan = changed(plan, devices=(plan.devices[0], changed(box, targets=(*box.targets, other))))
    (finding,) = [c.finding for c in causes(plan) if c.finding.rule == "wrong controller"]
    assert [fix.label for fix in finding.fixes] == ["Send controller 20 from C"]


def struck(*sends, parts=TWO):
    pad = Control(id="pad", name="Pad", kind="pad")
    board = keyboard(controls=(pad,), programs=(Program(number=0, name="P", sends=sends),))
    wished = wish("w", "box:piano", sources=("board:pad",), note=60)
    return rig(board, module(*parts), wishes=(wished,))


def note(channel, **more):
    return Send(control="pad", message="note", number=60, channel=channel, **more)


def test_what_a_pad_reaches_beside_is_one_note_on_a_shared_channel_or_one_too_many():
    shared = struck(note(1), parts=(part("piano", 1), part("two", 1)))
    assert "parts on one channel" in told(shared) and "plays unwished" not in told(shared)
    stray = struck(note(1), note(2, layer=1))
    assert "plays unwished" in told(stray) and "parts on one channel" not in told(stray)
    for plan in (shared, stray):
        lines = [c.finding for c in causes(plan) if c.weight]
        assert any(not [c for c in causes(fix(plan)) if c.weight] for fix in lines[0].fixes)
    assert not told(struck(note(1))) & {"plays unwished", "parts on one channel"}


def pad_into(number=60, channel=1, **more):
    pad = Control(id="pad", name="Pad", kind="pad")
    send = Send(control="pad", message="note", number=number, channel=channel)
    board = keyboard(controls=(pad,), programs=(Program(number=0, name="P", sends=(send,)),))
    wished = wish("w", "box:piano", sources=("board:pad",), note=60)
    return rig(board, module(part(**more)), wishes=(wished,))


def faults_of(plan):
    return {c.finding.rule for c in causes(plan) if c.weight}


@pytest.mark.parametrize(
    ("plan", "rules"),
    [
        (pad_into(), set()),
        (pad_into(channel=2), {"wrong channel"}),
        (pad_into(channel=2, number=61), {"wrong channel", "wrong note"}),
        (pad_into(number=61), {"wrong note"}),
        (pad_into(number=60, transpose=12), {"wrong note"}),
        (pad_into(number=48, transpose=12), set()),
        (pad_into(low=61), {"outside part"}),
        (pad_into(high=59), {"outside part"}),
        (pad_into(low=60, high=60), set()),
        (moved(), set()),
        (moved(number=21), {"wrong controller"}),
    ],
)
def test_what_is_wrong_with_a_pad_or_knob_is_told_and_mended(plan, rules):
    assert faults_of(plan) == rules
    for cause in causes(plan):
        for fix in cause.finding.fixes[:1] if cause.weight else ():
            left = faults_of(fix(plan))
            assert cause.finding.rule not in left and left <= rules


def test_a_knob_on_another_channel_is_put_on_its_part_s():
    plan = moved()
    board = plan.devices[0]
    program = board.programs[0]
    send = changed(program.sends[0], channel=5)
    board = changed(board, programs=(changed(program, sends=(send,)),))
    plan = changed(plan, devices=(board, plan.devices[1]))
    (finding,) = [c.finding for c in causes(plan) if c.weight]
    assert finding.rule == "wrong channel"
    assert finding.fixes[0](plan).devices[0].programs[0].sends[0].channel == 1


@pytest.mark.parametrize(
    ("low", "high", "offered"),
    [
        (36, 95, ["End All on B6"]),
        (37, 96, ["Begin All on C♯2"]),
        (37, 95, []),
    ],
)
def test_a_zone_that_is_too_wide_by_one_key_is_ended_there(low, high, offered):
    plan = played(zone(), wishes=(wish("some", "box:piano", low, high),))
    lines = [c.finding for c in causes(plan) if c.finding.rule == "zone too wide"]
    labels = [fix.label for one in lines for fix in one.fixes]
    assert labels == offered
    for one in lines:
        for fix in one.fixes:
            assert prove(fix(plan)).good
