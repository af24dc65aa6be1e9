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
from vastzone.core.text import capital, listed, quoted, whole_number
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
        return Sheet(
            "", say("Cable"), say("Cable"), (), remark=say("This cable has been pulled out.")
        )
    (here, a), (there, b) = lookup.endpoint(plan, source), lookup.endpoint(plan, dest)
    rows = [
        FactRow(say("From"), "fixed", f"{here.name}, {a.name}"),
        FactRow(say("To"), "fixed", f"{there.name}, {b.name}"),
        FactRow(say("Kind"), "fixed", LINKS[a.link]),
        FactRow(say("A note takes"), "fixed", say("{link_ms:.2f} ms", link_ms=link_ms(a.link))),
    ]
    used = usage(desk.compiled)
    names = lookup.names_of(plan.devices)
    for way, word in (((source, dest), say("Channel")), ((dest, source), say("Back on"))):
        use = used.get(way)
        for channel in use.channels if use else ():
            senders = listed(names[send] for send in use.senders[channel]) if use else ""
            rows.append(FactRow(f"{word} {channel}", "fixed", senders))
    where = say(" in {scene}", scene=desk.scene.name) if desk.scene else ""
    silent = "" if len(rows) > 4 else say("Nothing is sent over this cable{where}.", where=where)
    press = Press(say("Remove"), "trash-2", lambda: remove_cable(cable))
    title = say("{here} to {there}", here=here.name, there=there.name)
    return Sheet(ref, title, say("Cable"), tuple(rows), (press,), silent)


def limit_rows(owner: Device, today: str) -> list[FactRow]:
    """A device's limits as rows; each says where it comes from."""
    rows: list[FactRow] = []
    for n, limit in enumerate(owner.limits):
        rows.extend(_limit(owner, n, limit))
    if rows:
        checked = all(limit.verified for limit in owner.limits)
        rows.append(
            FactRow(say("Limits verified"), "check", checked, partial(_verify, owner.id, today))
        )
    return rows


def _limit(owner: Device, index: int, limit: object) -> Iterator[FactRow]:
    def setter(field: str, label: str = "") -> Any:
        label = label or say("Change limit")
        return lambda v: set_limit(owner.id, index, label, **{field: v})

    if isinstance(limit, CountLimit):
        word = capital(say(limit.what.replace("-", " ")))
        yield FactRow(
            say("{word}, most", word=word),
            "number",
            limit.most,
            setter("most"),
            0,
            512,
        )
        if limit.what == "assign-slots":
            taken = " ".join(str(n) for n in limit.taken)
            yield FactRow(say("Slots taken"), "text", taken, partial(_taken, owner.id, index))
    elif isinstance(limit, Reserved):
        kept = " ".join(str(controller) for controller in limit.controllers)
        yield FactRow(say("Keeps controllers"), "text", kept, partial(_kept, owner.id, index))
    elif isinstance(limit, Answers):
        yield FactRow(say("Answers from"), "note", limit.low, setter("low"), naming=owner.octaves)
        yield FactRow(say("Answers to"), "note", limit.high, setter("high"), naming=owner.octaves)
    elif isinstance(limit, ScopeLimit):
        word = say(limit.setting.replace("-", " "))
        yield FactRow(
            capital(word),
            "choice",
            limit.scope,
            setter("scope"),
            choices=tuple((_scope(s), s) for s in SCOPES),
        )


def _scope(scope: str) -> str:
    return {"fixed": say("fixed"), "global": say("one for the device")}.get(
        scope, say("one a {scope}", scope=say(scope))
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
    return set_limit(device, index, say("Change slots taken"), taken=_numbers(text))


def _kept(device: str, index: int, text: str) -> Edit:
    numbers = _numbers(text)
    return set_limit(device, index, say("Change kept controllers"), controllers=numbers)


def _verify(device: str, today: str, seen: bool) -> Edit:
    def change(owner: Device) -> Device:
        limits = tuple(changed(limit, verified=today if seen else "") for limit in owner.limits)
        return changed(owner, limits=limits)

    return edit_device(device, say("Mark limits as verified"), change)
