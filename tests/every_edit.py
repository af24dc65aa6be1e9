"""Every edit, fill, copy and solver that the program has, each with random things to do.

``EDITS`` names them by module and function; a test sees that none is missing.
"""

import importlib
import inspect
import pkgutil

import msgspec
from hypothesis import strategies as st

from vastzone.core.cards import tracks
from vastzone.core.errors import EditError
from vastzone.core.plan import edits
from vastzone.core.plan.edits import (
    audio,
    cables,
    consoles,
    copies,
    couplers,
    devices,
    fills,
    functions,
    hearing,
    layers,
    locks,
    log,
    movables,
    parameter_names,
    pedals,
    plugs,
    power,
    programs,
    renumber,
    scenes,
    schools,
    sends,
    setlists,
    settings,
    variety,
    wishes,
    zones,
)
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.fields.owners import owners
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.model.audio import OutputWish
from vastzone.core.plan.model.bodies import PowerSource
from vastzone.core.plan.model.functions import TOLD
from vastzone.core.plan.model.organ import Combination, Coupling, Crescendo
from vastzone.core.plan.model.pedals import FootWish, Pedal
from vastzone.core.plan.model.setlists import SetStep
from vastzone.core.plan.model.triggers import TriggerPad
from vastzone.core.plan.model.wishes import LogEntry
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import output_choices, sounds_of
from vastzone.core.plan.refs import ref_to
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.files.devices import shipped

FOUNDATIONS = frozenset(
    (
        "edit.edit_device",
        "edit.edit_program",
        "edit.set_plan",
        "edit.set_item",
        "edit.add_item",
        "edit.set_thing",
        "consoles.edit_console",
        "consoles.set_console",
        "sends.edit_sends",
        "settings.set_numbers",
        "together.together",
    )
)
"""What other edits are made of."""
LABEL = "Try"
CHANNEL, KEY = st.integers(1, 16), st.integers(0, 127)


class Nothing(Exception):
    """There is nothing in a plan for an edit to work on."""


class Hand:
    """Picks things out of a plan."""

    def __init__(self, plan, draw):
        self.plan, self.draw = plan, draw

    def one(self, items):
        listed = list(items)
        if not listed:
            raise Nothing
        return self.draw(st.sampled_from(listed))

    def device(self, wanted=lambda device: True):
        return self.one(device for device in self.plan.devices if wanted(device))

    def program(self, wanted=lambda program: True):
        """A device and one of its programs."""
        pairs = []
        for device in self.plan.devices:
            pairs += [(device, program) for program in device.programs if wanted(program)]
        return self.one(pairs)

    def zone(self):
        device, program = self.program(lambda program: program.zones)
        return device.id, program.number, self.one(program.zones)

    def send(self):
        device, program = self.program(lambda program: program.sends)
        return device.id, program.number, self.one(program.sends)

    def pads(self):
        """A device with pads and programs, and those pads."""
        device = self.device(lambda device: fills.pads_of(device) and device.programs)
        return device, fills.pads_of(device)

    def source(self):
        device = self.device(lambda device: device.keybeds or device.controls)
        return ref_to(device.id, self.one((*device.keybeds, *device.controls)).id)

    def end(self):
        device = self.device(lambda device: lookup.ends(device))
        return ref_to(device.id, self.one(lookup.ends(device)).id)

    def thing(self, group):
        """A reference to something in a list of a device."""
        device = self.device(lambda device: getattr(device, group))
        return ref_to(device.id, self.one(getattr(device, group)).id)

    def console(self):
        return self.device(lambda device: device.console is not None)


def _port(hand, flow):
    device = hand.device(lambda device: any(p.flow in (flow, "both") for p in device.ports))
    return ref_to(device.id, hand.one(p for p in device.ports if p.flow in (flow, "both")).id)


def _field(hand):
    device = hand.device()
    owner = hand.one(owners(device))
    field = hand.one(field for field in fields_for(owner.kind) if field.belongs_to(owner))
    form = field.values.form(owner)
    if form.kind == "choice":
        value = hand.one(form.choices)[1]
    elif form.kind == "check":
        value = hand.draw(st.booleans())
    elif form.kind == "text":
        value = field.held(owner)
    else:
        number = hand.draw(st.integers(form.low, form.high))
        value = field.values.entered(owner, number)
    return settings.set_field(owner, field, value)


def _numbers(hand):
    values = {}
    for dial in list(dials(hand.plan).values())[:40]:
        if dial.field.solved and dial.field.id == "channel" and hand.draw(st.booleans()):
            values[dial.ref] = hand.draw(CHANNEL)
    return settings.set_numbers(values, LABEL)


def _copy(hand):
    device, pads = hand.pads()
    program = hand.one(device.programs).number
    pads = [hand.one(pads) for _ in range(2)]
    source, dest = (
        copies.PadSpot(program, pad.id, hand.draw(st.integers(1, pad.banks))) for pad in pads
    )
    whole = hand.one(("zone", "pad", "bank"))
    return copies.copy(hand.plan, device.id, source, dest, hand.one(("message", "both")), whole)


def _fill(hand):
    device, pads = hand.pads()
    fill = fills.in_order(pads, hand.draw(st.integers(0, 90)))
    program = hand.one(device.programs).number
    return fills.apply(device.id, program, {1: fill}, hand.draw(st.none() | CHANNEL))


def _spread(hand):
    device, _ = hand.pads()
    numbers_there = [program.number for program in device.programs]
    return copies.spread(device, hand.one(numbers_there), 1, numbers_there)


def _layer(hand):
    device, number, send = hand.send()
    return layers.add_layer(device, number, send.control, send.bank)


def _hat(hand):
    device, program = hand.program()
    jack = hand.one(device.inputs)
    return layers.hat_without_pedal(hand.plan, device.id, program.number, jack.id)


def _half_hat(hand):
    device, program, send = hand.send()
    return layers.half_open_hat(hand.plan, device, program, send.control, send.bank)


def _wish(hand):
    place = wishes.WishPlace(hand.source(), 1, 40, 60)
    return wishes.make(hand.plan, place, hand.end(), ())


def _place(hand):
    return wishes.WishPlace(hand.source())


def _any_part(hand):
    device = hand.device(lambda device: device.parts)
    return device.id, hand.one(device.parts).id


def _movable(hand):
    return hand.one(movables.MOVABLES).id


def _moved(hand):
    return movables.wish_to_move(_place(hand), ref_to(*_any_part(hand)), _movable(hand), ())


def _selected(hand):
    return movables.wish_to_select(_place(hand), hand.device().id, hand.draw(KEY), ())


def _stepped(hand):
    step = hand.one(("next", "previous"))
    return movables.wish_to_step(_place(hand), hand.device().id, step, ())


def _school(hand):
    device = hand.device(lambda device: device.controls)
    controls = [ref_to(device.id, control.id) for control in device.controls[:3]]
    return schools.choose_school(controls, hand.one((None, "run", "undefined")), 20)


def _called(hand):
    return movables.wish_for_scene(_place(hand), hand.one(hand.plan.scenes).id)


def _take_back(hand):
    return wishes.take_back(wishes.WishPlace(hand.source(), 1, 40, 60), hand.end(), ())


def _play_sound(hand):
    for device in hand.plan.devices:
        for part in device.parts:
            kit = next((kit for kit in device.kits if kit.id == part.kit and kit.sounds), None)
            if kit is not None:
                ref = f"{device.id}:{part.id}"
                return wishes.play_sound(hand.source(), 1, ref, kit.sounds[0].id)
    return wishes.play_sound(hand.source(), 1, "", "")


def _zone_copy(hand):
    device, number, zone = hand.zone()
    return zones.add_zone(device, number, msgspec.structs.replace(zone, id="a-copy"))


def _solved(hand):
    solved = work_out(hand.plan)
    if not isinstance(solved, Solution):
        raise Nothing
    return solved.edit()


def _block(hand):
    device = hand.console()
    block = hand.one(device.console.blocks)
    return consoles.set_block(device.id, block.id, LABEL, declared="line to common")


def _shoe(hand):
    device = hand.console()
    shoe = hand.one(device.console.shoes)
    return consoles.set_shoe(device.id, shoe.control, LABEL, hysteresis=hand.draw(KEY))


def _split_off(hand):
    device = hand.console()
    block = hand.one(device.console.blocks)
    return consoles.split_off(hand.plan, device.id, (block.id,))


def _limit(hand):
    device = hand.device(lambda device: device.limits)
    return devices.set_limit(device.id, 0, LABEL)


def _part(hand):
    device = hand.device(lambda device: device.parts)
    part = hand.one(device.parts)
    return devices.set_part(device.id, part.id, LABEL, channel=hand.draw(CHANNEL))


def _answer(hand):
    device = hand.device(lambda device: device.parts)
    low = hand.draw(st.integers(0, 60))
    return devices.let_answer(device, hand.one(device.parts), low, low + 40)


def _name_number(hand):
    device = hand.device(lambda device: device.targets)
    return parameter_names.name_number(device, hand.draw(KEY), "Tried")


def _wishes_in_order(hand):
    pairs = tuple((wishes.WishPlace(hand.source(), 1, 40, 60), hand.end()) for _ in range(2))
    return wishes.make_in_order(pairs, ())


def _wish_changed(hand):
    wish = hand.one(hand.plan.wishes)
    return wishes.change(wish.id, LABEL, name="Tried")


def _send_changed(hand):
    device, number, send = hand.send()
    changes = {"channel": hand.draw(CHANNEL), "number": hand.draw(KEY)}
    return sends.set_send(
        device, number, send.control, send.bank, LABEL, layer=send.layer, **changes
    )


def _zone_changed(hand):
    device, number, zone = hand.zone()
    return zones.set_zone(device, number, zone.id, LABEL, channel=hand.draw(CHANNEL))


def _zone_edit(edit, *more):
    def make(hand):
        device, number, zone = hand.zone()
        keys = [hand.draw(st.integers(zone.low, zone.high)) for _ in more]
        return edit(device, number, zone.id, *keys)

    return make


def _edge(hand):
    device, number, zone = hand.zone()
    side = hand.one(("low", "high"))
    return zones.move_edge(device, number, zone.id, side, hand.draw(st.integers(36, 96)))


def _layer_gone(hand):
    device, number, send = hand.send()
    return layers.remove_layer(device, number, send.control, send.bank, send.layer)


def _entry(hand):
    return log.record((LogEntry(on="2026-01-01", source=hand.source()),))


def _stored(hand):
    """A device and the number of one of its programs."""
    device, program = hand.program()
    return device.id, program.number


def _choose_kit(hand):
    device, program = hand.program()
    if not device.parts or not device.kits:
        raise Nothing
    part, kit = hand.one(device.parts).id, hand.one([None, *(kit.id for kit in device.kits)])
    return programs.choose_kit(device.id, program.number, part, kit)


def _name_numbers(hand):
    device = hand.device(lambda device: device.parts or device.targets)
    return parameter_names.name_numbers(device, range(60, 64), "Tried {n}")


def _own_program(hand):
    device, _ = hand.program()
    return scenes.own_program(hand.one(hand.plan.scenes).id, device.id)


def _choose_program(hand):
    device, program = hand.program()
    return scenes.choose_program(hand.one(hand.plan.scenes).id, device.id, program.number)


def _own_channels(hand):
    device, program = hand.program(lambda program: program.sends)
    return tracks.own_channels(hand.plan, device.id, program.number)


def _coupling(hand):
    owner = hand.device(lambda owner: owner.keybeds and owner.controls)
    sounding = hand.device(lambda owner: owner.parts)
    return Coupling(
        id="coupled",
        name="Coupled",
        stop=ref_to(owner.id, hand.one(owner.controls).id),
        keys=ref_to(owner.id, hand.one(owner.keybeds).id),
        plays=ref_to(sounding.id, hand.one(sounding.parts).id),
        shift=hand.draw(st.sampled_from([-12, 0, 12])),
    )


def _held_in_organ(hand):
    one = _coupling(hand)
    device = lookup.device(hand.plan, one.plays.partition(":")[0])
    return couplers.hold_in_organ(hand.plan, one, [ref_to(device.id, p.id) for p in device.parts])


def _new_combination(hand):
    owner = hand.device(lambda owner: len(owner.controls) > 1)
    by, *rest = hand.draw(st.permutations([control.id for control in owner.controls]))
    return couplers.add_combination(owner.id, Combination(id="p", name="P", by=by, draws=rest[:3]))


def _new_crescendo(hand):
    owner = hand.device(lambda owner: len(owner.controls) > 1)
    by, *rest = hand.draw(st.permutations([control.id for control in owner.controls]))
    stages = tuple((ident,) for ident in rest[:3])
    return couplers.add_crescendo(owner.id, Crescendo(id="c", name="C", by=by, stages=stages))


def _of_combination(hand, edit):
    owner = hand.device(lambda owner: owner.combinations)
    return edit(owner, hand.one(owner.combinations))


def _of_crescendo(hand, edit):
    owner = hand.device(lambda owner: owner.crescendos)
    return edit(owner, hand.one(owner.crescendos))


def _sound(h):
    """A sound of some device, and an output of that device."""
    device = h.device(lambda device: device.outputs and sounds_of(device))
    return h.one(sounds_of(device)).ref, h.one(output_choices(device))


def _patch(h):
    """A device with outputs, and another with audio inputs."""
    source = h.device(lambda device: device.outputs)
    return source.id, h.device(lambda other: other.audio_inputs and other is not source).id


def _output_wish(h):
    ref = _sound(h)[0]
    want = h.one(("alone", "stereo"))
    return OutputWish(id="tried", name="Tried", of=(ref,), want=want)


def _channel(h):
    device = h.device(lambda device: device.audio_inputs)
    return device.id, h.one(device.audio_inputs).id


def _prune(h):
    device = h.device(lambda device: device.kits)
    kit = h.one(device.kits)
    return audio.prune(device.id, {kit.id: frozenset((kit.sounds[0].id,))})


def _audio_ends(h):
    source, dest = _patch(h)
    plan = h.plan
    output = h.one(lookup.device(plan, source).outputs)
    channel = h.one(lookup.device(plan, dest).audio_inputs)
    return f"{source}:{output.id}", f"{dest}:{channel.id}"


ORGAN_EDITS = {
    "couplers.wish_coupler": lambda h: couplers.wish_coupler(_coupling(h)),
    "couplers.change_coupler": lambda h: couplers.change_coupler(
        h.one(h.plan.couplings).id, "x", shift=12
    ),
    "couplers.drop_coupler": lambda h: couplers.drop_coupler(h.one(h.plan.couplings).id),
    "couplers.hold_in_console": lambda h: couplers.hold_in_console(h.plan, _coupling(h)),
    "couplers.hold_in_organ": lambda h: _held_in_organ(h),
    "couplers.without_holding": lambda h: couplers.without_holding(_coupling(h)),
    "couplers.add_combination": lambda h: _new_combination(h),
    "couplers.add_crescendo": lambda h: _new_crescendo(h),
    "couplers.set_draws": lambda h: _of_combination(
        h,
        lambda owner, one: couplers.set_draws(
            owner.id, one.id, h.one(owner.controls).id, h.draw(st.booleans())
        ),
    ),
    "couplers.capture": lambda h: _of_combination(
        h,
        lambda owner, one: couplers.capture(owner.id, one.id, [c.id for c in owner.controls[:4]]),
    ),
    "couplers.remove_combination": lambda h: _of_combination(
        h, lambda owner, one: couplers.remove_combination(owner.id, one.id)
    ),
    "couplers.set_stage": lambda h: _of_crescendo(
        h, lambda owner, one: couplers.set_stage(owner.id, one.id, h.one(owner.controls).id, 1)
    ),
    "couplers.remove_crescendo": lambda h: _of_crescendo(
        h, lambda owner, one: couplers.remove_crescendo(owner.id, one.id)
    ),
}


def _steps(hand):
    return [SetStep(scene=hand.one(hand.plan.scenes).id) for _ in range(3)]


def _with_list(hand, edit):
    one = hand.one(hand.plan.setlists)
    if not one.steps:
        raise Nothing
    return edit(one.id, hand.draw(st.integers(0, len(one.steps) - 1)))


def _stored_elsewhere(hand):
    owner = hand.device(lambda owner: owner.programs)
    numbers = [program.number for program in owner.programs]
    new = hand.draw(st.permutations(range(len(numbers))))
    return setlists.store_as(owner.id, {n: (s,) for n, s in zip(numbers, new, strict=True)})


def _leading(hand):
    front = hand.device(lambda owner: owner.programs)
    behind = hand.device(lambda owner: owner.programs)
    return setlists.lead(hand.plan, front.id, behind.id, hand.draw(st.integers(1, 16)))


def _filled(hand):
    device, program = hand.program()
    songs = [scene.id for scene in hand.plan.scenes]
    return setlists.fill_program(songs, device.id, program.number)


def _variety(hand, edit):
    front = hand.device(lambda owner: fills.pads_of(owner) and owner.programs)
    behind = hand.device(lambda owner: any(part.kit for part in owner.parts))
    part = hand.one(part for part in behind.parts if part.kit)
    return edit(hand.plan, front.id, behind.id, part.id)


EVENING_EDITS = {
    "variety.presets_in_receiver": lambda h: _variety(h, variety.presets_in_receiver),
    "variety.kits_in_controller": lambda h: _variety(h, variety.kits_in_controller),
    "setlists.add_setlist": lambda h: setlists.add_setlist("Evening"),
    "setlists.remove_setlist": lambda h: setlists.remove_setlist(h.one(h.plan.setlists).id),
    "setlists.set_setlist": lambda h: setlists.set_setlist(
        h.one(h.plan.setlists).id, "x", name="Late"
    ),
    "setlists.set_steps": lambda h: setlists.set_steps(h.one(h.plan.setlists).id, "x", _steps(h)),
    "setlists.move_step": lambda h: _with_list(h, lambda i, at: setlists.move_step(i, at, 0)),
    "setlists.put_step": lambda h: _with_list(
        h, lambda i, at: setlists.put_step(i, at, SetStep(minutes=10))
    ),
    "setlists.drop_step": lambda h: _with_list(h, setlists.drop_step),
    "setlists.set_scene": lambda h: setlists.set_scene(
        h.one(h.plan.scenes).id, "x", tempo=96.0, key="D", transpose=h.draw(st.integers(-3, 3))
    ),
    "setlists.set_arrival": lambda h: setlists.set_arrival(
        h.one(h.plan.scenes).id, h.device().id, h.draw(st.sampled_from([None, "by hand"]))
    ),
    "setlists.set_start": lambda h: setlists.set_start(
        h.one(h.plan.scenes).id, h.thing("targets"), h.draw(st.sampled_from([None, 0.5]))
    ),
    "setlists.set_note": lambda h: setlists.set_note(
        h.one(h.plan.scenes).id, "Ro", notes="Look up", click=True
    ),
    "setlists.fill_program": lambda h: _filled(h),
    "setlists.own_programs": lambda h: setlists.own_programs(
        [scene.id for scene in h.plan.scenes[:3]], h.device(lambda d: d.programs).id
    ),
    "setlists.store_as": lambda h: _stored_elsewhere(h),
    "setlists.lead": lambda h: _leading(h),
    "setlists.lead_no_longer": lambda h: setlists.lead_no_longer(h.device().id),
}


def tell_function_to(hand):
    device = hand.device(lambda owner: owner.controls and owner.programs)
    numbers = [program.number for program in device.programs]
    control = hand.one(device.controls).id
    does = hand.draw(st.sampled_from([None, *TOLD]))
    return functions.tell_function(device, control, numbers, does)


def _source(h):
    return PowerSource(id="brick", name="Brick", kind="brick", feeds=(h.device().id,))


EDITS = {
    "power.add_source": lambda h: power.add_source(_source(h)),
    "power.set_source": lambda h: power.set_source(h.one(h.plan.power).id, LABEL, volts=9.0),
    "power.remove_source": lambda h: power.remove_source(h.one(h.plan.power).id),
    "power.feed": lambda h: power.feed(h.one(h.plan.power).id, (h.device().id,)),
    "power.set_hours": lambda h: power.set_hours(3.5),
    "power.put_at": lambda h: power.put_at(h.device().id, 1.0, 2.0),
    "power.tick": lambda h: power.tick("Devices: Heron 73", "2026-11-27", "AB"),
    "power.untick_all": lambda h: power.untick_all(),
    "cables.set_cable": lambda h: cables.set_cable(h.one(h.plan.cables), LABEL, metres=3.0),
    "hearing.set_buffer": lambda h: hearing.set_buffer(h.device().id, frames=256),
    "hearing.remove_buffer": lambda h: hearing.remove_buffer(h.device().id),
    "hearing.set_hearing": lambda h: hearing.set_hearing("Ro", by="air", metres=2.0),
    "hearing.forget_hearing": lambda h: hearing.forget_hearing("Ro"),
    "audio.set_outputs": lambda h: audio.set_outputs(dict([_sound(h)]), LABEL),
    "audio.set_output": lambda h: audio.set_output(h.plan, *_sound(h)),
    "audio.set_mix": lambda h: audio.set_mix(_sound(h)[0], level=h.draw(KEY)),
    "audio.prune": _prune,
    "audio.connect_audio": lambda h: audio.connect_audio(h.plan, *_audio_ends(h)),
    "audio.patch": lambda h: audio.patch(h.plan, *_patch(h)),
    "audio.remove_audio_cables": lambda h: audio.remove_audio_cables(h.plan.audio_cables[:2]),
    "audio.remove_audio_cable": lambda h: audio.remove_audio_cable(h.one(h.plan.audio_cables)),
    "audio.set_audio_cable": lambda h: audio.set_audio_cable(
        h.one(h.plan.audio_cables), LABEL, metres=3.0
    ),
    "audio.set_di": lambda h: audio.set_di(True, h.plan.audio_cables[:2]),
    "audio.set_phantom": lambda h: audio.set_phantom(*_channel(h), True),
    "audio.set_passes": lambda h: audio.set_passes(_channel(h)[0], ()),
    "audio.wish_output": lambda h: audio.wish_output(_output_wish(h)),
    "audio.change_output_wish": lambda h: audio.change_output_wish(
        h.one(h.plan.output_wishes).id, LABEL, strength=2
    ),
    "audio.remove_output_wish": lambda h: audio.remove_output_wish(h.one(h.plan.output_wishes).id),
    **ORGAN_EDITS,
    **EVENING_EDITS,
    "cables.add_cable": lambda h: cables.add_cable(_port(h, "out"), _port(h, "in")),
    "cables.remove_cable": lambda h: cables.remove_cable(h.one(h.plan.cables)),
    "cables.connect": lambda h: cables.connect(h.plan, _port(h, "out"), _port(h, "in")),
    "consoles.set_block": _block,
    "consoles.set_shoe": _shoe,
    "consoles.begin": lambda h: consoles.begin(h.device(lambda d: d.kind == "encoder")),
    "consoles.failed": lambda h: consoles.failed(h.console().id, "great/line/1", "open"),
    "consoles.move_block": lambda h: consoles.move_block(
        h.console().id, h.console().console.blocks[0].id, 1
    ),
    "consoles.tick": lambda h: consoles.tick(h.console().id, "w-1", "soldered", True),
    "consoles.saw": lambda h: consoles.forget(h.console().id),
    "consoles.forget": lambda h: consoles.forget(h.console().id),
    "consoles.found": lambda h: consoles.found(h.console().id, ()),
    "consoles.hide": lambda h: consoles.hide(h.console().id, ()),
    "consoles.split_off": _split_off,
    "copies.copy": _copy,
    "copies.spread": _spread,
    "devices.set_device": lambda h: devices.set_device(h.device().id, LABEL, local=False),
    "devices.set_part": _part,
    "devices.let_answer": _answer,
    "devices.add_device": lambda h: devices.add_device(h.one(shipped().values())),
    "devices.remove_device": lambda h: devices.remove_device(h.device().id),
    "devices.set_limit": _limit,
    "fills.apply": _fill,
    "layers.add_layer": _layer,
    "layers.remove_layer": _layer_gone,
    "layers.hat_without_pedal": _hat,
    "layers.half_open_hat": _half_hat,
    "log.record": _entry,
    "parameter_names.name_number": _name_number,
    "parameter_names.name_numbers": _name_numbers,
    "functions.tell_function": lambda h: tell_function_to(h),
    "pedals.plug_in": lambda h: pedals.plug_in(h.plan, h.one(h.plan.pedals).id, h.thing("jacks")),
    "pedals.pull_out": lambda h: pedals.pull_out(h.one(h.plan.pedals).id),
    "pedals.set_pedal": lambda h: pedals.set_pedal(h.one(h.plan.pedals).id, LABEL, name="Tried"),
    "pedals.set_jack": lambda h: pedals.set_jack(h.thing("jacks"), LABEL, heel=h.draw(KEY)),
    "pedals.add_pedal": lambda h: pedals.add_pedal(
        Pedal(id="p", name="P", kind="switch", function="sustain")
    ),
    "pedals.remove_pedal": lambda h: pedals.remove_pedal(h.one(h.plan.pedals).id),
    "pedals.take_over": lambda h: pedals.take_over(()),
    "pedals.wish_also": lambda h: pedals.wish_also(
        h.one(h.plan.pedals).id, FootWish(function="hold", device=h.device().id)
    ),
    "pedals.set_wish": lambda h: pedals.set_wish(
        h.one(h.plan.pedals).id, h.draw(st.integers(0, 1)), LABEL, tied=True
    ),
    "pedals.drop_wish": lambda h: pedals.drop_wish(h.one(h.plan.pedals).id, 0),
    "plugs.plug_in": lambda h: plugs.plug_in(h.plan, h.one(h.plan.pads).id, h.thing("inputs")),
    "plugs.pull_out": lambda h: plugs.pull_out(h.one(h.plan.pads).id),
    "plugs.set_input": lambda h: plugs.set_input(h.thing("inputs"), h.one(("dual", "mono"))),
    "plugs.change_input": lambda h: plugs.change_input(
        h.thing("inputs"), LABEL, threshold=h.draw(KEY)
    ),
    "plugs.take_over": lambda h: plugs.take_over((), {}),
    "plugs.set_pad": lambda h: plugs.set_pad(h.one(h.plan.pads).id, LABEL, name="Tried"),
    "plugs.add_pad": lambda h: plugs.add_pad(TriggerPad(id="t", name="T", sensor="dual")),
    "plugs.remove_pad": lambda h: plugs.remove_pad(h.one(h.plan.pads).id),
    "renumber.renumber": lambda h: renumber.renumber(h.plan, h.draw(st.integers(14, 80))),
    "scenes.choose_program": _choose_program,
    "scenes.own_program": _own_program,
    "scenes.rename_scene": lambda h: scenes.rename_scene(h.one(h.plan.scenes).id, "Tried"),
    "scenes.add_scene": lambda h: scenes.add_scene("Tried"),
    "scenes.copy_scene": lambda h: scenes.copy_scene(h.one(h.plan.scenes).id),
    "scenes.remove_scene": lambda h: scenes.remove_scene(h.one(h.plan.scenes).id),
    "scenes.move_scene": lambda h: scenes.move_scene(
        h.one(h.plan.scenes).id, h.draw(st.integers(-3, 3))
    ),
    "programs.rename_program": lambda h: programs.rename_program(*_stored(h), "Tried"),
    "programs.copy_program": lambda h: programs.copy_program(*_stored(h)),
    "programs.clear_program": lambda h: programs.clear_program(*_stored(h)),
    "programs.remove_program": lambda h: programs.remove_program(*_stored(h)),
    "programs.choose_kit": _choose_kit,
    "programs.move_program": lambda h: programs.move_program(*_stored(h), h.draw(KEY)),
    "sends.set_send": _send_changed,
    "settings.set_field": _field,
    "settings.many": _numbers,
    "movables.add_standard_target": lambda h: movables.add_standard_target(
        *_any_part(h), _movable(h)
    ),
    "movables.wish_to_move": _moved,
    "movables.wish_to_select": _selected,
    "movables.wish_to_step": _stepped,
    "movables.wish_for_scene": _called,
    "locks.lock": lambda h: locks.lock(
        h.one(list(dials(h.plan))[:60]), h.one(("locked", "free")), "AB"
    ),
    "locks.lock_all": lambda h: locks.lock_all(tuple(dials(h.plan))[:5]),
    "schools.choose_school": _school,
    "wishes.make": _wish,
    "wishes.make_in_order": _wishes_in_order,
    "wishes.change": _wish_changed,
    "wishes.remove": lambda h: wishes.remove(h.one(h.plan.wishes).id),
    "wishes.play_sound": _play_sound,
    "wishes.take_back": _take_back,
    "zones.set_zone": _zone_changed,
    "zones.split_zone": _zone_edit(zones.split_zone, "key"),
    "zones.layer_zone": _zone_edit(zones.layer_zone),
    "zones.add_zone": _zone_copy,
    "zones.remove_zone": _zone_edit(zones.remove_zone),
    "zones.move_edge": _edge,
    "tracks.own_channels": _own_channels,
    "numbers.Solution.edit": _solved,
}


def public_edits():
    """Every public function of the modules of edits that gives an Edit."""
    names = []
    for found in pkgutil.iter_modules(edits.__path__):
        module = importlib.import_module(f"{edits.__name__}.{found.name}")
        for name, function in inspect.getmembers(module, inspect.isfunction):
            own = function.__module__ == module.__name__ and not name.startswith("_")
            if own and function.__annotations__.get("return") in (Edit, "Edit"):
                names.append(f"{found.name}.{name}")
    return names


@st.composite
def some_edits(draw, plan):
    """A plan after a few edits of any kind."""
    for _ in range(draw(st.integers(0, 5))):
        name = draw(st.sampled_from(sorted(EDITS)))
        try:
            plan = EDITS[name](Hand(plan, draw))(plan)
        except (Nothing, EditError):
            continue
    return plan
