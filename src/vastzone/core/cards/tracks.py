"""The track list for a recorder: a line a drum, with its channel and notes."""

from typing import NamedTuple

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.edits.plugs import pad_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup

CHANNELS = 16


class Track(NamedTuple):
    """A drum: its name, what is recorded of it (channels 1–16, notes 0–127), and in words."""

    name: str
    channels: tuple[int, ...]
    notes: tuple[int, ...]
    words: str


def drums(plan: Plan, owner: Device) -> dict[str, list[Control]]:
    """The pads of a device by drum: all zones of one input together, else each by itself.

    A drum is called after the pad that is plugged in, or its input, or its control.
    """
    jacks = lookup.names_of(owner.inputs)
    by_name: dict[str, tuple[str, list[Control]]] = {}
    for control in pads_of(owner):
        pad = pad_of(plan, owner, control) if control.input else None
        name = pad.name if pad else jacks.get(control.input or "", control.name)
        by_name.setdefault(control.input or control.id, (name, []))[1].append(control)
    listed: dict[str, list[Control]] = {}
    for name, controls in by_name.values():
        listed.setdefault(name, []).extend(controls)
    return listed


def tracks(plan: Plan, owner: Device, program: Program) -> tuple[Track, ...]:
    """The track list of a device in a program; drums that send no note are left out."""
    listed = []
    for name, controls in drums(plan, owner).items():
        known = lookup.by_ids(controls)
        sends = []
        for s in program.sends:
            if s.control in known and s.message == "note":
                sends.append(s)
        # A drum of two zones may send twice the same: it is told once.
        if sends:
            notes = dict.fromkeys(send.number for send in sends)
            channels = set()
            for send in sends:
                if send.channel is not None:
                    channels.add(send.channel)
            words = dict.fromkeys(_said(owner, known[send.control], send) for send in sends)
            listed.append(Track(name, tuple(sorted(channels)), tuple(notes), ", ".join(words)))
    return tuple(listed)


def _said(owner: Device, control: Control, send: Send) -> str:
    """A zone, or a control by name, with its note."""
    return f"{control.zone or control.name} {pitch.label(send.number, owner.octaves)}"


def own_channels(plan: Plan, device: str, program: int) -> Edit:
    """Give each drum a channel of its own, the lowest first.  Raises EditError above sixteen."""
    owner = lookup.device(plan, device)
    by_drum = drums(plan, owner)
    if len(by_drum) > CHANNELS:
        raise EditError(
            f"{len(by_drum)} drums want channels of their own and a port has {CHANNELS}: let "
            f"{len(by_drum) - CHANNELS} of them share one, or send some by a second port."
        )
    channel = {}
    for n, controls in enumerate(by_drum.values()):
        for control in controls:
            channel[control.id] = n + 1

    def change(old: Program, _: Device) -> Program:
        sends = tuple(
            changed(send, channel=channel[send.control])
            if send.control in channel and send.message == "note"
            else send
            for send in old.sends
        )
        return changed(old, sends=sends)

    return edit_program(device, program, "A channel for each drum", change)


def to_csv(held: tuple[Track, ...]) -> str:
    """The track list as CSV: track, name, channel, notes."""
    return csv_text(
        ("track", "name", "channel", "notes"),
        ((n, t.name, " ".join(map(str, t.channels)), t.words) for n, t in enumerate(held, 1)),
    )
