"""Edits of a console: its blocks, shoes, wires to tick, faults known, the finder’s log."""

from collections.abc import Callable
from typing import Any

from vastzone.core.errors import EditError
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.console import Block, Console, Fault, Seen, Shoe
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import read_ref, ref_to


def edit_console(device: str, label: str, change: Callable[[Console], Console]) -> Edit:
    """An edit of the console behind a device.  Raises EditError where it has none."""

    def inside(owner: Device) -> Device:
        if owner.console is None:
            raise EditError(f"{owner.name} has no console: add one first.")
        return edits.changed(owner, console=change(owner.console))

    return edits.edit_device(device, label, inside)


def set_console(device: str, label: str, **changes: Any) -> Edit:
    """Change fields of a console."""
    return edit_console(device, label, lambda c: edits.changed(c, **changes))


def set_encoder(device: str, label: str, **changes: Any) -> Edit:
    """Change what is known of the encoder."""
    return edit_console(
        device, label, lambda c: edits.changed(c, encoder=edits.changed(c.encoder, **changes))
    )


def set_block(device: str, block: str, label: str, **changes: Any) -> Edit:
    """Change how a keyboard or the stops are wired."""
    return edit_console(
        device,
        label,
        lambda c: edits.changed(
            c, blocks=tuple(edits.changed(b, **changes) if b.id == block else b for b in c.blocks)
        ),
    )


def set_shoe(device: str, control: str, label: str, **changes: Any) -> Edit:
    """Change what is known of a shoe."""
    return edit_console(
        device,
        label,
        lambda c: edits.changed(
            c,
            shoes=tuple(
                edits.changed(s, **changes) if s.control == control else s for s in c.shoes
            ),
        ),
    )


def begin(owner: Device) -> Edit:
    """A console behind a device: a block for each keybed, one for its stops and pistons."""
    blocks = [Block(id=b.id, name=b.name, keybed=b.id) for b in owner.keybeds]
    loose = tuple(c.id for c in owner.controls if c.kind in ("stop", "button", "switch"))
    if loose:
        taken = {b.id for b in blocks}
        ident = "stops" if "stops" not in taken else "stops-and-pistons"
        blocks.append(Block(id=ident, name="Stops and pistons", controls=loose))
    shoes = tuple(
        Shoe(control=c.id, input=n + 1)
        for n, c in enumerate(c for c in owner.controls if c.kind == "shoe")
    )
    console = Console(blocks=tuple(blocks), shoes=shoes)
    return edits.set_device(owner.id, "Wire a console", console=console)


def tick(device: str, wire: str, field: str, on: bool) -> Edit:
    """Tick a wire as ``soldered`` or ``tested``, or take the tick back."""

    def change(console: Console) -> Console:
        held = tuple(w for w in getattr(console, field) if w != wire)
        return edits.changed(console, **{field: (*held, wire) if on else held})

    return edit_console(device, f"Tick {wire}" if on else f"Untick {wire}", change)


def saw(device: str, seen: Seen) -> Edit:
    """Write an observation of the fault finder into the log."""
    return edit_console(
        device, "Note what was seen", lambda c: edits.changed(c, seen=(*c.seen, seen))
    )


def forget(device: str, label: str = "Begin to look anew") -> Edit:
    """Forget what was seen."""
    return set_console(device, label, seen=())


def found(device: str, faults: tuple[Fault, ...]) -> Edit:
    """Put faults among those that the console is known to have."""

    def change(console: Console) -> Console:
        new = tuple(f for f in faults if f not in console.faults)
        left = tuple(f for f in console.hidden if f not in faults)
        return edits.changed(console, faults=(*console.faults, *new), hidden=left)

    return edit_console(device, "Note the fault", change)


def hide(device: str, faults: tuple[Fault, ...]) -> Edit:
    """Let the simulated console have faults that the plan does not know of, for practice."""
    return set_console(device, "Hide a fault", hidden=faults)


def split_off(plan: Plan, device: str, blocks: tuple[str, ...]) -> Edit:
    """Move blocks to a second encoder: their keybeds, controls, zones, sends and wishes with them.

    It is a new device of the same kind; which cable it gets is the person’s to say.  Raises
    EditError where nothing would be left behind.
    """
    owner = lookup.device(plan, device)
    console = owner.console or Console()
    moved = tuple(b for b in console.blocks if b.id in blocks)
    if not moved or len(moved) == len(console.blocks):
        raise EditError("Leave one keyboard at least on the first encoder: move fewer.")
    beds = {b.keybed for b in moved if b.keybed}
    controls = {c for b in moved for c in b.controls}
    ident = lookup.free_id((d.id for d in plan.devices), f"{device}-2")
    stays = _part_of(owner, beds, controls, True)
    goes = _part_of(owner, beds, controls, False)
    goes = edits.changed(goes, id=ident, name=f"{owner.name} 2")

    def apply(old: Plan) -> Plan:
        devices = []
        for one in old.devices:
            devices += [stays, goes] if one.id == device else [one]
        wishes = tuple(
            edits.changed(
                i, sources=tuple(_moved_ref(s, device, ident, beds | controls) for s in i.sources)
            )
            for i in old.intents
        )
        scenes = tuple(
            edits.changed(
                s,
                programs=(
                    *s.programs,
                    *(edits.changed(c, device=ident) for c in s.programs if c.device == device),
                ),
            )
            for s in old.scenes
        )
        return edits.changed(old, devices=tuple(devices), intents=wishes, scenes=scenes)

    return Edit(f"Move {', '.join(b.name for b in moved)} to a second encoder", apply)


def _moved_ref(ref: str, device: str, ident: str, things: set[str]) -> str:
    owner, thing = read_ref(ref)
    return ref_to(ident, thing) if owner == device and thing in things else ref


def _part_of(owner: Device, beds: set[str], controls: set[str], rest: bool) -> Device:
    """A device with only what moves, or with only the rest."""
    console = owner.console or Console()

    def keeps(thing: str, moving: set[str]) -> bool:
        return (thing in moving) is not rest

    programs = tuple(
        edits.changed(
            p,
            zones=tuple(z for z in p.zones if keeps(z.keybed, beds)),
            sends=tuple(s for s in p.sends if keeps(s.control, controls)),
        )
        for p in owner.programs
    )
    blocks = tuple(
        b if rest else edits.changed(b, commons=(), soldered=False)
        for b in console.blocks
        if keeps(b.keybed or b.controls[0], beds | controls)
    )
    ids = {b.id for b in blocks}

    def stays(fault: Fault) -> bool:
        return fault.block in ids or (rest and fault.block is None)

    kept = edits.changed(
        console,
        blocks=blocks,
        shoes=console.shoes if rest else (),
        seen=(),
        ways=console.ways if rest else (),
        faults=tuple(f for f in console.faults if stays(f)),
        hidden=tuple(f for f in console.hidden if stays(f)),
        soldered=tuple(w for w in console.soldered if rest and w.partition("/")[0] in ids),
        tested=tuple(w for w in console.tested if rest and w.partition("/")[0] in ids),
    )
    return edits.changed(
        owner,
        console=kept,
        programs=programs,
        keybeds=tuple(b for b in owner.keybeds if keeps(b.id, beds)),
        controls=tuple(c for c in owner.controls if keeps(c.id, controls)),
        parts=owner.parts if rest else (),
        targets=owner.targets if rest else (),
    )
