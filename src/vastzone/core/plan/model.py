"""The plan: one file, one rig and its music."""

from typing import Literal

from vastzone.core.midi.pitch import Naming
from vastzone.core.plan.console import Console
from vastzone.core.plan.limits import Limit
from vastzone.core.plan.pedal import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.sound import Kit, Part, Target
from vastzone.core.plan.touch import Control, Keybed, Program, VelocityCurve
from vastzone.core.plan.trigger import Plug, TriggerInput, TriggerPad
from vastzone.core.plan.values import (
    Byte,
    DeviceKind,
    Id,
    Milliseconds,
    Name,
    Ref,
    Tempo,
    Text,
    Value,
)
from vastzone.core.plan.wish import Intent, LogEntry, Schools, Setting

Flow = Literal["in", "out", "both"]


class Port(Value, frozen=True, kw_only=True):
    """A MIDI socket; a USB port commonly carries ``both`` directions."""

    id: Id
    name: Name
    flow: Flow
    link: Literal["din", "usb", "bluetooth"] = "din"


class Thru(Value, frozen=True, kw_only=True):
    """What comes in at port ``source`` goes out again at port ``dest`` of the same device."""

    source: Id
    dest: Id


class Device(Value, frozen=True, kw_only=True):
    """Something with ports.

    ``octaves`` is the octave in which it puts note 60 and ``first_program`` the number it shows
    for program 0.  With ``local`` on, its keys play its own parts as well as its outputs.
    ``delay_ms`` is its own time from hearing a message to sounding it.  ``curves`` are the velocity
    curves that it offers by name.  An encoder has a ``console`` behind it.
    """

    id: Id
    name: Name
    kind: DeviceKind
    octaves: Naming = 4
    first_program: Literal[0, 1] = 1
    ports: tuple[Port, ...] = ()
    thrus: tuple[Thru, ...] = ()
    local: bool = True
    running_status: bool = False
    delay_ms: Milliseconds = 0.0
    keybeds: tuple[Keybed, ...] = ()
    controls: tuple[Control, ...] = ()
    programs: tuple[Program, ...] = ()
    parts: tuple[Part, ...] = ()
    kits: tuple[Kit, ...] = ()
    targets: tuple[Target, ...] = ()
    inputs: tuple[TriggerInput, ...] = ()
    jacks: tuple[PedalJack, ...] = ()
    limits: tuple[Limit, ...] = ()
    curves: tuple[VelocityCurve, ...] = ()
    console: Console | None = None
    preparation: tuple[Text, ...] = ()
    notes: Text = ""


class Cable(Value, frozen=True, kw_only=True):
    """A cable between two ports, each written ``device:port``.

    Messages go from ``source`` to ``dest``, and back as well where both ports carry both ways.
    """

    source: Ref
    dest: Ref


class ProgramChoice(Value, frozen=True, kw_only=True):
    """The program 0–127 that a device is on in a scene."""

    device: Id
    program: Byte


class Scene(Value, frozen=True, kw_only=True):
    """One song, cue or registration; devices it does not name stay on their first program."""

    id: Id
    name: Name
    programs: tuple[ProgramChoice, ...] = ()
    notes: Text = ""


class Plan(Value, frozen=True, kw_only=True):
    """The whole document; ``tempo`` in beats a minute is what note repeat follows."""

    name: Name
    devices: tuple[Device, ...] = ()
    cables: tuple[Cable, ...] = ()
    scenes: tuple[Scene, ...] = ()
    intents: tuple[Intent, ...] = ()
    settings: tuple[Setting, ...] = ()
    pads: tuple[TriggerPad, ...] = ()
    plugs: tuple[Plug, ...] = ()
    pedals: tuple[Pedal, ...] = ()
    pedal_plugs: tuple[PedalPlug, ...] = ()
    schools: Schools = Schools()
    tempo: Tempo = 120.0
    log: tuple[LogEntry, ...] = ()
    notes: Text = ""
