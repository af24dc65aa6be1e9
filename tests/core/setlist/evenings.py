"""Small evenings for the tests: devices with programs by number, songs that are on some of them."""

from hypothesis import strategies as st

from tests.rigs import rig
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Cable, Device, Port, ProgramChoice, Scene, Storage
from vastzone.core.plan.model.setlists import SetList, SetStep

WAYS = ("own buttons", "by number", "by hand", "host list")


def device(ident, numbers, step="stops", way="own buttons", **more):
    programs = tuple(Program(number=n, name=f"{ident} {n}") for n in sorted(numbers))
    ports = (
        Port(id="in", name="in", flow="in"),
        Port(id="out", name="out", flow="out"),
    )
    return Device(
        id=ident,
        name=ident.title(),
        kind="keyboard",
        ports=ports,
        programs=programs,
        storage=Storage(step=step, slots=more.pop("slots", 128)),
        changes_by=way,
        **more,
    )


def evening(devices, songs, order=None, cables=(), **more):
    """Songs are dicts of device and number; the set list plays them in an order."""
    scenes = tuple(
        Scene(
            id=f"s{n}",
            name=f"Song {n}",
            programs=tuple(ProgramChoice(device=d, program=p) for d, p in song.items()),
        )
        for n, song in enumerate(songs)
    )
    steps = tuple(SetStep(scene=f"s{n}") for n in (order or range(len(songs))))
    lists = (SetList(id="night", name="Night", steps=steps),)
    joined = tuple(Cable(source=one, dest=other) for one, other in cables)
    plan = rig(*devices, cables=(), scenes=scenes, setlists=lists, **more)
    return type(plan)(
        **{name: getattr(plan, name) for name in plan.__struct_fields__ if name != "cables"},
        cables=joined,
    )


@st.composite
def evenings(draw, songs=6, programs=6):
    """One to three devices, each with a few stored programs, and songs on some of them."""
    devices = []
    for n in range(draw(st.integers(1, 3))):
        numbers = draw(st.sets(st.integers(0, 20), min_size=1, max_size=programs))
        step = draw(st.sampled_from(["stops", "goes round", "none"]))
        player = draw(st.sampled_from(["Ro", "Mo", ""]))
        way = draw(st.sampled_from(WAYS))
        devices.append(device(f"d{n}", numbers, step, way, player=player))
    every = []
    for _ in range(draw(st.integers(1, songs))):
        song = {}
        for one in devices:
            if draw(st.booleans()):
                numbers = [program.number for program in one.programs]
                song[one.id] = draw(st.sampled_from(numbers))
        every.append(song)
    order = draw(st.lists(st.integers(0, len(every) - 1), min_size=1, max_size=8))
    return evening(devices, every, order)
