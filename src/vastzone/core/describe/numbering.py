"""Names and numbers given to many things in the order in which they lie."""

from collections.abc import Collection
from typing import Any

from vastzone.core.describe.arranging import as_they_lie
from vastzone.core.describe.phrase import numbered_names
from vastzone.core.describe.things import Thing, ids_in
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.edits.parameter_names import LAST
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import Sending
from vastzone.core.say import say, say_many


def name_things(owner: Device, things: Collection[Thing], pattern: str) -> Edit:
    """Name things in the order in which they lie by a pattern, «Loop {n}»; one gets it as it is.

    Names between strokes are given one after another: «Kick/Snare/Hat».
    """
    ordered = as_they_lie(owner, things)
    given = [name.strip() for name in pattern.split("/") if name.strip()]
    if not given:
        raise EditError(say("A name is at least one letter: type one."))
    names = given if len(given) > 1 else numbered_names(given[0], len(ordered))
    named = dict(zip(ordered, names, strict=False))

    def change(device: Device) -> Device:
        for group in {thing.group for thing in named}:
            items = []
            for item in getattr(device, group):
                name = named.get(Thing(group, item.id))
                items.append(item if name is None else changed(item, name=name))
            device = changed(device, **{group: tuple(items)})
        return device

    return edit_device(
        owner.id,
        say("Name {things}", things=say_many("{count} thing", "{count} things", len(things))),
        change,
    )


def number_controls(
    owner: Device,
    things: Collection[Thing],
    message: Sending,
    first: int,
    channel: int | None = None,
    bank: int = 1,
) -> Edit:
    """Have controls send numbers that run on as they lie, in every program.

    Raises EditError beyond 127.
    """
    ordered = [thing.id for thing in as_they_lie(owner, things) if thing.group == "controls"]
    if first + len(ordered) - 1 > 127:
        raise EditError(
            say(
                "{count} numbers from {first} would end above 127: begin lower.",
                count=len(ordered),
                first=first,
            )
        )
    numbers = {control: first + place for place, control in enumerate(ordered)}

    def change(device: Device) -> Device:
        programs = []
        for program in device.programs or (Program(number=0, name=say("First")),):
            programs.append(_numbered(program, numbers, message, channel, bank))
        return changed(device, programs=tuple(programs))

    return edit_device(
        owner.id,
        say(
            "Number {controls}",
            controls=say_many("{count} control", "{count} controls", len(ordered)),
        ),
        change,
    )


def _numbered(
    program: Program, numbers: dict[str, int], message: Sending, channel: int | None, bank: int
) -> Program:
    sends: list[Send] = []
    left = dict(numbers)
    for send in program.sends:
        if send.bank == bank and not send.layer and send.control in left:
            number = left.pop(send.control)
            more = {} if channel is None else {"channel": channel}
            send = changed(send, message=message, number=number, **more)
        sends.append(send)
    for control, number in left.items():
        sends.append(
            Send(control=control, bank=bank, message=message, number=number, channel=channel)
        )
    return changed(program, sends=tuple(sends))


def send_controls(owner: Device, things: Collection[Thing], bank: int, **changes: Any) -> Edit:
    """Change what controls send in a bank of every program; those that sent nothing begin to."""
    controls = ids_in(things, "controls")

    def change(device: Device) -> Device:
        programs = []
        for program in device.programs or (Program(number=0, name=say("First")),):
            sends: list[Send] = []
            left = [control.id for control in device.controls if control.id in controls]
            for send in program.sends:
                if send.control in left and send.bank == bank and not send.layer:
                    left.remove(send.control)
                    send = changed(send, **changes)
                sends.append(send)
            for control in left:
                fresh = Send(control=control, bank=bank, message="none")
                sends.append(changed(fresh, **changes))
            programs.append(changed(program, sends=tuple(sends)))
        return changed(device, programs=tuple(programs))

    return edit_device(
        owner.id,
        say(
            "Change what {controls} sends",
            controls=say_many("{count} control", "{count} controls", len(controls)),
        ),
        change,
    )


def _with_numbers(device: Device, group: str, field: str, numbers: dict[str, int]) -> Device:
    """A device with new numbers for some things of a group, by their ids."""
    items = []
    for item in getattr(device, group):
        number = numbers.get(item.id)
        items.append(item if number is None else changed(item, **{field: number}))
    return changed(device, **{group: tuple(items)})


def channel_parts(owner: Device, things: Collection[Thing], first: int) -> Edit:
    """Give parts channels of their own that run on from ``first``, round after 16."""
    ordered = [thing.id for thing in as_they_lie(owner, things) if thing.group == "parts"]
    channels = {ident: (first - 1 + place) % 16 + 1 for place, ident in enumerate(ordered)}

    def change(device: Device) -> Device:
        return _with_numbers(device, "parts", "channel", channels)

    return edit_device(
        owner.id,
        say("Give {parts} channels", parts=say_many("{count} part", "{count} parts", len(ordered))),
        change,
    )


def number_targets(owner: Device, things: Collection[Thing], first: int) -> Edit:
    """Give targets controllers that run on from ``first``.  Raises EditError beyond 119."""
    ordered = [thing.id for thing in as_they_lie(owner, things) if thing.group == "targets"]
    if first + len(ordered) - 1 > LAST:
        raise EditError(
            say(
                "{count} controllers from {first} would end above {last}: begin lower.",
                count=len(ordered),
                first=first,
                last=LAST,
            )
        )
    numbers = {ident: first + place for place, ident in enumerate(ordered)}

    def change(device: Device) -> Device:
        return _with_numbers(device, "targets", "controller", numbers)

    return edit_device(
        owner.id,
        say(
            "Number {targets}", targets=say_many("{count} target", "{count} targets", len(ordered))
        ),
        change,
    )
