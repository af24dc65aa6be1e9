"""Couplers read from the names of stops: «Swell to Great», «Gt/Ped», «Swell Octave», «Sw to Gt 16».

The division that is named first is played by the keys of the one named second, or by its own an
octave away.  A name may be shortened to letters of it in their order, as long as only one fits.
"""

import re
from collections.abc import Iterable, Iterator

from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.organ import Coupling
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import read_ref, ref_to

APART = re.compile(r"\s+(?:to|an|zu|sur)\s+|\s*[/→]\s*", re.IGNORECASE)
OCTAVES = (
    (re.compile(r"\b(?:sub|suboctave|sub-octave|16)\b['′’]?", re.IGNORECASE), -12),
    (re.compile(r"\b(?:super|octave|4)\b['′’]?", re.IGNORECASE), 12),
)
AT_PITCH = re.compile(r"\b(?:unison|8)\b['′’]?", re.IGNORECASE)


def couplers_named(plan: Plan, owner: Device) -> tuple[Coupling, ...]:
    """The couplers that the stops of a device are called, as far as they are understood.

    What is wished already is left out.
    """
    wished = {one.stop for one in plan.couplings}
    found = []
    for control in owner.controls:
        ref = ref_to(owner.id, control.id)
        if ref in wished or not control_ability(control).pressed:
            continue
        read = _read(plan, owner, control.name)
        if read is not None:
            keys, plays, shift = read
            found.append(
                Coupling(
                    id=control.id,
                    name=control.name,
                    stop=ref,
                    keys=ref_to(owner.id, keys.id),
                    plays=plays,
                    shift=shift,
                )
            )
    return tuple(found)


def _read(plan: Plan, owner: Device, name: str) -> tuple[Keybed, str, int] | None:
    """The keys, the part and the semitones that a name stands for."""
    shift, words = _pitch(name)
    pieces = APART.split(words.strip())
    if len(pieces) == 1 and shift:
        pieces = [words, words]
    if len(pieces) != 2:
        return None
    names = _names(plan, owner)
    played, keys = (_called(owner.keybeds, names, piece) for piece in pieces)
    if keys is None or played is None or (played is keys and not shift):
        return None
    parts = list(_played_by(plan, ref_to(owner.id, played.id)))
    return (keys, parts[0], shift) if parts else None


def _pitch(name: str) -> tuple[int, str]:
    """The semitones that a name tells, and what else it says."""
    for pattern, shift in OCTAVES:
        rest = pattern.sub(" ", name)
        if rest != name:
            # «Sub octave» says both: what is left of it is no name.
            return shift, OCTAVES[1][0].sub(" ", rest)
    return 0, AT_PITCH.sub(" ", name)


def _names(plan: Plan, owner: Device) -> dict[str, tuple[str, ...]]:
    """What each keyboard is called: by its own name, or as the division that it plays."""
    names = {}
    for bed in owner.keybeds:
        called = [bed.name]
        for ref in _played_by(plan, ref_to(owner.id, bed.id)):
            device, part = read_ref(ref)
            called.append(lookup.part(lookup.device(plan, device), part).name)
        names[bed.id] = tuple(map(_bare, called))
    return names


def _bare(words: str) -> str:
    return "".join(filter(str.isalnum, words)).lower()


def _called(beds: Iterable[Keybed], names: dict[str, tuple[str, ...]], words: str) -> Keybed | None:
    """The only keyboard that is called so, whole or shortened."""
    wanted = _bare(words)
    exact, short = [], []
    for bed in beds:
        if wanted in names[bed.id]:
            exact.append(bed)
        elif wanted and any(_shortened(wanted, name) for name in names[bed.id]):
            short.append(bed)
    fitting = exact or short
    return fitting[0] if len(fitting) == 1 else None


def _shortened(wanted: str, name: str) -> bool:
    return name[:1] == wanted[:1] and _in_order(wanted, name)


def _in_order(letters: str, name: str) -> bool:
    """Whether a name has these letters in their order."""
    rest = iter(name)
    return all(letter in rest for letter in letters)


def _played_by(plan: Plan, bed: str) -> Iterator[str]:
    """The parts that a keyboard is wished to play."""
    for wish in plan.wishes:
        if bed in wish.sources and wish.plays is not None:
            yield wish.plays
