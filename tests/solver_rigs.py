"""Rigs drawn wide for the laws of the solver: small enough to be quick, with everything in them.

Locks, scopes, receivers that cannot be changed or learn, kits, layers, targets on any channel,
several ports, mergers, a computer between, pads that somebody filled.
"""

from hypothesis import strategies as st

from tests.rigs import part, scene
from vastzone.core.memory.beginnings import out_of_the_box
from vastzone.core.memory.model import Memory
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.settings import set_numbers, with_settings
from vastzone.core.plan.fields.dials import device_dials, open_dials
from vastzone.core.plan.fields.values import MISSING
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone
from vastzone.core.plan.model.limits import Answers, CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Thru
from vastzone.core.plan.model.wishes import Schools, Wish

CHANNELS = st.sampled_from([1, 1, 1, 2, 2, 3, 10, 16])
ANSWERS = ("controller", "controller", "controller", "controller", "bend", "pressure", "program")
SCOPES = st.sampled_from(["control", "control", "control", "program", "global", "fixed"])
MODES = st.sampled_from(["momentary", "momentary", "toggle", "trigger"])
WINDOWS = st.sampled_from([(1, 127), (1, 127), (1, 127), (1, 80), (81, 127)])
CONTROLS = ("pad-1", "pad-2", "knob-1", "knob-2", "button-1", "lever-1")
SENT = ("none", "note", "note", "controller", "controller", "bend", "pressure", "program")


def limits_of(draw, *settings):
    limits = []
    for setting in settings:
        scope = draw(SCOPES)
        if scope != "control":
            limits.append(ScopeLimit(setting=setting, scope=scope))
    return tuple(limits)


@st.composite
def a_zone(draw, ident, bed="keys", low=36, high=96):
    first = draw(st.integers(low, high))
    soft, loud = draw(WINDOWS)
    return Zone(
        id=ident,
        name=ident.title(),
        keybed=bed,
        low=draw(st.sampled_from([low, first])),
        high=draw(st.sampled_from([high, min(high, first + 12)])),
        channel=draw(CHANNELS),
        vel_low=soft,
        vel_high=loud,
        transpose=draw(st.sampled_from([0, 0, 0, 5])),
        octave=draw(st.sampled_from([0, 0, 0, -1])),
        on=draw(st.booleans()),
    )


@st.composite
def a_send(draw, control, bank=1):
    soft, loud = draw(WINDOWS)
    message = "bend" if control == "lever-1" else draw(st.sampled_from(SENT))
    note = message == "note"
    return Send(
        control=control,
        bank=bank,
        message=message,
        number=draw(st.sampled_from([7, 20, 36, 37, 38, 48, 60, 64])),
        channel=draw(CHANNELS) if note or draw(st.booleans()) else None,
        mode=draw(MODES),
        vel_low=soft if note else 1,
        vel_high=loud if note else 127,
        low=0 if note else draw(st.sampled_from([0, 0, 60])),
        high=127 if note else draw(st.sampled_from([127, 127, 61])),
    )


@st.composite
def boards(draw):
    """A keyboard with zones, pads and knobs, in one or two programs, with two outputs."""
    programs = []
    for number in range(draw(st.integers(1, 2))):
        zones = [draw(a_zone(name)) for name in ("one", "two")[: draw(st.integers(0, 2))]]
        sends = [draw(a_send(name)) for name in CONTROLS if draw(st.booleans())]
        programs.append(
            Program(number=number, name=f"P{number}", zones=tuple(zones), sends=tuple(sends))
        )
    limits = limits_of(draw, "zone-channel", "zone-shift", "send-channel")
    if draw(st.integers(0, 7)) == 0:
        limits = (*limits, ScopeLimit(setting="zone-range", scope="fixed"))
    if draw(st.booleans()):
        limits = (*limits, CountLimit(what="zones", most=draw(st.integers(1, 3))))
    limits = (*limits, CountLimit(what="memory-slots", most=draw(st.integers(2, 4))))
    if draw(st.integers(0, 5)) == 0:
        limits = (*limits, CountLimit(what="messages", most=1))
    outs = ("out", "out2")[: draw(st.integers(1, 2))]
    kinds = {"pad": "pad", "knob": "knob", "button": "button", "lever": "lever"}
    return Device(
        id="board",
        name="Board",
        kind="keyboard",
        ports=tuple(Port(id=name, name=name, flow="out") for name in outs),
        keybeds=(Keybed(id="keys", name="Keys", low=36, keys=61),),
        controls=tuple(
            Control(id=name, name=name.title(), kind=kinds[name.split("-")[0]]) for name in CONTROLS
        ),
        programs=tuple(programs),
        local=draw(st.booleans()),
        parts=tuple(part("own", draw(CHANNELS)) for _ in range(draw(st.sampled_from([0, 0, 1])))),
        limits=limits,
        lacks=draw(st.sampled_from([(), (), ("zone/vel_low", "zone/vel_high"), ("zone/octave",)])),
    )


@st.composite
def boxes(draw, ident="box"):
    """A sound module: parts, one of them on a kit, and targets."""
    notes = draw(st.lists(st.integers(35, 60), min_size=3, max_size=5, unique=True))
    kit = Kit(
        id="kit",
        name="Kit",
        fixed=draw(st.booleans()),
        sounds=tuple(Sound(id=f"d{n}", name=f"Drum {n}", note=k) for n, k in enumerate(notes)),
    )
    receives = st.sampled_from(["set", "set", "set", "fixed", "learns"])
    parts = []
    for number in range(draw(st.integers(1, 3))):
        soft, loud = draw(st.one_of(st.just((1, 127)), st.just((1, 127)), WINDOWS))
        parts.append(
            part(
                f"p{number}",
                draw(st.one_of(CHANNELS, st.none())),
                low=draw(st.sampled_from([0, 0, 36, 48])),
                high=draw(st.sampled_from([127, 127, 96, 72])),
                vel_low=soft,
                vel_high=loud,
                transpose=draw(st.sampled_from([0, 0, 0, 12])),
                trigger=draw(st.sampled_from(["gate", "gate", "one-shot", "toggle"])),
                receives=draw(receives),
            )
        )
    transposed = draw(st.sampled_from([0, 0, 12]))
    parts.append(part("drums", draw(CHANNELS), kit="kit", rhythm=True, transpose=transposed))
    ends = st.sampled_from([None, *(p.id for p in parts)])
    targets = []
    for number in range(draw(st.integers(0, 3))):
        least, most = draw(st.sampled_from([(None, None), (None, None), (0.0, 50.0)]))
        targets.append(
            Target(
                id=f"t{number}",
                name=f"T{number}",
                part=draw(ends),
                answers=draw(st.sampled_from(ANSWERS)),
                ceiling=draw(st.sampled_from([None, None, None, 90.0])),
                least=least,
                most=most,
                together=draw(st.sampled_from([False, False, True])),
                channel=draw(st.one_of(st.none(), CHANNELS)),
                controller=draw(st.sampled_from([None, 7, 20, 21, 74])),
                role=draw(st.sampled_from([None, None, 7])),
                high=draw(st.sampled_from([127.0, 200.0, 1.0])),
                mode=draw(st.sampled_from(["continuous", "continuous", "toggle", "trigger"])),
                receives=draw(receives),
            )
        )
    limits = limits_of(draw, "part-channel", "part-range", "part-shift")
    kept = draw(st.sampled_from([(), (), (20, 21), tuple(range(102, 120))]))
    if kept:
        limits = (*limits, Reserved(purpose="patches", controllers=kept))
    if draw(st.booleans()):
        limits = (*limits, Reserved(purpose="others", channels=tuple(range(4, 10))))
    if draw(st.booleans()):
        limits = (*limits, Answers(low=24, high=108))
    return Device(
        id=ident,
        name=ident.title(),
        kind="module",
        ports=(Port(id="in", name="in", flow="in"), Port(id="in2", name="in2", flow="in")),
        parts=tuple(parts),
        kits=(kit,),
        targets=tuple(targets),
        limits=limits,
        lacks=draw(st.sampled_from([(), (), ("target/least", "target/most")])),
    )


HOST = Device(
    id="host",
    name="Host",
    kind="computer",
    ports=(
        Port(id="in", name="in", flow="in"),
        Port(id="in2", name="in2", flow="in"),
        Port(id="out", name="out", flow="out"),
        Port(id="out2", name="out2", flow="out"),
    ),
    thrus=(Thru(source="in", dest="out"), Thru(source="in2", dest="out2")),
)


@st.composite
def cables(draw, board, several):
    """From the keyboard into the boxes, straight, through a computer, or both ways."""
    outs = [port.id for port in board.ports]
    joined = [("board:out", draw(st.sampled_from(["box:in", "host:in"])))]
    if "out2" in outs and draw(st.booleans()):
        joined.append(("board:out2", draw(st.sampled_from(["box:in2", "host:in2"]))))
    joined.append(("host:out", "box:in" if draw(st.booleans()) else "box:in2"))
    if several:
        joined.append((draw(st.sampled_from(["host:out2", "host:out"])), "more:in"))
        if draw(st.integers(0, 3)):
            joined.append(("board:out", "host:in"))
            joined.append(("board:out", "more:in2"))
    taken = {}
    for source, dest in joined:
        taken.setdefault(dest, source)
    return tuple(Cable(source=source, dest=dest) for dest, source in taken.items())


@st.composite
def some_wishes(draw, board, modules, scenes):
    """Keys, pads and knobs wished onto parts, sounds and targets, in some scenes."""
    parts = [(device, part) for device in modules for part in device.parts]
    targets = [(device, target) for device in modules for target in device.targets]
    made = []
    for number in range(draw(st.integers(0, 4))):
        soft, loud = draw(WINDOWS)
        more = {
            "id": f"w{number}",
            "name": f"W{number}",
            "scenes": tuple(sorted(draw(st.sets(st.sampled_from(scenes), max_size=1)))),
        }
        kind = draw(st.sampled_from(["keys", "keys", "pad", "knob", "knob"]))
        if kind == "knob" and targets:
            device, target = draw(st.sampled_from(targets))
            if draw(st.booleans()):
                more |= {
                    "from_value": 0.0,
                    "to_value": target.high * draw(st.sampled_from([1, 0.5])),
                }
            source = draw(st.sampled_from(CONTROLS))
            more |= {"sources": (f"board:{source}",), "moves": f"{device.id}:{target.id}"}
        elif kind == "pad":
            device, end = draw(st.sampled_from(parts))
            what = {"note": draw(st.sampled_from([36, 48, 60]))}
            if end.kit:
                sound = draw(st.sampled_from(device.kits[0].sounds))
                what = {"sounds": (sound.id,)}
            source = draw(st.sampled_from(["pad-1", "pad-2", "button-1"]))
            more |= {"sources": (f"board:{source}",), "plays": f"{device.id}:{end.id}", **what}
            more |= {"vel_low": soft, "vel_high": loud}
        else:
            device, end = draw(st.sampled_from(parts))
            if end.kit and draw(st.integers(0, 3)):
                device, end = parts[0]
            low = draw(st.sampled_from([36, 36, 48, 60]))
            more |= {
                "sources": ("board:keys",),
                "plays": f"{device.id}:{end.id}",
                "low": low,
                "high": draw(st.sampled_from([47, 59, 96, 96])),
                "shift": draw(st.sampled_from([0, 0, 0, 12, -5])),
                "vel_low": soft,
                "vel_high": loud,
            }
            if more["high"] < low:
                more["high"] = 96
        made.append(Wish(**more))
    return tuple(made)


def one_for_all(device):
    """A device in which what is one setting has one value."""
    values, firsts = {}, {}
    for dial in device_dials(device):
        first = firsts.setdefault(dial.slot, dial.value if dial.value != MISSING else 1)
        if len(dial.slot) > 1 and first != dial.value:
            values[dial.ref] = first
    return with_settings(device, values)


@st.composite
def solver_rigs(draw):
    """A plan, and the memory of devices as they left their boxes: some of it was set since."""
    board = one_for_all(draw(boards()))
    several = draw(st.booleans())
    modules = [one_for_all(draw(boxes(name))) for name in ("box", "more")[: 1 + several]]
    scenes = tuple(
        scene(name, board=draw(st.integers(0, len(board.programs) - 1)))
        for name in ("dusk", "dawn")[: draw(st.integers(1, 2))]
    )
    schools = Schools(
        channels=draw(st.sampled_from(["device", "sound", "program", "shared"])),
        controllers=draw(st.sampled_from(["standard", "undefined", "run"])),
        run_from=draw(st.sampled_from([20, 75])),
    )
    plan = Plan(
        name="Rig",
        devices=(board, *modules, HOST),
        cables=draw(cables(board, several)),
        scenes=scenes,
        wishes=draw(some_wishes(board, modules, [at.id for at in scenes])),
        schools=schools,
    )
    memory = Memory(devices=tuple(out_of_the_box(device, "") for device in plan.devices))
    refs = sorted(open_dials(plan))
    for ref in sorted(draw(st.sets(st.sampled_from(refs), max_size=2))):
        plan = _set_by_hand(plan, ref)
    for ref in sorted(draw(st.sets(st.sampled_from(refs), max_size=3))):
        plan = lock(ref)(plan) if draw(st.booleans()) else plan
    return plan, memory


def _set_by_hand(plan, ref):
    """A channel or number that somebody changed."""
    dial = open_dials(plan)[ref]
    if dial.scope != "control" or not ref.endswith(("channel", "number")):
        return plan
    return changed(set_numbers({ref: 2 if dial.value != 2 else 3}, "By hand")(plan))
