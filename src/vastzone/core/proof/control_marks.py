"""The verdicts on controls: what each does in a program, against what is wished of it."""

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.listen import DeviceListeners, Listener
from vastzone.core.engine.tables import Controls, Landing, Motion, Sending
from vastzone.core.memory.touched import Names
from vastzone.core.plan.model.controls import Control, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.bands import bands, wished_at
from vastzone.core.proof.modes import pair_remark
from vastzone.core.proof.travel import mode_remark, movement_remark
from vastzone.core.proof.unwished import (
    Unwished,
    is_heard,
    meant_without_a_wish,
    spots_by_control,
)
from vastzone.core.proof.verdict import Effect, Mark, Marks, judge

Aims = Mapping[str, Target]
"""The targets of a device by ``device:target``."""


@derived(1024)
def aims_of(device: str, targets: tuple[Target, ...]) -> Aims:
    """The targets of a device by ``device:target``."""
    aims = {}
    for target in targets:
        aims[ref_to(device, target.id)] = target
    return aims


@derived(4096)
def kits_of(heard: DeviceListeners) -> tuple[Listener, ...]:
    """The parts of a device that are on a kit."""
    return tuple(dict.fromkeys(li for ch in heard.by_channel for li in ch if li.kit))


@derived(16384)
def prove_controls(
    owner: str,
    controls: tuple[Control, ...],
    table: Controls,
    wishes: tuple[Wish, ...],
    aims: tuple[Aims, ...],
    kits: tuple[tuple[Listener, ...], ...],
    spots: Names,
    welcome: Names,
) -> Marks:
    """The verdicts on the controls of a device in one program.

    ``spots`` and ``welcome`` are what is meant without a wish.
    """
    marks: list[Mark] = []
    touched = spots_by_control(spots)
    listeners = tuple(li for kit in kits for li in kit)
    wished = _by_control(wishes)
    for control in controls:
        for bank in range(1, control.banks + 1):
            key = (ref_to(owner, control.id), bank)
            here, sendings = wished.get(key, ()), table.get(key, ())
            if here or sendings:
                own = touched.get((control.id, bank), ())
                marks += _prove_control(key, here, sendings, aims, listeners, own, welcome)
    return tuple(marks)


@derived(2048)
def _by_control(wishes: tuple[Wish, ...]) -> Mapping[tuple[str, int], tuple[Wish, ...]]:
    """Wishes by the control and the bank that they begin at."""
    by_control: dict[tuple[str, int], list[Wish]] = {}
    for wish in wishes:
        for source in dict.fromkeys(wish.sources):
            by_control.setdefault((source, wish.bank), []).append(wish)
    return {key: tuple(wishes_there) for key, wishes_there in by_control.items()}


@derived(65536)
def _prove_control(
    key: tuple[str, int],
    here: tuple[Wish, ...],
    sendings: tuple[Sending, ...],
    aims: tuple[Aims, ...],
    listeners: tuple[Listener, ...],
    spots: Names,
    welcome: Names,
) -> Marks:
    # A wish takes a control over whole: what else it does is too much.
    unwished = Unwished((), ()) if here else Unwished(spots, welcome)
    played = [wish for wish in here if wish.plays]
    layers = list(_layers(sendings, {wish.plays or "" for wish in played}))
    marks: list[Mark] = []
    if played or layers:
        marks.extend(_prove_pad(key, played, layers, listeners, unwished))
    motions = []
    for sending in sendings:
        for motion in sending.motions:
            motions.append((sending.send, motion))
    marks.extend(_prove_moves(key, here, motions, aims, unwished))
    return tuple(marks)


class _LayerLanding(NamedTuple):
    """Where a layer of a pad sounds, and what that layer sends."""

    send: Send
    landing: Landing


def _layers(sendings: tuple[Sending, ...], wished: set[str]) -> Iterator[_LayerLanding]:
    for sending in sendings:
        for note in sending.notes:
            for landing in note.landings:
                if is_heard(landing, wished):
                    yield _LayerLanding(sending.send, landing)


def _prove_pad(
    key: tuple[str, int],
    played: list[Wish],
    layers: list[_LayerLanding],
    kits: tuple[Listener, ...],
    unwished: Unwished,
) -> Iterator[Mark]:
    for low, after in bands(played, [layer.landing for layer in layers]):
        here = wished_at(low, played)
        sounding = []
        for layer in layers:
            if layer.landing.low <= low <= layer.landing.high:
                sounding.append(layer)
        if not here and not sounding:
            continue
        found = []
        for send, landing in sounding:
            found.append((send.thing, Effect(landing.ref, landing.note)))
        meant = []
        for wish in here:
            meant.append(Effect(wish.plays or "", wished_note(wish, key[0], kits)))
        if not played:
            meant = meant_without_a_wish(found, *unwished)
        heard = [effect for _, effect in found]
        yield _mark(key, low, after - 1, meant, heard, here, _mode_remark(sounding))


def _mode_remark(sounding: list[_LayerLanding]) -> str:
    """What is wrong with how the layers of a pad and what they sound work together."""
    for layer in sounding:
        remark = pair_remark(layer.send.mode, layer.landing.part.trigger)
        if remark:
            return remark
    return ""


def _mark(
    key: tuple[str, int],
    low: int,
    high: int,
    meant: list[Effect],
    heard: list[Effect],
    wishes: Sequence[Wish],
    remark: str,
) -> Mark:
    """The verdict on a control at velocities; a remark makes what is as meant wrong after all."""
    verdict, missing, extra = judge(meant, heard)
    if verdict != "as meant":
        remark = ""
    elif remark:
        verdict = "wrong"
    wished = tuple(wish.id for wish in wishes)
    return Mark(*key, 0, 0, low, high, verdict, tuple(meant), missing, extra, wished, remark)


def wished_note(wish: Wish, source: str, kits: tuple[Listener, ...]) -> int:
    """The note that a control is meant to sound; −1 where the kit does not hold the sound."""
    if wish.sounds:
        wanted = wish.sound(wish.sources.index(source))
        for listener in kits:
            if listener.ref == wish.plays and listener.kit is not None:
                return next((sound.note for sound in listener.kit.sounds if sound.id == wanted), -1)
        return -1
    return -1 if wish.note is None else wish.note


def _prove_moves(
    key: tuple[str, int],
    wishes: tuple[Wish, ...],
    motions: list[tuple[Send, Motion]],
    aims: tuple[Aims, ...],
    unwished: Unwished,
) -> Iterator[Mark]:
    moving = []
    for wish in wishes:
        if wish.moves:
            moving.append(wish)
    meant = []
    for wish in moving:
        meant.append(Effect(wish.moves or "", 0))
    found = list(_moved(motions, {wish.moves or "" for wish in moving}))
    if not moving:
        meant = meant_without_a_wish(found, *unwished)
    heard = [effect for _, effect in found]
    if meant or heard:
        remark = ""
        if judge(meant, heard)[0] == "as meant":
            remarks = (movement_remark(wish, motions, _target(wish, aims)) for wish in moving)
            remark = next(filter(None, remarks), "") if moving else mode_remark(motions)
        yield _mark(key, 1, 127, meant, heard, moving, remark)


def _moved(motions: list[tuple[Send, Motion]], wished: set[str]) -> Iterator[tuple[str, Effect]]:
    """The targets that a control moves; half of a pair is not what was meant."""
    for send, motion in motions:
        for hearing in motion.hearings:
            target = hearing.target
            if target is None or (target.receives == "takes all" and hearing.ref not in wished):
                continue
            yield send.thing, Effect(hearing.ref, int(hearing.reads == "fine"))


def _target(wish: Wish, aims: tuple[Aims, ...]) -> Target:
    moved = wish.moves or ""
    return next(held[moved] for held in aims if moved in held)
