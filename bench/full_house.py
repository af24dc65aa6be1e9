"""The full house: 7 manuals of 61 keys, 100 stops, 12 shoes and pedals, 3 pad controllers of
16 pads × 3 banks × 16 programs, a 14-input drum module, 64 parts, 128 scenes."""

from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, ProgramChoice, Scene, Thru
from vastzone.core.plan.model.wishes import Wish

MANUALS, SCENES, MODULES, PARTS = 7, 128, 4, 16
OUT = Port(id="out", name="out", flow="out")


def _manual(number: int) -> Device:
    zones = tuple(
        Zone(
            id=f"z{n}",
            name=f"Zone {n}",
            keybed="keys",
            low=36 + 20 * n,
            high=96 if n == 2 else 55 + 20 * n,
            channel=1,
        )
        for n in range(3)
    )
    programs = tuple(Program(number=n, name=f"Program {n}", zones=zones) for n in range(128))
    return Device(
        id=f"manual-{number}",
        name=f"Manual {number}",
        kind="keyboard",
        ports=(OUT,),
        keybeds=(Keybed(id="keys", name="Keys", low=36, keys=61),),
        programs=programs,
    )


def _pads(number: int) -> Device:
    controls = tuple(
        Control(id=f"pad-{n}", name=f"Pad {n}", kind="pad", banks=3) for n in range(16)
    )
    programs = tuple(
        Program(
            number=p,
            name=f"Kit {p}",
            sends=tuple(
                Send(
                    control=f"pad-{n}",
                    bank=b,
                    message="note",
                    number=36 + 16 * (b - 1) + n,
                    channel=1,
                )
                for b in (1, 2, 3)
                for n in range(16)
            ),
        )
        for p in range(16)
    )
    return Device(
        id=f"pads-{number}",
        name=f"Pads {number}",
        kind="pads",
        ports=(OUT,),
        controls=controls,
        programs=programs,
        limits=(ScopeLimit(setting="send-channel", scope="program"),),
    )


def _console() -> Device:
    stops = tuple(Control(id=f"stop-{n}", name=f"Stop {n}", kind="stop") for n in range(100))
    shoes = tuple(Control(id=f"shoe-{n}", name=f"Shoe {n}", kind="shoe") for n in range(12))
    sends = tuple(
        Send(control=f"shoe-{n}", message="controller", number=20 + n % 12, channel=1)
        for n in range(12)
    ) + tuple(
        Send(control=f"stop-{n}", message="program", number=n, channel=16) for n in range(100)
    )
    return Device(
        id="console",
        name="Console",
        kind="encoder",
        ports=(OUT,),
        controls=stops + shoes,
        programs=(Program(number=0, name="Console", sends=sends),),
    )


def _module(number: int) -> Device:
    sounds = tuple(Sound(id=f"s{n}", name=f"Sound {n}", note=36 + n) for n in range(48))
    kit = Kit(id="kit", name="Kit", sounds=sounds)
    parts = tuple(
        Part(
            id=f"p{n}",
            name=f"Part {number}-{n}",
            tag=f"{number}{n % 10}",
            colour=n % 8,
            channel=1,
            kit="kit" if n == 15 else None,
            rhythm=n == 15,
        )
        for n in range(PARTS)
    )
    targets = tuple(
        Target(id=f"t{n}", name=f"Level {number}-{n}", part=f"p{n}", controller=40 + n)
        for n in range(3)
    )
    ports = tuple(Port(id=f"in-{n}", name=f"in {n}", flow="in") for n in range(4))
    return Device(
        id=f"module-{number}",
        name=f"Module {number}",
        kind="module",
        ports=ports,
        parts=parts,
        kits=(kit,),
        targets=targets,
    )


def _merger(number: int, inputs: int) -> Device:
    ports = tuple(Port(id=f"in-{n}", name=f"in {n}", flow="in") for n in range(inputs))
    return Device(
        id=f"merger-{number}",
        name=f"Merger {number}",
        kind="merger",
        ports=(*ports, OUT),
        thrus=tuple(Thru(source=p.id, dest="out") for p in ports),
    )


def _wishes(times: int) -> tuple[Wish, ...]:
    made = []
    for scene in range(SCENES * times):
        for manual in range(MANUALS * times):
            module = manual % (MODULES * times)
            for n in range(3):
                part = (scene % SCENES + 5 * manual + n) % 15
                made.append(
                    Wish(
                        id=f"s{scene}-m{manual}-{n}",
                        name=f"Scene {scene}, manual {manual}, {n}",
                        scenes=(f"scene-{scene}",),
                        sources=(f"manual-{manual}:keys",),
                        low=36 + 20 * n,
                        high=96 if n == 2 else 55 + 20 * n,
                        plays=f"module-{module}:p{part}",
                    )
                )
    for number in range(3):
        made.extend(
            Wish(
                id=f"pads-{number}-{bank}",
                name=f"Pads {number}, bank {bank}",
                bank=bank,
                sources=tuple(f"pads-{number}:pad-{n}" for n in range(16)),
                plays=f"module-{number}:p15",
                sounds=tuple(f"s{16 * (bank - 1) + n}" for n in range(16)),
            )
            for bank in (1, 2, 3)
        )
    made.extend(
        Wish(
            id=f"shoe-{n}",
            name=f"Shoe {n}",
            sources=(f"console:shoe-{n}",),
            moves=f"module-{n % 4}:t{n // 4}",
        )
        for n in range(12)
    )
    return tuple(made)


def full_house(times: int = 1) -> Plan:
    """The plan as it comes out of its boxes: everything on channel 1.

    Manuals, modules and scenes are there so many ``times``.
    """
    manuals, many = MANUALS * times, MODULES * times
    senders = [_manual(n) for n in range(manuals)] + [_pads(n) for n in range(3)] + [_console()]
    drums = Device(
        id="drums",
        name="Drum module",
        kind="module",
        ports=(OUT,),
        controls=tuple(Control(id=f"in-{n}", name=f"Input {n}", kind="pad") for n in range(14)),
    )
    modules = [_module(n) for n in range(many)]
    mergers = [_merger(n, 4) for n in range(many)]
    cables, places = [], dict.fromkeys(range(many), 0)
    for n, sender in enumerate(senders[:-1]):
        bus = (n if n < manuals else n - manuals) % many
        cables.append(Cable(source=f"{sender.id}:out", dest=f"merger-{bus}:in-{places[bus]}"))
        places[bus] += 1
    cables += [Cable(source=f"merger-{n}:out", dest=f"module-{n}:in-0") for n in range(many)]
    cables += [Cable(source="console:out", dest=f"module-{n}:in-1") for n in range(many)]
    scenes = tuple(
        Scene(
            id=f"scene-{n}",
            name=f"Scene {n}",
            programs=(
                *(ProgramChoice(device=f"manual-{m}", program=n % SCENES) for m in range(manuals)),
                *(ProgramChoice(device=f"pads-{p}", program=n % 16) for p in range(3)),
            ),
        )
        for n in range(SCENES * times)
    )
    return Plan(
        name="Full house",
        devices=(*senders, drums, *modules, *mergers),
        cables=tuple(cables),
        scenes=scenes,
        wishes=_wishes(times),
    )
