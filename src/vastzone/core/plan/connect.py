"""Whether a cable can join two ports, and why not."""

from collections.abc import Iterator

from vastzone.core.errors import EditError
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan, Port
from vastzone.core.plan.refs import ref_to

LINKS = {"din": "DIN", "usb": "USB", "bluetooth": "Bluetooth"}


def refusal(plan: Plan, one: str, other: str) -> str:
    """Why no cable can join two ports ``device:port``; nothing when one can."""
    ends = (lookup.endpoint(plan, one), lookup.endpoint(plan, other))
    return next(_reasons(plan, *ends), "")


def _reasons(plan: Plan, one: tuple[Device, Port], other: tuple[Device, Port]) -> Iterator[str]:
    (here, a), (there, b) = one, other
    if here is there:
        yield f"Both ends are at {here.name}: a cable joins two devices."
        return
    names = f"{a.name} of {here.name} and {b.name} of {there.name}"
    if a.flow == b.flow != "both":
        both = "outputs" if a.flow == "out" else "inputs"
        yield f"{names} are both {both}: join an output to an input."
    if a.link != b.link:
        yield (
            f"{names} are of different kinds, {LINKS[a.link]} and {LINKS[b.link]}: put a computer "
            "or an interface between them."
        )
    if a.link == "usb" and "computer" not in (here.kind, there.kind):
        yield f"{names} are both USB devices: each needs a computer at the other end."
    yield from _taken(plan, here, a)
    yield from _taken(plan, there, b)


def _taken(plan: Plan, owner: Device, port: Port) -> Iterator[str]:
    """A socket holds one plug; radio links hold as many as they like."""
    if port.link == "bluetooth":
        return
    ref = ref_to(owner.id, port.id)
    if any(ref in (c.source, c.dest) for c in plan.cables):
        mend = "use a thru or a second output" if port.flow == "out" else "use a merger"
        yield f"{port.name} of {owner.name} has a cable already: {mend}, or pull that cable first."


def connect(plan: Plan, one: str, other: str) -> Edit:
    """The edit that joins two ports, from output to input.  Raises EditError when it cannot be."""
    why = refusal(plan, one, other)
    if why:
        raise EditError(why)
    ports = [lookup.endpoint(plan, ref)[1] for ref in (one, other)]
    back = ports[0].flow == "in" or ports[1].flow == "out"
    return edits.add_cable(other, one) if back else edits.add_cable(one, other)
