"""What a device is made of, by the list that it stands in and its id."""

from collections.abc import Collection, Iterator
from typing import Any, Literal, NamedTuple, get_args

from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import noted

Group = Literal[
    "keybeds",
    "controls",
    "parts",
    "targets",
    "kits",
    "ports",
    "inputs",
    "jacks",
    "outputs",
    "audio_inputs",
    "switches",
]
GROUPS: tuple[Group, ...] = get_args(Group)
WORDS: dict[Group, str] = {
    "keybeds": noted("keybed"),
    "controls": noted("control"),
    "parts": noted("part"),
    "targets": noted("target"),
    "kits": noted("kit"),
    "ports": noted("port"),
    "inputs": noted("input"),
    "jacks": noted("jack"),
    "outputs": noted("output"),
    "audio_inputs": noted("audio input"),
    "switches": noted("switch"),
}
"""What a thing of each list is called; it is said where it is shown."""


class Thing(NamedTuple):
    """Something of a device: in which of its lists, and its id there."""

    group: Group
    id: str


def things_of(device: Device) -> Iterator[Thing]:
    """Everything that a device is made of."""
    for group in GROUPS:
        for item in getattr(device, group):
            yield Thing(group, item.id)


def item_of(device: Device, thing: Thing) -> Any:
    """The thing itself; None where it is gone."""
    for item in getattr(device, thing.group):
        if item.id == thing.id:
            return item
    return None


def ids_in(things: Collection[Thing], *groups: Group) -> frozenset[str]:
    """The ids of those things that stand in some lists."""
    return frozenset(thing.id for thing in things if thing.group in groups)


SEVERAL = "things of "
"""How a choice of things begins that no plain reference names."""
PLAIN: tuple[Group, ...] = ("keybeds", "controls", "parts", "targets", "inputs")
"""Lists whose things are known everywhere by «device:thing»."""


def choice_of(device: str, things: Collection[Thing]) -> str:
    """How things of a device are named as what is selected."""
    if not things:
        return device
    if len(things) == 1:
        (thing,) = things
        if thing.group in PLAIN:
            return ref_to(device, thing.id)
    return f"{SEVERAL}{device} " + " ".join(f"{thing.group}/{thing.id}" for thing in things)


def chosen_in(device: Device, selection: str) -> tuple[Thing, ...]:
    """The things of a device that are selected, as far as they are there."""
    if selection.startswith(SEVERAL):
        owner, *names = selection.removeprefix(SEVERAL).split(" ")
        there = set(things_of(device))
        things = []
        for name in names if owner == device.id else ():
            group, _, ident = name.partition("/")
            thing = Thing(group, ident)  # type: ignore[arg-type]
            if thing in there:
                things.append(thing)
        return tuple(things)
    owner, ident = read_ref(selection)
    for group in PLAIN if owner == device.id and ident else ():
        thing = Thing(group, ident)
        if item_of(device, thing) is not None:
            return (thing,)
    return ()
