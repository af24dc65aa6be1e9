"""What a control sounds or moves in a scene, by name: «Open hat», «Clip 5»."""

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import KeyId, Landing, Sending
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, thing_of


def sound_name(plan: Plan, landing: Landing) -> str:
    """What a landing is called: the sound of its kit, or its part."""
    owner = lookup.device(plan, device_of(landing.ref))
    kit = lookup.find(owner.kits, landing.part.kit)
    for sound in kit.sounds if kit else ():
        if sound.note == landing.note:
            return sound.name
    return landing.part.name


def wished_name(plan: Plan, part: str, sound: str) -> str:
    """What a sound of the kits of ``device:part`` is called; the part where there is none such."""
    owner = lookup.device(plan, device_of(part))
    for kit in owner.kits:
        for each in kit.sounds:
            if each.id == sound:
                return each.name
    return lookup.part(owner, thing_of(part)).name


def landings_of(sendings: tuple[Sending, ...]) -> list[Landing]:
    """Where the notes of a control sound; what takes all hears and does not sound."""
    landings = []
    for sending in sendings:
        for note in sending.notes:
            for landing in note.landings:
                if landing.part.receives != "takes all":
                    landings.append(landing)
    return landings


def named_sounds(compiled: Compiled, key: KeyId, layer: int | None = None) -> tuple[str, ...]:
    """The names of what a control sounds, or else moves, each once; of one layer where said."""
    sendings = compiled.controls.get(key, ())
    if layer is not None:
        sendings = tuple(sending for sending in sendings if sending.send.layer == layer)
    landings = landings_of(sendings)
    names = dict.fromkeys(sound_name(compiled.plan, landing) for landing in landings)
    if names:
        return tuple(names)
    for sending in sendings:
        for motion in sending.motions:
            for hearing in motion.hearings:
                if hearing.target is not None and hearing.target.receives != "takes all":
                    names[hearing.target.name] = None
    return tuple(names)
