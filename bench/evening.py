"""Evenings: the cost of every change of the full house, the best storing, a step on stage."""

import random
from collections.abc import Callable, Iterator
from itertools import pairwise

from bench.full_house import full_house
from bench.table import Row, best
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.plan.edits.setlists import set_arrival
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan, ProgramChoice, Scene, Storage
from vastzone.core.plan.model.setlists import SetList, SetStep
from vastzone.core.setlist.changes import song_change
from vastzone.core.setlist.costs import cost_matrix
from vastzone.core.solve.storing import best_storing

SONGS, DEVICES = 40, 8
STEP_MS = 16.0


def ordinary(seed: int = 1) -> Plan:
    """Forty songs for eight devices of 128 slots, their programs stored at random."""
    dice = random.Random(seed)
    devices = []
    numbers = {}
    for n in range(DEVICES):
        slots = dice.sample(range(128), SONGS)
        numbers[f"d{n}"] = slots
        devices.append(
            Device(
                id=f"d{n}",
                name=f"Device {n}",
                kind="keyboard",
                programs=tuple(Program(number=s, name=f"P{s}") for s in sorted(slots)),
                storage=Storage(step="stops"),
            )
        )
    scenes = []
    for song in range(SONGS):
        choices = tuple(ProgramChoice(device=d, program=s[song]) for d, s in numbers.items())
        scenes.append(Scene(id=f"s{song}", name=f"Song {song}", programs=choices))
    steps = tuple(SetStep(scene=scene.id) for scene in scenes)
    lists = (SetList(id="n", name="N", steps=steps),)
    return Plan(name="Evening", devices=tuple(devices), scenes=tuple(scenes), setlists=lists)


def rows() -> Iterator[Row]:
    plan = full_house()
    whole = best(lambda: cost_matrix(full_house()), 3)
    yield Row("cost matrix, 128 scenes", f"{whole:.3f} s", "1 s", whole, 1.0)
    cost_matrix(plan)
    edited = [
        set_arrival(plan.scenes[n].id, plan.devices[0].id, "by hand").change(plan) for n in range(5)
    ]
    each = iter(edited)
    again = best(lambda: cost_matrix(next(each)), 5)
    allowed = again / 1.0
    yield Row("cost matrix after an edit", f"{1000 * again:.1f} ms", "1 s", allowed, 0.05)
    evening = ordinary()
    songs = evening.setlists[0].played
    stored = best(lambda: [best_storing(evening, device, [songs]) for device in evening.devices], 2)
    yield Row("best storing, 40 songs × 8 devices", f"{stored:.3f} s", "2 s", stored / 2, 1.0)
    stepped = best(_steps(plan), 3) / 20 * 1000
    yield Row("a step on stage", f"{stepped:.2f} ms", f"{STEP_MS:.0f} ms", stepped / STEP_MS, 1.0)


def _steps(plan: Plan) -> Callable[[], None]:
    """Twenty steps from song to song, as the stage takes them."""
    scenes = plan.scenes[:21]
    hands = Performance(compile_scene(plan, scenes[0]))

    def run() -> None:
        for before, after in pairwise(scenes):
            hands.load(compile_scene(plan, after))
            song_change(plan, before, after)

    return run
