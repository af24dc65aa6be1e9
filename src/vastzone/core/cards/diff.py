"""What differs between two plans, in words."""

from collections.abc import Iterable, Iterator
from typing import Protocol

from vastzone.core.plan.fields.dials import Dial, device_dials, held_value
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.fields.words import field_words, thing_words, value_words
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability


class _Named(Protocol):
    @property
    def id(self) -> str: ...

    @property
    def name(self) -> str: ...


def differences(old: Plan, new: Plan) -> list[str]:
    """Every difference as a sentence, in the order of the newer plan."""
    told = list(_come_and_gone("device", old.devices, new.devices))
    was, now = _cables(old), _cables(new)
    for cable in sorted(was - now):
        told.append(f"Cable from {cable} is gone.")
    for cable in sorted(now - was):
        told.append(f"Cable from {cable} is new.")
    told += _come_and_gone("scene", old.scenes, new.scenes)
    told += _come_and_gone("wish", old.wishes, new.wishes)
    known = lookup.by_ids(old.wishes)
    for wish in new.wishes:
        if known.get(wish.id, wish) != wish:
            told.append(f"The wish {wish.name} has changed.")
    before = lookup.ids_of(old.devices)
    for device in new.devices:
        if device.id in before:
            told += _numbers(old, new, device.id)
            told += _rest(old, new, device.id)
    return told


def _cables(plan: Plan) -> set[str]:
    return {f"{cable.source} to {cable.dest}" for cable in plan.cables}


def _come_and_gone(what: str, old: Iterable[_Named], new: Iterable[_Named]) -> Iterator[str]:
    was, now = lookup.names_of(old), lookup.names_of(new)
    for i in was:
        if i not in now:
            yield f"The {what} {was[i]} is gone."
    for i in now:
        if i not in was:
            yield f"The {what} {now[i]} is new."
    for i in now:
        if was.get(i, now[i]) != now[i]:
            yield f"The {what} {was[i]} is now called {now[i]}."


def _numbers(old: Plan, new: Plan, ident: str) -> Iterator[str]:
    was, device = lookup.device(old, ident), lookup.device(new, ident)
    before = {}
    for device_dial in device_dials(was):
        before[device_dial.ref] = device_dial
    for dial in device_dials(device):
        earlier = before.get(dial.ref)
        if earlier is not None and earlier.value != dial.value:
            yield _sentence(dial, earlier.value)


def _sentence(dial: Dial, before: Stored | None) -> str:
    device, number = dial.owner.device, dial.program
    where = "" if number is None else f", program {number + device.first_program}"
    was, now = value_words(dial, before), value_words(dial, dial.value)
    field = field_words(dial).lower()
    return f"{device.name}{where}: {thing_words(dial)}, {field} from {was} to {now}."


def _rest(old: Plan, new: Plan, ident: str) -> Iterator[str]:
    was, now = lookup.device(old, ident), lookup.device(new, ident)
    programs = []
    for device in (was, now):
        programs.append(lookup.names_of(device.programs))
    parts = []
    for device in (was, now):
        parts.append(lookup.names_of(device.parts))
    yield from _names_come_and_gone(now.name, "program", *programs)
    yield from _names_come_and_gone(now.name, "part", *parts)
    if was.thrus != now.thrus and not device_ability(now).chooses_thru:
        yield f"{now.name}: passes other inputs on than before."
    if was.octaves != now.octaves:
        yield f"{now.name}: middle C is C{now.octaves}, not C{was.octaves}."


def _names_come_and_gone(
    device: str, what: str, old: dict[str, str], new: dict[str, str]
) -> Iterator[str]:
    for ident, name in old.items():
        if ident not in new:
            yield f"{device}: the {what} {name} is gone."
    for ident, name in new.items():
        if ident not in old:
            yield f"{device}: the {what} {name} is new."


def undialled(plan: Plan) -> list[str]:
    """What the plan wants and a device is known not to hold yet."""
    sentences = []
    for device in plan.devices:
        for dial in device_dials(device):
            if held_value(plan, dial) != dial.value:
                sentences.append(_sentence(dial, held_value(plan, dial)))
    return sentences
