"""The Keys view, told: keybeds, zones, parts and every key with what it plays."""

from collections.abc import Callable
from functools import partial

from vastzone.app.reader import Element, Role
from vastzone.app.views.keys.geometry import BedPicture, KeysPicture, key_rect
from vastzone.app.views.keys.paint import bed_details, bed_name, shift_words
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.desk.session import Desk


def elements(
    desk: Desk,
    picture: KeysPicture,
    program_of: Callable[[Device], str],
    strike: Callable[[str, int], object],
) -> list[Element]:
    """Keybed by keybed: its name, the zones over it, the keys, the parts below."""
    found: list[Element] = []
    for bed in picture.beds:
        found += _bed(desk, bed, program_of(bed.owner))
        found += _keys(desk, picture, bed, strike)
    return found


def _bed(desk: Desk, bed: BedPicture, program: str) -> list[Element]:
    owner, naming = bed.owner, bed.owner.octaves
    head = Element(
        f"bed {bed.ref}",
        bed_name(bed),
        bed.caption,
        Role.Grouping,
        bed_details(bed, program),
        chosen=desk.selection == bed.ref,
        press=partial(desk.select, bed.ref),
    )
    found = [head]
    for bar in bed.zones:
        span = pitch.span(bar.zone.low, bar.zone.high, naming)
        ref, zone = ref_to(owner.id, bar.zone.id), bar.zone
        about = (
            say("plays {part}", part=bar.part.name)
            if bar.part is not None
            else say("plays nothing")
        )
        state = "" if zone.on else say("off, ")
        found.append(
            Element(
                f"zone {ref}",
                say(
                    "Zone {zone}{shift}, {span}",
                    zone=zone.name,
                    shift=shift_words(zone.shift),
                    span=span,
                ),
                bar.rect,
                Role.ListItem,
                (
                    say("channel {channel}, locked", channel=zone.channel)
                    if bar.locked
                    else say("channel {channel}", channel=zone.channel)
                ),
                f"{state}{about}",
                desk.selection == ref,
                press=partial(desk.select, ref),
            )
        )
    for part in bed.parts:
        found.append(
            Element(
                f"{bed.ref} {part.zone} {part.ref} {part.low}",
                say(
                    "Part {tag} {part}, {span}",
                    tag=part.part.tag,
                    part=part.part.name,
                    span=pitch.span(part.low, part.high, naming),
                ),
                part.rect,
                Role.ListItem,
                chosen=desk.selection == part.ref,
                press=partial(desk.select, part.ref),
            )
        )
    return found


def _keys(
    desk: Desk, picture: KeysPicture, bed: BedPicture, strike: Callable[[str, int], object]
) -> list[Element]:
    does, lit, found = desk.compiled.keys, set(desk.stage.lit_keys()), []
    verdicts: dict[int, str] = {}
    for mark in desk.marks(bed.ref):
        verdicts |= dict.fromkeys(range(mark.low, mark.high + 1), say(mark.verdict))
    for key in range(bed.bed.low, bed.bed.high + 1):
        parts: list[str] = []
        for emission in does.get((bed.ref, key), ()):
            parts += [landing.part.name for landing in emission.landings]
        sounds = ", ".join(dict.fromkeys(parts)) or say("nothing")
        found.append(
            Element(
                f"{bed.ref} {key}",
                pitch.label(key, bed.owner.octaves),
                key_rect(picture.axis, bed.keys, key),
                Role.Button,
                say("plays {sounds}", sounds=sounds),
                verdicts.get(key, ""),
                checked=(bed.ref, key) in lit,
                press=partial(strike, bed.ref, key),
            )
        )
    return found
