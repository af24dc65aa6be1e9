"""Edits of what sounds go through: outputs, audio cables, passes of interfaces, wishes for them."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, add_item, edit_device, set_item, with_device
from vastzone.core.plan.model.audio import (
    AudioCable,
    AudioInput,
    AudioPass,
    Leg,
    OutputWish,
    SoundRoute,
)
from vastzone.core.plan.model.bodies import AudioOutput
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.audio_consistency import tidy_audio
from vastzone.core.plan.queries.sounds import (
    SoundUnit,
    covers,
    output_words,
    read_sound,
    routes_sounds,
    sounds_of,
)
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say, say_many
from vastzone.core.text import capital, listed

PAIRED = frozenset(("pair", "headphones", "usb"))


def set_outputs(choices: Mapping[str, str], label: str) -> Edit:
    """Put sounds ``device:part/sound`` or parts on outputs of their devices, as one step.

    A sound that goes where its part goes needs no way of its own.
    """

    def apply(plan: Plan) -> Plan:
        by_device: dict[str, dict[str, str]] = {}
        for ref, choice in choices.items():
            by_device.setdefault(read_sound(ref)[0], {})[ref] = choice
        for ident, own in by_device.items():
            old = lookup.device(plan, ident)
            plan = with_device(plan, old, _on_outputs(old, own))
        return plan

    return Edit(label, apply)


def set_output(plan: Plan, ref: str, choice: str) -> Edit:
    """Put one sound or part on an output."""
    device = lookup.device(plan, read_sound(ref)[0])
    name = ref
    for unit in sounds_of(device):
        if covers(ref, unit):
            name = unit.name if ref == unit.ref else unit.part.name
            break
    return set_outputs(
        {ref: choice}, say("{name} to {output}", name=name, output=output_words(device, choice))
    )


def _on_outputs(device: Device, choices: Mapping[str, str]) -> Device:
    parts = {part.id: part for part in device.parts}
    routes = {(route.part, route.sound): route for route in device.routes}
    for ref, choice in choices.items():
        _, ident, sound = read_sound(ref)
        part = lookup.part(device, ident)
        if not sound:
            parts[ident] = changed(parts[part.id], output=choice)
            continue
        if not routes_sounds(device):
            raise EditError(
                say(
                    "{device} puts a whole kit on one output: choose an output for {part}.",
                    device=device.name,
                    part=part.name,
                )
            )
        usual = SoundRoute(part=ident, sound=sound)
        routes[ident, sound] = changed(routes.get((ident, sound), usual), output=choice)
    kept = []
    for route in routes.values():
        same_way = route.output in ("", parts[route.part].output)
        if not (same_way and (route.level, route.pan) == (100, 0)):
            kept.append(changed(route, output="") if same_way else route)
    return changed(device, parts=tuple(parts.values()), routes=tuple(kept))


def set_mix(ref: str, **changes: int) -> Edit:
    """Change the ``level`` or ``pan`` of a sound or part."""
    owner, ident, sound = read_sound(ref)

    def change(device: Device) -> Device:
        part = lookup.part(device, ident)
        if not sound:
            return changed(device, parts=swapped(device.parts, part, changed(part, **changes)))
        for route in device.routes:
            if (route.part, route.sound) == (ident, sound):
                new = changed(route, **changes)
                return changed(device, routes=swapped(device.routes, route, new))
        own = SoundRoute(part=ident, sound=sound, level=part.level, pan=part.pan)
        return changed(device, routes=(*device.routes, changed(own, **changes)))

    return edit_device(owner, "Change " + listed(changes), change)


def prune(device: str, lost: Mapping[str, frozenset[str]]) -> Edit:
    """Take sounds out of kits, so that each is left in one copy only; by the id of each kit."""

    def change(owner: Device) -> Device:
        kits = []
        for kit in owner.kits:
            gone = lost.get(kit.id, frozenset())
            kept = tuple(sound for sound in kit.sounds if sound.id not in gone)
            kits.append(changed(kit, sounds=kept) if gone else kit)
        return _without_lost_routes(changed(owner, kits=tuple(kits)))

    def apply(plan: Plan) -> Plan:
        old = lookup.device(plan, device)
        return tidy_audio(with_device(plan, old, change(old)))

    return Edit(say("Keep each sound in one copy"), apply)


def _without_lost_routes(device: Device) -> Device:
    there = {(unit.part.id, unit.sound) for unit in sounds_of(device)}
    kept = tuple(route for route in device.routes if (route.part, route.sound) in there)
    return changed(device, routes=kept)


def connect_audio(plan: Plan, source: str, dest: str, leg: Leg | None = None) -> Edit:
    """A cable from an output to an audio input; of a pair, the side that is still free.

    Raises EditError where that cannot be.
    """
    here, output = _output(plan, source)
    there, jack = _input(plan, dest)
    if here is there:
        raise EditError(say("Both ends are at {here}: a cable joins two devices.", here=here.name))
    sided = output.kind in PAIRED or jack.kind != "mono"
    side: Leg = leg or ("both" if not sided else _free_side(plan, source, dest, output, jack))
    if _sides(side) & _taken(plan, source, at_source=True):
        raise EditError(
            say(
                "{output} of {here} has a cable already: pull that first.",
                output=output.name,
                here=here.name,
            )
        )
    if _sides(side) & _taken(plan, dest, at_source=False):
        raise EditError(
            say(
                "{jack} of {there} has a cable already: pull that first.",
                jack=jack.name,
                there=there.name,
            )
        )
    cable = AudioCable(source=source, dest=dest, leg=side)

    def apply(before: Plan) -> Plan:
        return msgspec.structs.replace(before, audio_cables=(*before.audio_cables, cable))

    return Edit(
        say(
            "Connect {output} of {here} to {jack} of {there}",
            output=output.name,
            here=here.name,
            jack=jack.name,
            there=there.name,
        ),
        apply,
    )


def _free_side(plan: Plan, source: str, dest: str, output: AudioOutput, jack: AudioInput) -> Leg:
    """The side of a pair that a new cable carries: both between pairs, else the first free one."""
    if output.kind in PAIRED and jack.kind != "mono":
        return "both"
    taken = _taken(plan, source, at_source=True)
    if output.kind not in PAIRED:
        taken = _taken(plan, dest, at_source=False)
    return "right" if "left" in taken and "right" not in taken else "left"


def _sides(leg: Leg) -> frozenset[str]:
    return frozenset(("left", "right")) if leg == "both" else frozenset((leg,))


def _taken(plan: Plan, ref: str, *, at_source: bool) -> frozenset[str]:
    """The sides of a jack that have a cable; a mono one is taken by any, on both."""
    taken: set[str] = set()
    for cable in plan.audio_cables:
        if ref == (cable.source if at_source else cable.dest):
            taken |= _sides(cable.leg)
    kind = (_output(plan, ref)[1] if at_source else _input(plan, ref)[1]).kind
    return frozenset(("left", "right")) if taken and kind == "mono" else frozenset(taken)


def _output(plan: Plan, ref: str) -> tuple[Device, AudioOutput]:
    ident, jack = read_ref(ref)
    device = lookup.device(plan, ident)
    return device, lookup.by_id(
        device.outputs, jack, say("output of {device} called", device=device.name)
    )


def _input(plan: Plan, ref: str) -> tuple[Device, AudioInput]:
    ident, jack = read_ref(ref)
    device = lookup.device(plan, ident)
    return device, lookup.by_id(
        device.audio_inputs, jack, say("audio input of {device} called", device=device.name)
    )


def patch(plan: Plan, source: str, dest: str) -> Edit:
    """Cables from every output of a device that has none to the next free inputs of another.

    A pair takes a pair, or two mono inputs.  Raises EditError where none is free.
    """
    begun = plan
    owner, other = lookup.device(plan, source), lookup.device(plan, dest)
    for output in owner.outputs:
        ref = ref_to(source, output.id)
        if output.kind == "headphones" or _taken(plan, ref, at_source=True):
            continue
        for into, leg in _next_inputs(plan, output, dest):
            plan = connect_audio(plan, ref, into, leg)(plan)
    if plan is begun:
        raise EditError(
            say(
                "No output of {owner} and input of {other} are free and alike: pull a cable, "
                "or give "
                "them more.",
                owner=owner.name,
                other=other.name,
            )
        )
    added = plan.audio_cables

    def apply(before: Plan) -> Plan:
        return msgspec.structs.replace(before, audio_cables=added)

    return Edit(say("Patch {owner} to {other}", owner=owner.name, other=other.name), apply)


def _next_inputs(plan: Plan, output: AudioOutput, dest: str) -> Sequence[tuple[str, Leg]]:
    """Where the next cable of an output goes: one input, or two mono ones for a pair."""
    free: list[tuple[str, AudioInput]] = []
    for jack in lookup.device(plan, dest).audio_inputs:
        ref = ref_to(dest, jack.id)
        if not _taken(plan, ref, at_source=False):
            free.append((ref, jack))
    if output.kind == "usb":
        return [(ref, "both") for ref, jack in free if jack.kind == "usb"][:1]
    analogue = [(ref, jack) for ref, jack in free if jack.kind != "usb"]
    if output.kind == "mono":
        mono = [(ref, jack) for ref, jack in analogue if jack.kind == "mono"]
        for ref, jack in (mono or analogue)[:1]:
            return [(ref, "both" if jack.kind == "mono" else "left")]
        return []
    for ref, jack in analogue:
        if jack.kind == "pair":
            return [(ref, "both")]
    if len(analogue) < 2:
        return []
    return [(analogue[0][0], "left"), (analogue[1][0], "right")]


def remove_audio_cables(cables: Sequence[AudioCable]) -> Edit:
    """Pull several audio cables out."""
    gone = frozenset(cables)

    def apply(plan: Plan) -> Plan:
        left = tuple(one for one in plan.audio_cables if one not in gone)
        return msgspec.structs.replace(plan, audio_cables=left)

    return Edit(
        say(
            "Remove {cables}",
            cables=say_many("{count} audio cable", "{count} audio cables", len(gone)),
        ),
        apply,
    )


def remove_audio_cable(cable: AudioCable) -> Edit:
    """Pull an audio cable out."""

    def apply(plan: Plan) -> Plan:
        left = tuple(one for one in plan.audio_cables if one != cable)
        return msgspec.structs.replace(plan, audio_cables=left)

    return Edit(say("Remove audio cable"), apply)


def set_audio_cable(cable: AudioCable, label: str, **changes: Any) -> Edit:
    """Change a cable: its side, its DI box, its length."""

    def apply(plan: Plan) -> Plan:
        if cable not in plan.audio_cables:
            raise EditError(say("That cable is not there any more: choose another."))
        new = changed(cable, **changes)
        return msgspec.structs.replace(plan, audio_cables=swapped(plan.audio_cables, cable, new))

    return Edit(label, apply)


def set_di(on: bool, cables: Sequence[AudioCable]) -> Edit:
    """A DI box in each of some cables, or none."""
    wanted = frozenset(cables)

    def apply(before: Plan) -> Plan:
        new = []
        for cable in before.audio_cables:
            new.append(changed(cable, di=on) if cable in wanted else cable)
        return msgspec.structs.replace(before, audio_cables=tuple(new))

    return Edit(say("A DI box in it") if on else say("No DI box"), apply)


def set_phantom(device: str, channel: str, on: bool) -> Edit:
    """Phantom power of an input on or off."""

    def change(owner: Device) -> Device:
        old = lookup.by_id(
            owner.audio_inputs, channel, say("audio input of {owner} called", owner=owner.name)
        )
        new = changed(old, phantom=on)
        return changed(owner, audio_inputs=swapped(owner.audio_inputs, old, new))

    return edit_device(device, say("Phantom on") if on else say("Phantom off"), change)


def set_passes(device: str, passes: Sequence[AudioPass]) -> Edit:
    """What an interface passes on, and where."""
    return edit_device(
        device,
        say("Change what is passed on"),
        lambda owner: changed(owner, audio_passes=tuple(passes)),
    )


def wish_output(wish: OutputWish) -> Edit:
    """Wish something for outputs."""
    return add_item("output_wishes", wish)


def change_output_wish(ident: str, label: str, **changes: Any) -> Edit:
    """Change a wish for outputs."""
    return set_item("output_wishes", ident, say("output wish"), label, **changes)


def remove_output_wish(ident: str) -> Edit:
    """Wish that no more."""

    def apply(plan: Plan) -> Plan:
        left = tuple(wish for wish in plan.output_wishes if wish.id != ident)
        return msgspec.structs.replace(plan, output_wishes=left)

    return Edit(say("Remove output wish"), apply)


def usual_wishes(plan: Plan) -> Iterator[OutputWish]:
    """What a desk usually wants first: kick, snare and hat alone, loops apart from the rest.

    Only for what has no wish yet.
    """
    said = {ref for wish in plan.output_wishes for ref in wish.of}
    units: list[SoundUnit] = []
    for device in plan.devices:
        units += [unit for unit in sounds_of(device) if unit.ref not in said]
    for kind, strength in (("kick", 5), ("snare", 5), ("hat", 4)):
        refs = tuple(unit.ref for unit in units if unit.kind == kind)
        if refs:
            name = say("{kind} alone", kind=capital(say(kind)))
            yield OutputWish(id=kind, name=name, of=refs, want="alone", strength=strength)
    loops = tuple(unit.ref for unit in units if unit.kind == "loops")
    rest = tuple(unit.ref for unit in units if unit.kind not in ("loops", "kick", "snare", "hat"))
    if loops and rest:
        yield OutputWish(
            id="loops", name=say("Loops apart"), of=loops, want="apart", apart=rest, strength=3
        )
