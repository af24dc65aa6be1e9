"""Rules about what a device has once where scenes want it several times: scopes, kits, channels."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan import lookup
from vastzone.core.plan.cache import derived
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.fields.table import FieldKind
from vastzone.core.plan.limits import ScopeLimit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.plan.settings import Dial, dials_of_kinds, set_numbers
from vastzone.core.plan.sound import Kit, Part
from vastzone.core.plan.words import field_words, thing_words, value_words
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.words import listed, many

WIDE = {"global": "the whole device", "program": "a program", "bank": "a bank"}


def one_for_all(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """A number that a device has once, planned with several values."""
    for owner in plan.devices:
        used = lookup.scenes_by_program(plan, owner)
        for held in _torn(owner):
            here = [d for d in held if d.program in (None, *used)]
            values = list(dict.fromkeys(d.value for d in here))
            if len(values) < 2:
                continue
            told = []
            for value in values[:3]:
                dial = next(d for d in here if d.value == value)
                told.append(f"{thing_words(dial)} wants {value_words(dial, value)}")
            fixes = tuple(
                _all_to(held, v, f"Use {value_words(here[0], v)} for all of them")
                for v in values[:2]
            )
            owned = here[0].owner
            thing = owned.held.control if owned.kind == "send" else ""
            yield Remark(
                "one for all",
                (ref_to(owner.id, thing) if thing else owner.id, owner.id),
                f"{owner.name} has one {field_words(here[0]).lower()} for "
                f"{WIDE.get(here[0].scope, 'all')}, and {listed(told)}.",
                fixes,
                _scenes_of(plan, owner, here, values[0]),
            )


@derived(512)
def _torn(owner: Device) -> tuple[tuple[Dial, ...], ...]:
    """Numbers that are one in the device and have several values in the plan."""
    scopes = [limit for limit in owner.limits if isinstance(limit, ScopeLimit)]
    kinds: frozenset[FieldKind] = frozenset(s.setting for s in scopes if s.scope in WIDE)
    if not kinds:
        return ()
    held: dict[tuple[str, ...], list[Dial]] = {}
    for dial in dials_of_kinds(owner, kinds):
        if dial.slot != (dial.ref,) and dial.scope in WIDE:
            held.setdefault(dial.slot, []).append(dial)
    return tuple(tuple(d) for d in held.values() if len({x.value for x in d}) > 1)


def _all_to(held: tuple[Dial, ...], value: int, label: str) -> Edit:
    return set_numbers({d.ref: value for d in held if d.value != value}, label)


def _scenes_of(plan: Plan, owner: Device, held: list[Dial], usual: int) -> tuple[str, ...]:
    """The scenes that need another value than the first."""
    other = {d.program for d in held if d.value != usual}
    return tuple(s.id for s in plan.scenes if lookup.program_number(s, owner) in other)


def moved_sounds(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads whose sound is another one in other scenes, because the receiver changes its kit."""
    told: set[tuple[str, str, str]] = set()
    for one, other in combinations(_first_of_each(compiled), 2):
        for owner in plan.devices:
            for part in owner.parts:
                kits = tuple(_kit_in(plan, owner, part, c) for c in (one, other))
                if kits[0] is None or kits[1] is None or kits[0] is kits[1]:
                    continue
                key = (ref_to(owner.id, part.id), *sorted((kits[0].id, kits[1].id)))
                if key not in told and (moved := _moved(plan, one, other, key[0], kits)):  # type: ignore[arg-type]
                    told.add(key)  # type: ignore[arg-type]
                    yield _kit_change(plan, owner, part, other, kits, moved)  # type: ignore[arg-type]


def _first_of_each(compiled: tuple[Compiled, ...]) -> list[Compiled]:
    """One scene for each state that listeners are in."""
    found: dict[int, Compiled] = {}
    for scene in compiled:
        found.setdefault(id(scene.world), scene)
    return list(found.values())


def _kit_in(plan: Plan, owner: Device, part: Part, scene: Compiled) -> Kit | None:
    for channel in scene.world.of(owner.id).by_channel:
        for listener in channel:
            if listener.part is part:
                return listener.kit
    return None


def _moved(
    plan: Plan, one: Compiled, other: Compiled, ref: str, kits: tuple[Kit, Kit]
) -> list[tuple[str, str, str]]:
    """Pads that send one note in both scenes, with the sounds that they then call."""
    found = []
    names = [{s.note: s.name for s in kit.sounds} for kit in kits]
    wished = {(s, i.bank) for i in plan.intents if i.plays == ref for s in i.sources}
    for key, sendings in one.controls.items():
        if key in wished:
            continue
        before = {
            e.note for s in sendings for e in s.notes if any(la.ref == ref for la in e.landings)
        }
        after = {e.note for s in other.controls.get(key, ()) for e in s.notes}
        for note in sorted(before & after):
            was, now = names[0].get(note, ""), names[1].get(note, "")
            if was != now:
                found.append((key[0], was, now or "nothing"))
    return found


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
    more = f", and {many(len(moved) - 1, 'more pad')} change" if len(moved) > 1 else ""
    where = scene.scene.name if scene.scene else plan.name
    return Remark(
        "kit moves sounds",
        (ref, ref_to(owner.id, part.id), owner.id),
        f"In {where} {part.name} in {owner.name} is on {kits[1].name} instead of {kits[0].name}: "
        f"{pad} of {device.name} then plays {now} instead of {was}{more}.",
        (),
        (scene.scene.id,) if scene.scene else (),
    )


def too_many_channels(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """More channels of their own wished on one port than the sixteen that it has."""
    for owner in plan.devices:
        parts = {ref_to(owner.id, p.id): p for p in owner.parts}
        alone = {i.plays for i in plan.intents if i.alone and i.plays in parts}
        ports = dict.fromkeys(parts[ref].ports for ref in parts if ref in alone)
        for port in ports:
            held = [parts[ref] for ref in parts if ref in alone and parts[ref].ports == port]
            if len(held) > 16:
                yield Remark(
                    "more than 16 channels",
                    (ref_to(owner.id, held[16].id), owner.id),
                    f"{len(held)} parts of {owner.name} are wished on channels of their own, and "
                    f"one port has 16: let {len(held) - 16} share, or use a second port.",
                )
