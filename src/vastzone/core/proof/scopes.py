"""Rules about what a device has once where scenes want it several times: scopes, kits, channels."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import Sending
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.dials import Dial, dials_of_kinds
from vastzone.core.plan.fields.field import FieldKind
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.fields.words import field_words, thing_words, value_words
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.parts import Kit, Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say, say_many
from vastzone.core.text import listed

WIDE = {"global": say("the whole device"), "program": say("a program"), "bank": say("a bank")}


def one_for_all(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """A number that a device has once, planned with several values."""
    for owner in plan.devices:
        used = lookup.scenes_by_program(plan, owner)
        for torn in _torn(owner):
            here = []
            for dial in torn:
                if dial.program in (None, *used):
                    here.append(dial)
            firsts = _first_with_each_value(here)
            if len(firsts) > 1:
                yield _one_for_all(plan, owner, torn, here, firsts)


def _first_with_each_value(dials: list[Dial]) -> list[Dial]:
    firsts: dict[Stored, Dial] = {}
    for dial in dials:
        firsts.setdefault(dial.value, dial)
    return list(firsts.values())


def _one_for_all(
    plan: Plan, owner: Device, dials: tuple[Dial, ...], here: list[Dial], firsts: list[Dial]
) -> Remark:
    told = []
    for device in firsts[:3]:
        told.append(
            say(
                "{thing} wants {value}",
                thing=thing_words(device),
                value=value_words(device, device.value),
            )
        )
    fixes = tuple(
        _all_to(
            dials,
            device.value,
            say("Use {value} for all of them", value=value_words(here[0], device.value)),
        )
        for device in firsts[:2]
    )
    owned = here[0].owner
    thing = owned.thing.control if owned.kind == "send" else ""
    return Remark(
        "one for all",
        (ref_to(owner.id, thing) if thing else owner.id, owner.id),
        say(
            "{owner} has one {field} for {wide}, and {told}.",
            owner=owner.name,
            field=field_words(here[0]).lower(),
            wide=WIDE.get(here[0].scope, "all"),
            told=listed(told),
        ),
        fixes,
        _scenes_of(plan, owner, here, firsts[0].value),
    )


@derived(512)
def _torn(owner: Device) -> tuple[tuple[Dial, ...], ...]:
    """Numbers that are one in the device and have several values in the plan."""
    kinds: set[FieldKind] = set()
    for limit in owner.limits:
        if isinstance(limit, ScopeLimit) and limit.scope in WIDE:
            kinds.add(limit.setting)
    together: dict[tuple[str, ...], list[Dial]] = {}
    for dial in dials_of_kinds(owner, frozenset(kinds)) if kinds else ():
        # A setting that is alone in its slot cannot be at odds with another.
        if dial.slot != (dial.ref,) and dial.scope in WIDE:
            together.setdefault(dial.slot, []).append(dial)
    torn = []
    for dials in together.values():
        if len({dial.value for dial in dials}) > 1:
            torn.append(tuple(dials))
    return tuple(torn)


def _all_to(dials: tuple[Dial, ...], value: Stored, label: str) -> Edit:
    return set_numbers({item.ref: value for item in dials if item.value != value}, label)


def _scenes_of(plan: Plan, owner: Device, dials: list[Dial], usual: Stored) -> tuple[str, ...]:
    """The scenes that need another value than the first."""
    other = set()
    for item in dials:
        if item.value != usual:
            other.add(item.program)
    scenes = []
    for scene in plan.scenes:
        if lookup.program_number(scene, owner) in other:
            scenes.append(scene.id)
    return tuple(scenes)


def moved_sounds(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads whose sound is another one in other scenes, because the receiver changes its kit."""
    told: set[tuple[str, str, str]] = set()
    for one, other in combinations(_first_of_each(compiled), 2):
        for owner in plan.devices:
            for part in owner.parts:
                kits = tuple(_kit_in(owner, part, c) for c in (one, other))
                if kits[0] is None or kits[1] is None or kits[0] is kits[1]:
                    continue
                key = (ref_to(owner.id, part.id), *sorted((kits[0].id, kits[1].id)))
                if key not in told and (moved := _moved(plan, one, other, key[0], kits)):  # type: ignore[arg-type]
                    told.add(key)  # type: ignore[arg-type]
                    yield _kit_change(plan, owner, part, other, kits, moved)  # type: ignore[arg-type]


def _first_of_each(compiled: tuple[Compiled, ...]) -> list[Compiled]:
    """One scene for each state that listeners are in."""
    firsts: dict[int, Compiled] = {}
    for scene in compiled:
        firsts.setdefault(id(scene.world), scene)
    return list(firsts.values())


def _kit_in(owner: Device, part: Part, scene: Compiled) -> Kit | None:
    for channel in scene.world.of(owner.id).by_channel:
        for listener in channel:
            if listener.part is part:
                return listener.kit
    return None


def _moved(
    plan: Plan, one: Compiled, other: Compiled, ref: str, kits: tuple[Kit, Kit]
) -> list[tuple[str, str, str]]:
    """Pads that send one note in both scenes, with the sounds that they then call."""
    moved = []
    before, after = ({sound.note: sound.name for sound in kit.sounds} for kit in kits)
    for key in one.controls.keys() - _wished_to_play(plan, ref):
        both = _notes_to(one.controls[key], ref) & _notes(other.controls.get(key, ()))
        for note in both:
            was, now = before.get(note, ""), after.get(note, "")
            if was != now:
                moved.append((key, note, was, now or say("nothing")))
    places = {}
    for number, key in enumerate(one.controls):
        places[key] = number
    moved.sort(key=lambda held: (places[held[0]], held[1]))
    return [(key[0], was, now) for key, _, was, now in moved]


def _wished_to_play(plan: Plan, ref: str) -> set[tuple[str, int]]:
    """The controls, by bank, that are wished to play a part."""
    wished: set[tuple[str, int]] = set()
    for wish in plan.wishes:
        if wish.plays == ref:
            wished |= {(source, wish.bank) for source in wish.sources}
    return wished


def _notes(sendings: tuple[Sending, ...]) -> set[int]:
    """The notes that a control sends."""
    notes = set()
    for sending in sendings:
        for emission in sending.notes:
            notes.add(emission.note)
    return notes


def _notes_to(sendings: tuple[Sending, ...], ref: str) -> set[int]:
    """The notes that a control sends to a part."""
    notes = set()
    for sending in sendings:
        for emission in sending.notes:
            if any(landing.ref == ref for landing in emission.landings):
                notes.add(emission.note)
    return notes


def _kit_change(
    plan: Plan,
    owner: Device,
    part: Part,
    scene: Compiled,
    kits: tuple[Kit, Kit],
    moved: list[tuple[str, str, str]],
) -> Remark:
    ref, was, now = moved[0]
    device = lookup.device(plan, device_of(ref))
    pad = lookup.by_id(device.controls, thing_of(ref), "control").name
    more = (
        say(
            ", and {pads} change",
            pads=say_many("{count} more pad", "{count} more pads", len(moved) - 1),
        )
        if len(moved) > 1
        else ""
    )
    where = scene.scene.name if scene.scene else plan.name
    return Remark(
        "kit moves sounds",
        (ref, ref_to(owner.id, part.id), owner.id),
        say(
            "In {where} {part} in {owner} is on {kits} instead of {other}: {pad} of {device} "
            "then plays {now} instead of {was}{more}.",
            where=where,
            part=part.name,
            owner=owner.name,
            kits=kits[1].name,
            other=kits[0].name,
            pad=pad,
            device=device.name,
            now=now,
            was=was,
            more=more,
        ),
        (),
        (scene.scene.id,) if scene.scene else (),
    )


def too_many_channels(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """More channels of their own wished on one port than the sixteen that it has."""
    alone = set()
    for wish in plan.wishes:
        if wish.alone:
            alone.add(wish.plays)
    for owner in plan.devices:
        by_port: dict[tuple[str, ...], list[Part]] = {}
        for part in owner.parts:
            if ref_to(owner.id, part.id) in alone:
                by_port.setdefault(part.ports, []).append(part)
        for parts in by_port.values():
            if len(parts) > 16:
                yield Remark(
                    "more than 16 channels",
                    (ref_to(owner.id, parts[16].id), owner.id),
                    say(
                        "{count} parts of {owner} are wished on channels of their own, and one "
                        "port has 16: "
                        "let {parts} share, or use a second port.",
                        count=len(parts),
                        owner=owner.name,
                        parts=len(parts) - 16,
                    ),
                )
