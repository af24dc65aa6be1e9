"""Rules about the evening: songs, who leads whom, clocks, buttons that mean two things."""

from collections.abc import Iterator
from itertools import pairwise

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits.edit import Edit, set_item
from vastzone.core.plan.edits.setlists import lead_no_longer, set_start
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say, say_many
from vastzone.core.setlist.changes import led_in, song_change, way_of
from vastzone.core.setlist.goes_on import goes_on
from vastzone.core.text import listed

STEPS = frozenset(("program up", "program down"))


def led_elsewhere(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Devices that a message leaves on another program than a song wants, or on none."""
    for device in plan.devices:
        wrong: dict[str, list[Scene]] = {}
        for scene in plan.scenes:
            number = lookup.program_number(scene, device)
            if number is None:
                continue
            led = led_in(plan, scene)
            there = led.numbers.get(device.id)
            if there is None:
                if way_of(scene, device) == "by message":
                    wrong.setdefault("no program change reaches it", []).append(scene)
            elif not lookup.has_program(device, there):
                shown = program_words(device, there)
                wrong.setdefault(
                    say("it is sent to {shown}, which it has not", shown=shown), []
                ).append(scene)
            elif lookup.program(device, there).number != number:
                shown = program_words(device, there)
                wrong.setdefault(say("it is sent to {shown} instead", shown=shown), []).append(
                    scene
                )
        for said, scenes in wrong.items():
            yield Remark(
                "led elsewhere",
                (device.id,),
                say(
                    "{device} is not on its program in {songs}: {said}.",
                    device=device.name,
                    songs=_songs(scenes),
                    said=said,
                ),
                (lead_no_longer(device.id),) if device.changes_by == "by message" else (),
                tuple(scene.id for scene in scenes),
            )


def _songs(scenes: list[Scene]) -> str:
    return listed((scene.name for scene in scenes), 4)


def two_leaders(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Devices whose programs two others select, and leaders that come round to one another."""
    names = lookup.names_of(plan.devices)
    twice: dict[tuple[str, tuple[str, ...]], list[Scene]] = {}
    rings: dict[frozenset[str], tuple[str, ...]] = {}
    for scene in plan.scenes:
        led = led_in(plan, scene)
        for device, leaders in led.twice.items():
            twice.setdefault((device, tuple(sorted(leaders))), []).append(scene)
        for ring in led.rings:
            rings.setdefault(frozenset(ring), ring)
    for (device, leaders), scenes in twice.items():
        who = listed(names[leader] for leader in leaders)
        yield Remark(
            "two leaders",
            (device, *leaders),
            say(
                "{who} select programs of {names} in {songs}: the last one wins.",
                who=who,
                names=names[device],
                songs=_songs(scenes),
            ),
            scenes=tuple(scene.id for scene in scenes),
        )
    for ring in rings.values():
        who = listed(names[device] for device in dict.fromkeys(ring))
        yield Remark(
            "leaders in a ring",
            tuple(dict.fromkeys(ring)),
            say("{who} select one another’s programs, round and round.", who=who),
        )


def two_clocks(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Several devices that send the clock while others follow."""
    sending = [device for device in plan.devices if device.clock == "sends"]
    following = [device for device in plan.devices if device.clock == "follows"]
    if len(sending) > 1 and following:
        fixes = []
        for device in sending[1:]:
            label = say("Let {device} follow", device=device.name)
            fixes.append(set_item("devices", device.id, "device", label, clock="follows"))
        who = listed(device.name for device in sending)
        whom = listed((device.name for device in following), 4)
        yield Remark(
            "two clocks",
            tuple(device.id for device in sending),
            say(
                "{who} all send a clock, and {whom} would follow: one of them may lead.",
                who=who,
                whom=whom,
            ),
            tuple(fixes),
        )
    if following and not sending:
        names = listed((device.name for device in following), 4)
        yield Remark(
            "no clock",
            tuple(device.id for device in following),
            say("{names} follow a clock that nobody sends.", names=names),
        )


def clicks_without_a_clock(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Songs with a click in somebody's ears, where no device leads it."""
    if any(device.clock == "sends" for device in plan.devices):
        return
    songs, ears = [], []
    for scene in plan.scenes:
        heard = [note.player for note in scene.players if note.click]
        if heard:
            songs.append(scene)
            ears += heard
    if songs:
        players = dict.fromkeys(ears)
        yield Remark(
            "click without a clock",
            tuple(scene.id for scene in songs),
            say_many(
                "{players} hears a click in {songs}, and no device sends a clock that it could "
                "follow: say in a device's facts that it sends it.",
                "{players} hear a click in {songs}, and no device sends a clock that it could "
                "follow: say in a device's facts that it sends it.",
                len(players),
                players=listed(players),
                songs=_songs(songs),
            ),
            scenes=tuple(scene.id for scene in songs),
        )


def unselected_programs(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Programs that no song is on, told together for each device."""
    for device in plan.devices if plan.setlists else ():
        used = lookup.scenes_by_program(plan, device)
        idle = [program.name for program in device.programs if program.number not in used]
        if idle and len(plan.scenes) > 1:
            yield Remark(
                "program nobody selects",
                (device.id,),
                say("No song is on {idle} of {device}.", idle=listed(idle, 4), device=device.name),
            )


def missing_slots(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Programs that stand beyond the slots that their device has."""
    for device in plan.devices:
        slots = device.storage.slots
        beyond = [program for program in device.programs if slots and program.number >= slots]
        if beyond:
            yield Remark(
                "no such slot",
                (device.id,),
                say(
                    "{device} has {slots}, and {program} would stand beyond.",
                    device=device.name,
                    slots=say_many("{count} slot", "{count} slots", slots),
                    program=listed((program.name for program in beyond), 4),
                ),
            )


def buttons_of_two_minds(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Controls that step programs in one song and play or move something in another."""
    steps: dict[str, str] = {}
    plays: dict[str, str] = {}
    for scene in compiled:
        name = scene.scene.name if scene.scene else ""
        wished: set[str] = set()
        for wish in plan.wishes:
            if not wish.scenes or (scene.scene and scene.scene.id in wish.scenes):
                wished.update(wish.sources)
        for (ref, _), sendings in scene.controls.items():
            if any(sending.does in STEPS for sending in sendings):
                steps.setdefault(ref, name)
            elif ref in wished:
                plays.setdefault(ref, name)
    for ref in steps.keys() & plays.keys():
        owner = lookup.device(plan, device_of(ref))
        control = lookup.by_id(owner.controls, thing_of(ref), "control").name
        yield Remark(
            "steps and plays",
            (ref, owner.id),
            say(
                "{control} of {owner} steps to another program in {steps}, and plays or moves "
                "something in {plays}.",
                control=control,
                owner=owner.name,
                steps=steps[ref],
                plays=plays[ref],
            ),
        )


def _changes(plan: Plan) -> Iterator[tuple[Scene, Scene]]:
    """Every change of the evenings, once."""
    known = lookup.by_ids(plan.scenes)
    seen = set()
    for one in plan.setlists:
        for before, after in pairwise(one.played):
            if (before, after) not in seen and before != after:
                seen.add((before, after))
                yield known[before], known[after]


def busy_hands(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Players who hold keys as a song begins, and have to press something for it."""
    for before, after in _changes(plan):
        change = song_change(plan, before, after)
        for note in after.players:
            presses = change.by_player.get(note.player, 0)
            if note.busy and presses:
                yield Remark(
                    "hands are busy",
                    (after.id,),
                    say(
                        "{player} holds keys as {after} begins, and has {presses} to make: "
                        "let a message lead.",
                        player=note.player,
                        after=after.name,
                        presses=say_many("{count} press", "{count} presses", presses),
                    ),
                    scenes=(after.id,),
                )


def heard_changes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Loops that are cut, or run on without an end, over a change of the evening."""
    for before, after in _changes(plan):
        for one in goes_on(plan, before, after):
            owner = lookup.device(plan, device_of(one.what))
            part = lookup.find(owner.parts, thing_of(one.what))
            is_loop = part is not None and part.trigger == "toggle"
            if one.fate == "runs on" or (one.fate == "cut" and is_loop):
                yield Remark(
                    "loop over a change",
                    (one.by, device_of(one.what)),
                    say(
                        "Where {after} follows {before}, {why}: {mend}.",
                        after=after.name,
                        before=before.name,
                        why=one.why,
                        mend=one.mend,
                    ),
                    scenes=(after.id,),
                )


def steps_that_skip(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Devices whose next program is not that of the next song, told together for each device."""
    skipped: dict[str, list[str]] = {}
    for before, after in _changes(plan):
        for step in song_change(plan, before, after).steps:
            if step.way == "own buttons" and step.presses > 1:
                skipped.setdefault(step.device, []).append(after.name)
    for ident, songs in skipped.items():
        device = lookup.device(plan, ident)
        yield Remark(
            "step skips",
            (device.id,),
            say(
                "One press of up or down on {device} does not lead to {songs}: see in Scenes, "
                "Storing, how its programs are best stored.",
                device=device.name,
                songs=listed(songs, 3),
            ),
        )


def sent_too_early(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Values that a song begins with, in a device that is still changing its program."""
    for scene in plan.scenes:
        for start in scene.starts:
            device = lookup.device(plan, device_of(start.target))
            target = lookup.target(plan, start.target)
            changes = device.program_ms > 0 and len(lookup.scenes_by_program(plan, device)) > 1
            if changes:
                label = say(
                    "Let {scene} leave {target} alone", scene=scene.name, target=target.name
                )
                fixes: tuple[Edit, ...] = (set_start(scene.id, start.target, None),)
                yield Remark(
                    "sent too early",
                    (ref_to(device.id, target.id), device.id),
                    say(
                        "{scene} puts {target} to {start:g} as {device} needs {program_ms:g} "
                        "ms for its "
                        "program: it is lost, or overwritten.",
                        scene=scene.name,
                        target=target.name,
                        start=start.value,
                        device=device.name,
                        program_ms=device.program_ms,
                    ),
                    tuple(Edit(label, fix.change) for fix in fixes),
                    (scene.id,),
                )
