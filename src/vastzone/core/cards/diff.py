"""What differs between two plans, in words."""

from collections.abc import Iterable, Iterator
from typing import Protocol

from vastzone.core.plan import lookup
from vastzone.core.plan.model import Plan
from vastzone.core.plan.settings import Dial, device_dials, held_value
from vastzone.core.plan.words import field_words, thing_words, value_words


class _Named(Protocol):
    @property
    def id(self) -> str: ...

    @property
    def name(self) -> str: ...


def differences(old: Plan, new: Plan) -> list[str]:
    """Every difference as a sentence, in the order of the newer plan."""
    told = list(_come_and_gone("device", old.devices, new.devices))
    cables = (
        {f"{c.source} to {c.dest}" for c in old.cables},
        {f"{c.source} to {c.dest}" for c in new.cables},
    )
    told += [f"Cable from {c} is gone." for c in sorted(cables[0] - cables[1])]
    told += [f"Cable from {c} is new." for c in sorted(cables[1] - cables[0])]
    told += _come_and_gone("scene", old.scenes, new.scenes)
    told += _come_and_gone("wish", old.intents, new.intents)
    known = {i.id: i for i in old.intents}
    told += [f"The wish {i.name} has changed." for i in new.intents if known.get(i.id, i) != i]
    before = {d.id: d for d in old.devices}
    for device in new.devices:
        if device.id in before:
            told += _numbers(old, new, device.id)
            told += _rest(old, new, device.id)
    return told


def _come_and_gone(what: str, old: Iterable[_Named], new: Iterable[_Named]) -> Iterator[str]:
    was, now = {x.id: x.name for x in old}, {x.id: x.name for x in new}
    yield from (f"The {what} {was[i]} is gone." for i in was if i not in now)
    yield from (f"The {what} {now[i]} is new." for i in now if i not in was)
    yield from (
        f"The {what} {was[i]} is now called {now[i]}." for i in now if was.get(i, now[i]) != now[i]
    )


def _numbers(old: Plan, new: Plan, ident: str) -> Iterator[str]:
    was, device = lookup.device(old, ident), lookup.device(new, ident)
    before = {d.ref: d for d in device_dials(was)}
    for dial in device_dials(device):
        earlier = before.get(dial.ref)
        if earlier is not None and earlier.value != dial.value:
            yield _sentence(dial, earlier.value)


def _sentence(dial: Dial, before: int | None) -> str:
    device, number = dial.owner.device, dial.program
    where = "" if number is None else f", program {number + device.first_program}"
    was, now = value_words(dial, before), value_words(dial, dial.value)
    field = field_words(dial).lower()
    return f"{device.name}{where}: {thing_words(dial)}, {field} from {was} to {now}."


def _rest(old: Plan, new: Plan, ident: str) -> Iterator[str]:
    was, now = lookup.device(old, ident), lookup.device(new, ident)
    for what, before, after in (
        (
            "program",
            [(str(p.number), p.name) for p in was.programs],
            [(str(p.number), p.name) for p in now.programs],
        ),
        ("part", [(p.id, p.name) for p in was.parts], [(p.id, p.name) for p in now.parts]),
    ):
        yield from (
            f"{now.name}: the {what} {n} is gone." for i, n in before if i not in dict(after)
        )
        yield from (
            f"{now.name}: the {what} {n} is new." for i, n in after if i not in dict(before)
        )
    if was.thrus != now.thrus and now.kind != "computer":
        yield f"{now.name}: passes other inputs on than before."
    if was.octaves != now.octaves:
        yield f"{now.name}: middle C is C{now.octaves}, not C{was.octaves}."


def undialled(plan: Plan) -> list[str]:
    """What the plan wants and a device is known not to hold yet."""
    return [
        _sentence(dial, held_value(plan, dial))
        for device in plan.devices
        for dial in device_dials(device)
        if held_value(plan, dial) != dial.value
    ]
