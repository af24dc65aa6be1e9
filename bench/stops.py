"""A console with 100 stops and five manuals, whose stops are controllers of the organ's parts."""

from vastzone.core.plan.model.controls import Control, Keybed, Program
from vastzone.core.plan.model.parts import Part, Target
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port
from vastzone.core.plan.model.wishes import Wish

STOPS, MANUALS = 100, 5


def console(channels: int) -> Plan:
    """The plan; the targets listen on so many channels in turn, on any where there are none."""
    stops = tuple(
        Control(id=f"stop-{n}", name=f"Stop {n + 1}", kind="stop", row=n // 20, column=n % 20)
        for n in range(STOPS)
    )
    beds = tuple(
        Keybed(id=f"manual-{n}", name=f"Manual {n + 1}", low=36, keys=61) for n in range(MANUALS)
    )
    board = Device(
        id="console",
        name="Console",
        kind="encoder",
        ports=(Port(id="out", name="out", flow="out"),),
        keybeds=beds,
        controls=stops,
        programs=(Program(number=0, name="Panel"),),
    )
    parts = tuple(
        Part(id=f"division-{n}", name=f"Division {n + 1}", tag=f"D{n}", channel=n + 1)
        for n in range(MANUALS)
    )
    targets = tuple(
        Target(
            id=f"rank-{n}",
            name=f"Rank {n + 1}",
            channel=14 + n % channels if channels else None,
            mode="toggle",
        )
        for n in range(STOPS)
    )
    organ = Device(
        id="organ",
        name="Organ",
        kind="module",
        ports=(Port(id="in", name="in", flow="in"),),
        parts=parts,
        targets=targets,
    )
    wishes = [
        Wish(
            id=f"keys-{n}",
            name=f"Keys {n}",
            sources=(f"console:manual-{n}",),
            plays=f"organ:division-{n}",
        )
        for n in range(MANUALS)
    ]
    wishes += [
        Wish(
            id=f"stop-{n}",
            name=f"Stop {n + 1}",
            sources=(f"console:stop-{n}",),
            moves=f"organ:rank-{n}",
        )
        for n in range(STOPS)
    ]
    return Plan(
        name="Console of stops",
        devices=(board, organ),
        cables=(Cable(source="console:out", dest="organ:in"),),
        wishes=tuple(wishes),
    )
