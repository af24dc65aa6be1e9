"""Facts of cables, and of what a device can do at most."""

from collections.abc import Iterator
from functools import partial
from typing import Any

from vastzone.app.frame.sheet import FactRow, Press, Sheet
from vastzone.core.engine.usage import usage
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.cables import LINKS, remove_cable
from vastzone.core.plan.edits.devices import set_limit
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.limits import Answers, CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.text import listed, quoted, whole_number
from vastzone.core.timing.hops import link_ms
from vastzone.desk.session import Desk

CABLE = "cable "
SCOPES = ("fixed", "global", "program", "bank", "control")


def cable_sheet(desk: Desk, ref: str) -> Sheet:
    """What a cable joins, how long a note takes over it, and who sends on which channel."""
    source, dest = ref.removeprefix(CABLE).split(" ")
    plan = desk.plan
    cable = next((c for c in plan.cables if (c.source, c.dest) == (source, dest)), None)
    if cable is None:
        return Sheet("", "Cable", "Cable", (), remark="This cable has been pulled out.")
    (here, a), (there, b) = lookup.endpoint(plan, source), lookup.endpoint(plan, dest)
    rows = [
        FactRow("From", "fixed", f"{here.name}, {a.name}"),
        FactRow("To", "fixed", f"{there.name}, {b.name}"),
        FactRow("Kind", "fixed", LINKS[a.link]),
        FactRow("A note takes", "fixed", say("{link_ms:.2f} ms", link_ms=link_ms(a.link))),
    ]
    used = usage(desk.compiled)
    names = lookup.names_of(plan.devices)
    for way, word in (((source, dest), "Channel"), ((dest, source), "Back on")):
        use = used.get(way)
        for channel in use.channels if use else ():
            senders = listed(names[send] for send in use.senders[channel]) if use else ""
            rows.append(FactRow(f"{word} {channel}", "fixed", senders))
    where = say(" in {scene}", scene=desk.scene.name) if desk.scene else ""
    silent = "" if len(rows) > 4 else say("Nothing is sent over this cable{where}.", where=where)
    press = Press("Remove", "trash-2", lambda: remove_cable(cable))
    title = say("{here} to {there}", here=here.name, there=there.name)
    return Sheet(ref, title, "Cable", tuple(rows), (press,), silent)


def limit_rows(owner: Device, today: str) -> list[FactRow]:
    """A device's limits as rows; each says where it comes from."""
    rows: list[FactRow] = []
    for n, limit in enumerate(owner.limits):
        rows.extend(_limit(owner, n, limit))
    if rows:
        checked = all(limit.verified for limit in owner.limits)
        rows.append(FactRow("Limits verified", "check", checked, partial(_verify, owner.id, today)))
    return rows


def _limit(owner: Device, index: int, limit: object) -> Iterator[FactRow]:
    def setter(field: str, label: str = "Change limit") -> Any:
        return lambda v: set_limit(owner.id, index, label, **{field: v})

    if isinstance(limit, CountLimit):
        word = limit.what.replace("-", " ")
        yield FactRow(
            say("{word}{word_2}, most", word=word[0].upper(), word_2=word[1:]),
            "number",
            limit.most,
            setter("most"),
            0,
            512,
        )
        if limit.what == "assign-slots":
            taken = " ".join(str(n) for n in limit.taken)
            yield FactRow("Slots taken", "text", taken, partial(_taken, owner.id, index))
    elif isinstance(limit, Reserved):
        kept = " ".join(str(controller) for controller in limit.controllers)
        yield FactRow("Keeps controllers", "text", kept, partial(_kept, owner.id, index))
    elif isinstance(limit, Answers):
        yield FactRow("Answers from", "note", limit.low, setter("low"), naming=owner.octaves)
        yield FactRow("Answers to", "note", limit.high, setter("high"), naming=owner.octaves)
    elif isinstance(limit, ScopeLimit):
        word = limit.setting.replace("-", " ")
        yield FactRow(
            f"{word[0].upper()}{word[1:]}",
            "choice",
            limit.scope,
            setter("scope"),
            choices=tuple((_scope(s), s) for s in SCOPES),
        )


def _scope(scope: str) -> str:
    return {"fixed": "fixed", "global": "one for the device"}.get(
        scope, say("one a {scope}", scope=scope)
    )


def _numbers(text: str) -> tuple[int, ...]:
    numbers = []
    for word in text.replace(",", " ").split():
        number = whole_number(word)
        if number is None:
            raise EditError(
                say("“{word}” is no number: write them with spaces between.", word=quoted(word))
            )
        numbers.append(number)
    return tuple(numbers)


def _taken(device: str, index: int, text: str) -> Edit:
    return set_limit(device, index, "Change slots taken", taken=_numbers(text))


def _kept(device: str, index: int, text: str) -> Edit:
    numbers = _numbers(text)
    return set_limit(device, index, "Change kept controllers", controllers=numbers)


def _verify(device: str, today: str, seen: bool) -> Edit:
    def change(owner: Device) -> Device:
        limits = tuple(changed(limit, verified=today if seen else "") for limit in owner.limits)
        return changed(owner, limits=limits)

    return edit_device(device, "Mark limits as verified", change)
