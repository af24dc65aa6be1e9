"""The plan: one file, one rig and its music."""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.midi.pitch import Naming
from vastzone.core.plan.model.audio import (
    AudioCable,
    AudioInput,
    AudioPass,
    Metres,
    OutputWish,
    SoundRoute,
)
from vastzone.core.plan.model.bodies import (
    AudioBuffer,
    AudioOutput,
    Hearing,
    PackedTick,
    Place,
    PowerSource,
    Size,
    Supply,
)
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.controls import Control, Keybed, Program, VelocityCurve
from vastzone.core.plan.model.limits import Limit
from vastzone.core.plan.model.organ import Combination, Coupler, Coupling, Crescendo
from vastzone.core.plan.model.parts import Kit, Part, Target
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.setlists import (
    Arrival,
    Banked,
    Clock,
    PlayerNote,
    SetList,
    StartValue,
    Way,
)
from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad
from vastzone.core.plan.model.values import (
    Byte,
    Channel,
    DeviceKind,
    Id,
    Kilograms,
    Milliseconds,
    Name,
    Ref,
    Tempo,
    Text,
    Value,
)
from vastzone.core.plan.model.wishes import LogEntry, Schools, SettingRecord, Wish

Flow = Literal["in", "out", "both"]


class Port(Value, frozen=True, kw_only=True):
    """A MIDI socket; a USB port commonly carries ``both`` directions.

    A DIN line may come out of a small jack, wired as ``trs`` type A or B.  A USB port that powers
    devices gives so many ``milliamps``, 500 where nothing is said.
    """

    id: Id
    name: Name
    flow: Flow
    link: Literal["din", "usb", "bluetooth"] = "din"
    trs: Literal["", "A", "B"] = ""
    milliamps: Annotated[int, Meta(ge=0, le=10_000)] = 0


class Thru(Value, frozen=True, kw_only=True):
    """What comes in at port ``source`` goes out again at port ``dest`` of the same device."""

    source: Id
    dest: Id


class Switch(Value, frozen=True, kw_only=True):
    """Something that a device has once and that is set by choosing: «USB mode», «clock source».

    ``choice`` is the place of the one chosen among ``choices``.  It counts at
    once, or only when the device is told to write it, as ``kept`` says.
    """

    id: Id
    name: Name
    choices: Annotated[tuple[Name, ...], Meta(min_length=2, max_length=64)]
    choice: Byte = 0
    kept: Literal["at once", "on write"] = "at once"


class Storage(Value, frozen=True, kw_only=True):
    """How a device keeps what is set in it.

    It has so many ``slots`` for programs in so many ``banks``; without any, what is dialled is kept
    at once.  With a ``buffer`` what is dialled is lost until it is stored.  Its own buttons
    ``step`` to the next slot and stop at the last one, or go round.  What is set for the whole
    device is kept ``at once`` or only ``on write``.  An ``editor`` on a computer sends into the
    buffer, or straight into slots; ``close_editor`` says that it must be closed before the device
    plays.  The display counts programs in letters of so many, «A-1», where ``letters`` is not 0.  A
    device that ``restores`` takes its whole memory back from a file.
    """

    slots: Annotated[int, Meta(ge=0, le=128)] = 128
    banks: Annotated[int, Meta(ge=1, le=16384)] = 1
    buffer: bool = True
    step: Literal["none", "stops", "goes round"] = "none"
    whole: Literal["at once", "on write"] = "at once"
    editor: Literal["none", "buffer", "slots"] = "none"
    close_editor: bool = False
    letters: Annotated[int, Meta(ge=0, le=64)] = 0
    restores: bool = False


class PanelPath(Value, frozen=True, kw_only=True):
    """How a field is reached on the device's own panel: the menus to it, the presses that takes.

    ``field`` is its owner and name, such as «zone/channel».
    """

    field: Annotated[str, Meta(pattern=r"^[a-z ]+/[a-z_]+$", max_length=40)]
    path: Text = ""
    presses: Annotated[int, Meta(ge=0, le=40)] = 3


class Device(Value, frozen=True, kw_only=True):
    """Something with ports.

    ``octaves`` is the octave in which it puts note 60 and ``first_program`` the number it shows
    for program 0.  With ``local`` on, its keys play its own parts as well as its outputs.
    ``sensing_ms`` is its own time from a strike to the message, ``delay_ms`` from hearing one to
    sounding it; sound waits in its ``buffer`` besides.  ``curves`` are the velocity
    curves that it offers by name, ``switches`` what else is set in it as a whole.  It ``lacks``
    fields that such devices usually have, «zone/vel_low».  An encoder has a ``console`` behind it.
    Couplers, combinations and crescendos are those that it holds itself.

    A ``player`` has it under the hands.  It gets to another program as ``changes_by`` says, «by
    message» from the device that it is ``led_by``; it hears program changes on one channel and the
    bank before them as ``bank_select`` says, needs ``program_ms`` for one, and ``rings_on`` where
    what sounds is not cut by it.
    Sound leaves it at its ``outputs``, some sounds by ``routes`` of their own; what comes in at its
    ``audio_inputs``, which are the channels of a desk, it passes on as it is told; ``size``,
    ``supply`` and ``weight_kg`` are as far as known.
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
    sensing_ms: Milliseconds = 0.0
    buffer: AudioBuffer | None = None
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
    switches: tuple[Switch, ...] = ()
    storage: Storage = Storage()
    panel: tuple[PanelPath, ...] = ()
    lacks: tuple[Annotated[str, Meta(pattern=r"^[a-z ]+/[a-z_]+$", max_length=40)], ...] = ()
    console: Console | None = None
    player: Annotated[str, Meta(max_length=80)] = ""
    changes_by: Way = "own buttons"
    led_by: Id | None = None
    hears_programs: Channel | None = None
    bank_select: Banked = "both"
    program_ms: Milliseconds = 0.0
    rings_on: bool = False
    clock: Clock = "none"
    couplers: tuple[Coupler, ...] = ()
    combinations: tuple[Combination, ...] = ()
    crescendos: tuple[Crescendo, ...] = ()
    outputs: tuple[AudioOutput, ...] = ()
    routes: tuple[SoundRoute, ...] = ()
    audio_inputs: tuple[AudioInput, ...] = ()
    audio_passes: tuple[AudioPass, ...] = ()
    size: Size | None = None
    supply: Supply = Supply()
    place: Place | None = None
    weight_kg: Kilograms = 0.0
    preparation: tuple[Text, ...] = ()
    notes: Text = ""


class Cable(Value, frozen=True, kw_only=True):
    """A cable between two ports, each written ``device:port``.

    Messages go from ``source`` to ``dest``, and back as well where both ports carry both ways.  A
    ``crossed`` one joins small jacks of type A and B.  ``metres`` is how long it is, None where
    that follows from where the devices stand.
    """

    source: Ref
    dest: Ref
    crossed: bool = False
    metres: Metres | None = None


class ProgramChoice(Value, frozen=True, kw_only=True):
    """The program 0–127 that a device is on in a scene."""

    device: Id
    program: Byte


class Scene(Value, frozen=True, kw_only=True):
    """One song, cue or registration; devices it does not name stay on their first program.

    Its ``tempo`` is that of the plan where none is said.  ``arrivals`` are devices that get to
    their program otherwise than usual, ``starts`` what targets are put to at its beginning.  All
    keys play ``transpose`` semitones away, but for drums and what sounds a kit.
    """

    id: Id
    name: Name
    programs: tuple[ProgramChoice, ...] = ()
    notes: Text = ""
    tempo: Tempo | None = None
    key: Annotated[str, Meta(max_length=24)] = ""
    players: tuple[PlayerNote, ...] = ()
    arrivals: tuple[Arrival, ...] = ()
    starts: tuple[StartValue, ...] = ()
    transpose: Annotated[int, Meta(ge=-24, le=24)] = 0


class Plan(Value, frozen=True, kw_only=True):
    """The whole document; ``tempo`` in beats a minute is what note repeat follows.

    Batteries have to last ``hours``.
    """

    name: Name
    devices: tuple[Device, ...] = ()
    cables: tuple[Cable, ...] = ()
    audio_cables: tuple[AudioCable, ...] = ()
    output_wishes: tuple[OutputWish, ...] = ()
    hearing: tuple[Hearing, ...] = ()
    power: tuple[PowerSource, ...] = ()
    hours: Annotated[float, Meta(ge=0, le=48)] = 4.0
    packed: tuple[PackedTick, ...] = ()
    scenes: tuple[Scene, ...] = ()
    setlists: tuple[SetList, ...] = ()
    wishes: tuple[Wish, ...] = ()
    couplings: tuple[Coupling, ...] = ()
    settings: tuple[SettingRecord, ...] = ()
    pads: tuple[TriggerPad, ...] = ()
    plugs: tuple[Plug, ...] = ()
    pedals: tuple[Pedal, ...] = ()
    pedal_plugs: tuple[PedalPlug, ...] = ()
    schools: Schools = Schools()
    tempo: Tempo = 120.0
    log: tuple[LogEntry, ...] = ()
    notes: Text = ""
