"""The whole way from a control to the ear, in pieces that add up: worst and usual.

Sensing, the message, each cable with the devices between, the device that sounds, its buffer and
converter, what the sound goes through to the desk, and the air or the wireless ears.  Sound travels
at 343 m/s (at 20 °C): 2.9 ms a metre.
"""

from collections.abc import Hashable, Iterator
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.console.circuit import built
from vastzone.core.console.scan import worst_delay_ms
from vastzone.core.engine.audio import arrivals
from vastzone.core.engine.compile import Compiled, Runs, runs_of
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.receivers import outsides, programs_at
from vastzone.core.engine.tables import Controls, Emission, Motion, Sending
from vastzone.core.plan.model.bodies import Hearing
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.say import say
from vastzone.core.timing.hops import GOOD_MS, PLAYABLE_MS, USB_MS

AIR_MS = 1000.0 / 343.0
"""Milliseconds a metre of air."""
BLUETOOTH_USUAL_MS, USB_USUAL_MS = 7.5, USB_MS / 2
Kind = Literal[
    "sensing", "cable", "device", "queue", "sounding", "buffer", "converter", "to the desk", "ears"
]


class Piece(NamedTuple):
    """A piece of a way: of what kind, where, and how long it takes usually and at worst."""

    kind: Kind
    where: str
    usual_ms: float
    worst_ms: float


class DelayPath(NamedTuple):
    """The way from keys or a control ``device:thing`` to a part or target ``device:thing``.

    ``sounds`` says that it ends at an ear.
    """

    source: str
    name: str
    player: str
    dest: str
    ends_at: str
    pieces: tuple[Piece, ...]
    sounds: bool
    sent: Emission | Motion
    step: int

    @property
    def usual_ms(self) -> float:
        """What all pieces come to usually."""
        return sum(piece.usual_ms for piece in self.pieces)

    @property
    def worst_ms(self) -> float:
        """What all pieces come to at worst, on cables on which nothing else is under way."""
        return sum(piece.worst_ms for piece in self.pieces)

    @property
    def longest(self) -> Piece | None:
        """The piece that matters most."""
        return max(self.pieces, key=lambda piece: piece.worst_ms, default=None)

    @property
    def verdict(self) -> Literal["good", "playable", "late"]:
        """Good to 5 ms, playable to 10, late beyond."""
        return verdict_of(self.worst_ms)


def verdict_of(ms: float) -> Literal["good", "playable", "late"]:
    """Good to 5 ms, playable to 10, late beyond."""
    if ms <= GOOD_MS + 1e-9:
        return "good"
    return "playable" if ms <= PLAYABLE_MS + 1e-9 else "late"


class End(NamedTuple):
    """Where a message ends: by which tree and step, at which part or target, after how long.

    ``sounds`` says that it is a part.  ``sent`` is one of the messages that go this way.
    """

    sent: Emission | Motion
    step: int
    ref: str
    name: str
    after_ms: float
    sounds: bool
    output: str


class Touched(NamedTuple):
    """Keys or a control in a bank, and all ends of what it sends; of a keybed, of all its keys."""

    thing: str
    bank: int
    ends: tuple[End, ...]


Hand = tuple[str, tuple[Touched, ...]]
"""A device, and everything touched on it: the same value while none of that changes."""


def hands_on(compiled: Compiled) -> Iterator[Hand]:
    """Everything that is touched in a scene and reaches something, device by device."""
    plan, world = compiled.plan, compiled.world
    programs = programs_at(plan, compiled.scene)
    for shell, program in zip(outsides(plan).shells, programs, strict=True):
        if program is not None:
            beds = runs_of(shell, program, world) if shell.keybeds else ()
            yield shell.id, _touched_on(shell.keybeds, beds, control_table(shell, program, world))


@derived(4096, whole=True)
def _touched_on(
    keybeds: tuple[Keybed, ...], beds: tuple[Runs, ...], table: Controls
) -> tuple[Touched, ...]:
    touched = []
    for bed, runs in zip(keybeds, beds, strict=True):
        touched.append(Touched(bed.id, 1, _ends_of_keys(runs)))
    for (ref, bank), sendings in table.items():
        touched.append(Touched(thing_of(ref), bank, _ends_of_control(sendings)))
    return tuple(one for one in touched if one.ends)


@derived(4096, whole=True)
def sounding_ways(touched: tuple[Touched, ...]) -> tuple[tuple[Touched, End], ...]:
    """Every different way to something that sounds from what is touched on a device, once."""
    ways: dict[tuple[int, int, str], tuple[Touched, End]] = {}
    for one in touched:
        for end in one.ends:
            if end.sounds:
                ways.setdefault((id(end.sent.tree), end.step, end.ref), (one, end))
    return tuple(ways.values())


@derived(8192, whole=True)
def _ends_of_keys(runs: Runs) -> tuple[End, ...]:
    ends: dict[tuple[int, int, str], End] = {}
    for run in runs:
        for end in _ends_of(run.emission):
            ends.setdefault((id(end.sent.tree), end.step, end.ref), end)
    return tuple(ends.values())


@derived(8192, whole=True)
def _ends_of_control(sendings: tuple[Sending, ...]) -> tuple[End, ...]:
    ends: list[End] = []
    for sending in sendings:
        for emission in sending.notes:
            ends += _ends_of(emission)
        for motion in sending.motions:
            ends += _moved_by(motion)
    return tuple(ends)


def _ends_of(emission: Emission) -> Iterator[End]:
    for landing in emission.landings:
        part = landing.part
        if part.receives != "takes all":
            yield End(
                emission, landing.step, landing.ref, part.name, landing.after_ms, True, part.output
            )


def _moved_by(motion: Motion) -> Iterator[End]:
    for hearing in motion.hearings:
        target = hearing.target
        if target is not None:
            yield End(motion, hearing.step, hearing.ref, target.name, 0.0, False, "")


@derived(256)
def delay_paths(compiled: Compiled) -> tuple[DelayPath, ...]:
    """Every way that something takes in a scene, the latest first."""
    return _latest_first(compiled, sounding_only=False)


@derived(256)
def sounding_paths(compiled: Compiled) -> tuple[DelayPath, ...]:
    """Those of them that end at an ear."""
    return _latest_first(compiled, sounding_only=True)


def _latest_first(compiled: Compiled, sounding_only: bool) -> tuple[DelayPath, ...]:
    found: dict[tuple[str, str], DelayPath] = {}
    for ident, touched in hands_on(compiled):
        hand = _Beginning(compiled.plan, ident)
        for one in touched:
            for end in one.ends:
                if sounding_only and not end.sounds:
                    continue
                path = hand.path(one, end)
                key = (path.source, path.dest)
                known = found.get(key)
                if known is None or path.worst_ms > known.worst_ms:
                    found[key] = path
    return tuple(sorted(found.values(), key=lambda path: (-path.worst_ms, path.name)))


def path_of(plan: Plan, ident: str, touched: Touched, end: End) -> DelayPath:
    """One way from something touched on a device, in its pieces."""
    return _Beginning(plan, ident).path(touched, end)


class _Beginning:
    """A device at which ways begin: hundreds of controls share names and pieces."""

    def __init__(self, plan: Plan, ident: str) -> None:
        self._plan, self._device = plan, lookup.device(plan, ident)
        self._names: dict[tuple[str, int], tuple[str, str]] = {}
        self._ends: dict[str, tuple[str, str]] = {}
        self._pieces: dict[Hashable, tuple[Piece, ...]] = {}

    def path(self, touched: Touched, end: End) -> DelayPath:
        """One way from something touched on it."""
        source, name = self._named(touched)
        owner, ends_at = self._ended(end)
        return DelayPath(
            source,
            name,
            self._device.player,
            end.ref,
            ends_at,
            self._pieces_to(end, owner),
            end.sounds,
            end.sent,
            end.step,
        )

    def _named(self, touched: Touched) -> tuple[str, str]:
        key = (touched.thing, touched.bank)
        if key not in self._names:
            ref = ref_to(self._device.id, touched.thing)
            self._names[key] = (ref, touched_words(self._device, touched))
        return self._names[key]

    def _ended(self, end: End) -> tuple[str, str]:
        if end.ref not in self._ends:
            owner = lookup.device(self._plan, device_of(end.ref))
            self._ends[end.ref] = (
                owner.id,
                say("{end} of {owner}", end=end.name, owner=owner.name),
            )
        return self._ends[end.ref]

    def _pieces_to(self, end: End, owner: str) -> tuple[Piece, ...]:
        """What is alike for every way by the same cables to the same output."""
        sent = end.sent
        way = (id(sent.tree), id(sent.course), end.step)
        key = (way, owner, end.after_ms, end.sounds, end.output)
        if key not in self._pieces:
            pieces = _pieces(self._plan, self._device, end)
            self._pieces[key] = tuple(piece for piece in pieces if piece.worst_ms > 0)
        return self._pieces[key]


def _pieces(plan: Plan, device: Device, end: End) -> Iterator[Piece]:
    owner = lookup.device(plan, device_of(end.ref))
    yield Piece("sensing", device.name, *sensing_ms(device))
    yield from _sent(plan, end.sent, end.step)
    if end.sounds:
        yield from _to_the_ear(plan, device.player, owner, end)
    elif owner.delay_ms:
        yield Piece("sounding", owner.name, owner.delay_ms, owner.delay_ms)


def touched_words(device: Device, touched: Touched) -> str:
    """What is touched, by name."""
    for bed in device.keybeds:
        if bed.id == touched.thing:
            return f"{device.name}, {bed.name.lower()}"
    control = lookup.controls_by_id(device)[touched.thing]
    also = say(", bank {bank}", bank=touched.bank) if control.banks > 1 else ""
    return f"{device.name}, {control.name}{also}"


def _sent(plan: Plan, sent: Emission | Motion, step: int) -> Iterator[Piece]:
    """The cables, and the devices between them."""
    for index in sent.tree.way(step) if step >= 0 else ():
        taken, line = sent.tree.steps[index], sent.course.lines[index]
        source = lookup.device(plan, device_of(taken.arc.source))
        if line.before_ms:
            yield Piece("device", source.name, line.before_ms, line.before_ms)
        dest = lookup.device(plan, device_of(taken.arc.dest))
        where = say(
            "{links}, {source} to {dest}",
            links=LINKS[taken.arc.link],
            source=source.name,
            dest=dest.name,
        )
        usual = USUAL.get(taken.arc.link, line.ms)
        yield Piece("cable", where, usual, line.ms)


USUAL = {"usb": USB_USUAL_MS, "bluetooth": BLUETOOTH_USUAL_MS}
LINKS = {"din": "DIN", "usb": "USB", "bluetooth": "Bluetooth", "internal": say("inside")}


def sensing_ms(device: Device) -> tuple[float, float]:
    """From a strike to the message, usually and at worst: as it is said, or by an encoder's scan.

    A contact closes anywhere in a scan, so that half of one is usual.
    """
    if device.sensing_ms or device.console is None:
        return device.sensing_ms, device.sensing_ms
    encoder = device.console.encoder
    worst = worst_delay_ms(built(device, device.console), encoder)
    scan = worst - encoder.debounce_ms
    return worst - scan / 2, worst


def _to_the_ear(plan: Plan, player: str, owner: Device, end: End) -> Iterator[Piece]:
    """From the input of what sounds to the ear of who plays."""
    if end.after_ms:
        yield Piece("sounding", owner.name, end.after_ms, end.after_ms)
    buffer = owner.buffer
    if buffer is not None:
        worst = buffer.periods * buffer.period_ms
        usual = worst - buffer.period_ms / 2
        yield Piece(
            "buffer",
            say("{owner}, {frames} frames", owner=owner.name, frames=buffer.frames),
            usual,
            worst,
        )
        yield Piece("converter", owner.name, buffer.converter_ms, buffer.converter_ms)
    yield from _through(plan, owner, end.output)
    heard = hearing_of(plan, player)
    if heard is not None:
        ms = ears_ms(heard)
        yield Piece("ears", ears_words(heard), ms, ms)


def _through(plan: Plan, owner: Device, output: str) -> Iterator[Piece]:
    """Devices that the output of a part goes through on its way to the desk, the desk last."""
    arrived = arrivals(plan, owner, output)
    for cable in arrived[0].way if arrived else ():
        device = lookup.device(plan, device_of(cable.dest))
        ms = device.delay_ms
        if device.buffer is not None:
            ms += device.buffer.periods * device.buffer.period_ms + device.buffer.converter_ms
        if ms:
            yield Piece("to the desk", device.name, ms, ms)


def hearing_of(plan: Plan, player: str) -> Hearing | None:
    """How a player hears; None where nobody said."""
    for heard in plan.hearing:
        if heard.player == player:
            return heard
    return None


def ears_ms(heard: Hearing) -> float:
    """What the air, or a wireless way, takes."""
    if heard.by == "air":
        return heard.metres * AIR_MS
    return heard.wireless_ms if heard.by == "wireless ears" else 0.0


def ears_words(heard: Hearing) -> str:
    """How a player hears, in words."""
    return say("{metres:g} m of air", metres=heard.metres) if heard.by == "air" else heard.by
