"""Edits of a console: its blocks, shoes, wires to tick, faults known, the finder’s log."""

from collections.abc import Callable
from typing import Any

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, FailedWire, Fault, Seen, Shoe, Way
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say


def edit_console(device: str, label: str, change: Callable[[Console], Console]) -> Edit:
    """An edit of the console behind a device.  Raises EditError where it has none."""

    def inside(owner: Device) -> Device:
        if owner.console is None:
            raise EditError(say("{owner} has no console: add one first.", owner=owner.name))
        return changed(owner, console=change(owner.console))

    return edit_device(device, label, inside)


def set_console(device: str, label: str, **changes: Any) -> Edit:
    """Change fields of a console."""
    return edit_console(device, label, lambda c: changed(c, **changes))


def set_block(device: str, block: str, label: str, **changes: Any) -> Edit:
    """Change how a keyboard or the stops are wired."""
    return edit_console(
        device,
        label,
        lambda c: changed(
            c, blocks=tuple(changed(b, **changes) if b.id == block else b for b in c.blocks)
        ),
    )


def set_shoe(device: str, control: str, label: str, **changes: Any) -> Edit:
    """Change what is known of a shoe."""
    return edit_console(
        device,
        label,
        lambda c: changed(
            c,
            shoes=tuple(
                changed(shoe, **changes) if shoe.control == control else shoe for shoe in c.shoes
            ),
        ),
    )


USUAL_WAYS = (
    Way(name=say("Buy one ready made"), skill=say("none")),
    Way(name=say("Build a new one"), skill=say("soldering, woodwork"), wired=True),
    Way(name=say("Convert an old one"), skill=say("soldering, patience"), wired=True),
    Way(name=say("Buy a converted one"), skill=say("none")),
)
"""The four ways to a console that everyone weighs; prices are the person’s own."""


def begin(owner: Device) -> Edit:
    """A console behind a device: a block for each keybed, one for its stops and pistons."""
    console = wired(owner, Console(ways=USUAL_WAYS))
    return set_device(owner.id, say("Wire a console"), console=console)


def wired(owner: Device, console: Console) -> Console:
    """A console with blocks and shoes for all of its device that has none in it yet."""
    blocks = list(console.blocks)
    known: set[str | None] = set()
    for block in blocks:
        known.update((block.keybed, *block.controls))
    for bed in owner.keybeds:
        if bed.id not in known:
            ident = lookup.free_id(lookup.ids_of(blocks), bed.id)
            blocks.append(Block(id=ident, name=bed.name, keybed=bed.id))
    loose = []
    in_jacks = {jack.control for jack in owner.jacks}
    for control in owner.controls:
        free = control.id not in known and control.id not in in_jacks
        if control_ability(control).wired and free:
            loose.append(control.id)
    if loose:
        taken = lookup.ids_of(blocks)
        ident = "stops" if "stops" not in taken else lookup.free_id(taken, "stops-and-pistons")
        blocks.append(Block(id=ident, name=say("Stops and pistons"), controls=tuple(loose)))
    shoes = list(console.shoes)
    moved = {shoe.control for shoe in shoes}
    for control in owner.controls:
        if control_ability(control).shoe and control.id not in moved:
            shoes.append(Shoe(control=control.id, input=len(shoes) + 1))
    return changed(console, blocks=tuple(blocks), shoes=tuple(shoes))


def move_block(device: str, block: str, steps: int) -> Edit:
    """Put a block some places on or back among the others; its pins stay as they are."""

    def change(console: Console) -> Console:
        blocks = list(console.blocks)
        place = next((n for n, each in enumerate(blocks) if each.id == block), None)
        if place is None:
            return console
        moved = blocks.pop(place)
        blocks.insert(max(0, min(len(blocks), place + steps)), moved)
        return changed(console, blocks=tuple(blocks))

    return edit_console(device, say("Move keyboard"), change)


def failed(device: str, wire: str, how: str) -> Edit:
    """Note that a wire is open or crossed, and what came; nothing takes the note back."""

    def change(console: Console) -> Console:
        left = tuple(each for each in console.failed if each.wire != wire)
        new = (FailedWire(wire=wire, how=how),) if how else ()
        tested = tuple(each for each in console.tested if each != wire) if how else console.tested
        return changed(console, failed=(*left, *new), tested=tested)

    return edit_console(device, say("Note a wire"), change)


def tick(device: str, wire: str, field: str, on: bool) -> Edit:
    """Tick a wire as ``soldered`` or ``tested``, or take the tick back."""

    def change(console: Console) -> Console:
        ticked = tuple(w for w in getattr(console, field) if w != wire)
        left = console.failed
        if on and field == "tested":
            left = tuple(each for each in console.failed if each.wire != wire)
        return changed(console, **{field: (*ticked, wire) if on else ticked}, failed=left)

    return edit_console(
        device, say("Tick {wire}", wire=wire) if on else say("Untick {wire}", wire=wire), change
    )


def saw(device: str, seen: Seen) -> Edit:
    """Write an observation of the fault finder into the log."""
    return edit_console(
        device, say("Note what was seen"), lambda c: changed(c, seen=(*c.seen, seen))
    )


def forget(device: str, label: str = say("Begin to look anew")) -> Edit:
    """Forget what was seen."""
    return set_console(device, label, seen=())


def found(device: str, faults: tuple[Fault, ...]) -> Edit:
    """Put faults among those that the console is known to have."""

    def change(console: Console) -> Console:
        new = tuple(fault for fault in faults if fault not in console.faults)
        left = tuple(f for f in console.hidden if f not in faults)
        # How the encoder counts is no fault of a wire: the plan knows of it from now on.
        for fault in new:
            if fault.kind == "wrong school":
                school = "lowest key" if fault.at > 0 else "note names"
                console = changed(console, encoder=changed(console.encoder, school=school))
        kept = tuple(fault for fault in new if fault.kind != "wrong school")
        return changed(console, faults=(*console.faults, *kept), hidden=left)

    return edit_console(device, say("Note the fault"), change)


def hide(device: str, faults: tuple[Fault, ...]) -> Edit:
    """Let the simulated console have faults that the plan does not know of, for practice."""
    return set_console(device, say("Hide a fault"), hidden=faults)


def split_off(plan: Plan, device: str, blocks: tuple[str, ...]) -> Edit:
    """Move blocks to a second encoder: their keybeds, controls, zones, sends and wishes with them.

    It is a new device of the same kind; which cable it gets is the person’s to say.  Raises
    EditError where nothing would be left behind.
    """
    owner = lookup.device(plan, device)
    console = owner.console or Console()
    moved = tuple(block for block in console.blocks if block.id in blocks)
    if not moved or len(moved) == len(console.blocks):
        raise EditError(say("Leave one keyboard at least on the first encoder: move fewer."))
    things = set()
    for block in moved:
        if block.keybed:
            things.add(block.keybed)
    for block in moved:
        things.update(block.controls)
    ident = lookup.free_id(lookup.ids_of(plan.devices), f"{device}-2")
    stays = _with_things(owner, lambda thing: thing not in things)
    stays = changed(stays, console=_console_left(console, things))
    goes = _with_things(owner, lambda thing: thing in things)
    moving = _console_moved(console, things)
    # Parts and targets stay: they are what the first encoder itself sounds and moves.
    goes = changed(goes, id=ident, name=f"{owner.name} 2", console=moving, parts=(), targets=())

    def apply(old: Plan) -> Plan:
        devices: list[Device] = []
        for one in old.devices:
            devices += [stays, goes] if one.id == device else [one]
        wishes = tuple(_from_second(wish, device, ident, things) for wish in old.wishes)
        scenes = tuple(_on_second(scene, device, ident) for scene in old.scenes)
        return changed(old, devices=tuple(devices), wishes=wishes, scenes=scenes)

    return Edit(
        say("Move {block} to a second encoder", block=", ".join(block.name for block in moved)),
        apply,
    )


def _from_second(wish: Wish, device: str, ident: str, things: set[str]) -> Wish:
    """A wish that begins at the second encoder where its sources have moved there."""
    sources = tuple(_moved_ref(source, device, ident, things) for source in wish.sources)
    return changed(wish, sources=sources)


def _on_second(scene: Scene, device: str, ident: str) -> Scene:
    """A scene that puts the second encoder on the program that the first is on."""
    chosen = []
    for choice in scene.programs:
        if choice.device == device:
            chosen.append(choice)
    more = (changed(choice, device=ident) for choice in chosen)
    return changed(scene, programs=(*scene.programs, *more))


def _moved_ref(ref: str, device: str, ident: str, things: set[str]) -> str:
    owner, thing = read_ref(ref)
    return ref_to(ident, thing) if owner == device and thing in things else ref


def _with_things(owner: Device, stays: Callable[[str], bool]) -> Device:
    """A device with only some of its keybeds and controls, and with what belongs to them."""
    programs = tuple(
        changed(
            program,
            zones=tuple(zone for zone in program.zones if stays(zone.keybed)),
            sends=tuple(send for send in program.sends if stays(send.control)),
        )
        for program in owner.programs
    )
    return changed(
        owner,
        programs=programs,
        keybeds=tuple(bed for bed in owner.keybeds if stays(bed.id)),
        controls=tuple(control for control in owner.controls if stays(control.id)),
    )


def _thing_of(block: Block) -> str:
    """What a block is wired to: its keybed, else the first of its controls."""
    return block.keybed or block.controls[0]


def _console_moved(console: Console, things: set[str]) -> Console:
    """The blocks that move, wired to nothing yet, with the faults in them."""
    blocks = tuple(
        changed(block, commons=(), soldered=False)
        for block in console.blocks
        if _thing_of(block) in things
    )
    ids = lookup.ids_of(blocks)
    return changed(
        console,
        blocks=blocks,
        shoes=(),
        seen=(),
        ways=(),
        faults=tuple(fault for fault in console.faults if fault.block in ids),
        hidden=tuple(fault for fault in console.hidden if fault.block in ids),
        soldered=(),
        tested=(),
    )


def _console_left(console: Console, things: set[str]) -> Console:
    """The blocks that stay as they are, with their wires and faults."""
    blocks = tuple(block for block in console.blocks if _thing_of(block) not in things)
    ids = lookup.ids_of(blocks)

    def kept(faults: tuple[Fault, ...]) -> tuple[Fault, ...]:
        return tuple(fault for fault in faults if fault.block is None or fault.block in ids)

    def wires(ticked: tuple[str, ...]) -> tuple[str, ...]:
        wires = []
        for wire in ticked:
            if wire.partition("/")[0] in ids:
                wires.append(wire)
        return tuple(wires)

    return changed(
        console,
        blocks=blocks,
        seen=(),
        faults=kept(console.faults),
        hidden=kept(console.hidden),
        soldered=wires(console.soldered),
        tested=wires(console.tested),
    )
