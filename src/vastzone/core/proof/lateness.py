"""Rules of delay: ways past 10 ms, busy lines, sweeps that starve notes, Bluetooth under drums."""

from collections.abc import Iterable, Iterator

from vastzone.core.delay.load import LineLoad, line_loads
from vastzone.core.delay.paths import DelayPath, Hand, hands_on, path_of, sounding_ways
from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say, say_many
from vastzone.core.text import listed
from vastzone.core.timing.hops import PLAYABLE_MS

BUSY, STARVED = 0.7, 0.5


def late_ways(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Ways past 10 ms from what is played to the ear, told together by where most of it goes.

    And pads and triggers whose strokes go over Bluetooth, however late.
    """
    by_radio: dict[str, None] = {}
    groups: dict[tuple[str, str, str], list[DelayPath]] = {}
    scenes: dict[tuple[str, str, str], dict[str, None]] = {}
    for path, names in _sounding_paths(plan, compiled):
        if path.verdict == "late" and path.longest is not None:
            key = (device_of(path.source), device_of(path.dest), path.longest.where)
            groups.setdefault(key, []).append(path)
            scenes.setdefault(key, {}).update(dict.fromkeys(names))
        if _has_bluetooth(path) and _is_struck(plan, path):
            by_radio[device_of(path.source)] = None
    yield from _under_drums(plan, by_radio)
    for key, paths in groups.items():
        source, dest, where = key
        worst = max(paths, key=lambda path: path.worst_ms)
        longest = worst.longest
        names = [lookup.device(plan, ident).name for ident in (source, dest)]
        took = (
            say(
                "{worst_ms:.1f} ms of it {kind} ({where})",
                worst_ms=longest.worst_ms,
                kind=say(longest.kind),
                where=where,
            )
            if longest
            else ""
        )
        drums = say(" Drummers notice it first.") if _is_struck(plan, worst) else ""
        yield Remark(
            "late",
            (worst.source, source, dest),
            say(
                "{struck} is heard from {heard} after up to {worst_ms:.1f} ms, past "
                "{playable_ms:g}: {took}.{drums}",
                struck=names[0],
                heard=names[1],
                worst_ms=worst.worst_ms,
                playable_ms=PLAYABLE_MS,
                took=took,
                drums=drums,
            ),
            (),
            tuple(scenes.get(key, {})),
        )


def _sounding_paths(
    plan: Plan, compiled: tuple[Compiled, ...]
) -> Iterator[tuple[DelayPath, list[str]]]:
    """Every way to an ear, once for all scenes in which it is the same, with those scenes."""
    seen: dict[tuple[str, int], tuple[Hand, list[str]]] = {}
    for scene in compiled:
        for hand in hands_on(scene):
            _, names = seen.setdefault((hand[0], id(hand[1])), (hand, []))
            if scene.scene is not None:
                names.append(scene.scene.id)
    told: dict[tuple[str, int, int, str], DelayPath] = {}
    for (device, touched), names in seen.values():
        for one, end in sounding_ways(touched):
            same = (device, id(end.sent.tree), end.step, end.ref)
            if same not in told:
                told[same] = path_of(plan, device, one, end)
            yield told[same], names


def _is_struck(plan: Plan, path: DelayPath) -> bool:
    """Whether a way begins at a pad or a trigger."""
    device = lookup.device(plan, device_of(path.source))
    control = lookup.controls_by_id(device).get(thing_of(path.source))
    return control is not None and control_ability(control).hard


def _under_drums(plan: Plan, devices: Iterable[str]) -> Iterator[Remark]:
    """Pads and triggers whose strokes go over Bluetooth."""
    for ident in devices:
        name = lookup.device(plan, ident).name
        yield Remark(
            "Bluetooth under drums",
            (ident,),
            say(
                "Strokes on {name} go over Bluetooth, which takes up to 15 ms and never the same: "
                "use a cable.",
                name=name,
            ),
        )


def _has_bluetooth(path: DelayPath) -> bool:
    return any(piece.where.startswith("Bluetooth") for piece in path.pieces)


def busy_lines(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """DIN lines more than 70 % busy, and sweeps that leave notes no room."""
    busiest: dict[tuple[str, str], LineLoad] = {}
    scenes: dict[tuple[str, str], list[str]] = {}
    for scene in compiled:
        for load in line_loads(scene):
            key = (load.source, load.dest)
            if load.share > BUSY and scene.scene is not None:
                scenes.setdefault(key, []).append(scene.scene.id)
            if key not in busiest or load.share > busiest[key].share:
                busiest[key] = load
    told_of: set[tuple[str, ...]] = set()
    for key, load in busiest.items():
        ends = [lookup.device(plan, device_of(ref)).name for ref in key]
        told = tuple(dict.fromkeys(scenes.get(key, ())))
        dear = [sweep for sweep in load.sweeps if sweep.share > STARVED]
        controls = tuple(sweep.control for sweep in dear)
        # What goes on over a thru is told at the first line only.
        all_of_it = (f"{load.share:.3f}", *(sweep.control for sweep in load.sweeps))
        if controls in told_of:
            continue
        if dear and load.notes > 0:
            # The same sweep goes on over the next line: it is told once.
            told_of.add(controls)
            names = listed(_control(plan, sweep.control) for sweep in dear)
            yield Remark(
                "sweep starves notes",
                (*controls, key[0]),
                say(
                    "A sweep of {names} takes {share:.0%} of the line from {first} to {last}, "
                    "and notes "
                    "wait behind it: send plain controllers, or use USB.",
                    names=names,
                    share=dear[0].share,
                    first=ends[0],
                    last=ends[1],
                ),
                (),
                told,
            )
        elif load.share > BUSY and all_of_it not in told_of:
            told_of.add(all_of_it)
            yield Remark(
                "line busy",
                (device_of(key[0]), device_of(key[1])),
                say(
                    "The DIN line from {first} to {last} can be {share:.0%} busy with chords and "
                    "{sweeps}: use USB, a second line, or running status.",
                    first=ends[0],
                    last=ends[1],
                    share=load.share,
                    sweeps=say_many("{count} sweep", "{count} sweeps", len(load.sweeps)),
                ),
                (),
                told,
            )


def _control(plan: Plan, ref: str) -> str:
    owner = lookup.device(plan, device_of(ref))
    return say(
        "{controls_by_id} of {owner}",
        controls_by_id=lookup.controls_by_id(owner)[thing_of(ref)].name,
        owner=owner.name,
    )
