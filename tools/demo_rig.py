"""The Paper Lighthouse's rig, as found and ready."""

from vastzone.core.plan.limits import CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model import Cable, Device, Plan, Port, ProgramChoice, Scene, Thru
from vastzone.core.plan.sound import Part
from vastzone.core.plan.touch import Control, Keybed, Program, Send, Zone

MANUAL = "maker's manual"


def zone(name, low, high, channel, **more):
    ident = name.lower().replace(" ", "-")
    return Zone(id=ident, name=name, keybed="keys", low=low, high=high, channel=channel, **more)


WHEELS = (
    Send(control="bend", message="bend"),
    Send(control="modulation", message="controller", number=1),
    Send(control="sustain", message="controller", number=64),
)


def heron(mended):
    market = 1 if mended else 5
    programs = (
        ("Dusk", (zone("Viol", 28, 47, 1), zone("Celesta", 48, 100, 2))),
        ("The Keeper's Stair", (zone("Viol", 28, 47, 1), zone("Strings", 48, 71, 3, layer=True),
                                zone("Sea organ", 48, 71, 5, layer=True),
                                zone("Celesta", 72, 100, 2))),
        ("Herring Market", (zone("Brass", 28, 59 + market, 4, octave=0),
                            zone("Strings", 60 + (market if mended else 0), 100, 3))),
        ("Squall", (zone("Sea organ", 28, 55, 5),
                    zone("Brass", 56 if mended else 68, 100, 4))),
        ("Wreck Bell", (zone("Strings", 28, 59, 3), zone("Bells", 60, 100, 6 if mended else 9))),
        ("First Light", (zone("Viol", 28, 47, 1), zone("Strings", 48, 76, 3),
                         zone("Celesta", 77, 100, 2))),
    )  # fmt: skip
    pedals = (
        Send(control="expression", message="controller", number=11),
        Send(control="dual-left", message="controller", number=20 if mended else 102, channel=8),
        Send(control="dual-right", message="controller", number=21, channel=8),
    )
    return Device(
        id="heron", name="Heron 73", kind="keyboard", octaves=4, first_program=1,
        ports=(Port(id="din-out", name="MIDI out", flow="out"),
               Port(id="usb", name="USB", flow="both", link="usb")),
        keybeds=(Keybed(id="keys", name="Keys", low=28, keys=73),),
        controls=(
            Control(id="bend", name="Pitch wheel", kind="wheel"),
            Control(id="modulation", name="Modulation wheel", kind="wheel"),
            Control(id="sustain", name="Sustain", kind="switch"),
            Control(id="expression", name="Expression", kind="pedal"),
            Control(id="dual-left", name="Dual switch, left", kind="switch"),
            Control(id="dual-right", name="Dual switch, right", kind="switch"),
        ),
        programs=tuple(
            Program(number=n, name=name, zones=zones, sends=(*WHEELS, *pedals))
            for n, (name, zones) in enumerate(programs)
        ),
        limits=(
            CountLimit(what="zones", most=4, source=MANUAL),
            CountLimit(what="memory-slots", most=32, source=MANUAL),
            ScopeLimit(setting="zone-channel", scope="program", source=MANUAL),
        ),
    )  # fmt: skip


def wren(mended):
    high = 91 if mended else 96
    return Device(
        id="wren", name="Wren 32", kind="keyboard", octaves=3, first_program=1,
        ports=(Port(id="usb", name="USB", flow="both", link="usb"),),
        keybeds=(Keybed(id="keys", name="Keys", low=65, keys=32),),
        controls=(Control(id="sustain", name="Sustain", kind="switch"),),
        programs=(Program(number=0, name="Panel", zones=(zone("Swell manual", 65, high, 12),),
                          sends=(WHEELS[2],)),),
        limits=(
            CountLimit(what="zones", most=1, source=MANUAL),
            ScopeLimit(setting="zone-channel", scope="global", source=MANUAL,
                       verified="tried at the rehearsal"),
        ),
    )  # fmt: skip


def part(ident, name, tag, colour, channel, low=0, high=127, **more):
    return Part(id=ident, name=name, tag=tag, colour=colour, channel=channel, low=low, high=high,
                **more)  # fmt: skip


def dovecote(mended):
    down = 0 if mended else 12
    return Device(
        id="dovecote", name="Dovecote", kind="module", octaves=3, delay_ms=1.5,
        ports=(Port(id="din-in", name="MIDI in", flow="in"),
               Port(id="din-thru", name="MIDI thru", flow="out")),
        thrus=(Thru(source="din-in", dest="din-thru"),),
        parts=(
            part("viol", "Bass viol", "BV", 0, 1, 28 + down, 47 + down, output="1"),
            part("celesta", "Celesta", "CE", 1, 2, 48, 108, output="1"),
            part("strings", "Strings", "ST", 2, 3, 24, 108, output="2"),
            part("brass", "Brass band", "BR", 3, 4, 28, 100, output="2"),
            part("sea-organ", "Sea organ", "SO", 4, 5, output="3"),
            part("bells", "Ship's bells", "SB", 5, 6, 48, 108, output="3"),
        ),
        limits=(CountLimit(what="channels", most=16, source=MANUAL),),
    )  # fmt: skip


def rookery(mended):
    onward = ("usb-2",) if mended else ("usb-1", "usb-2")
    return Device(
        id="rookery", name="Rookery", kind="computer", octaves=4, delay_ms=5.3,
        ports=(Port(id="usb-1", name="USB 1", flow="both", link="usb"),
               Port(id="usb-2", name="USB 2", flow="both", link="usb"),
               Port(id="din-out", name="MIDI out", flow="out")),
        thrus=tuple(Thru(source=s, dest="din-out") for s in onward),
        parts=(
            part("great", "Organ, great", "OG", 6, 11, 36, 91, ports=("usb-1",)),
            part("swell", "Organ, swell", "OS", 7, 12, 36, 91),
        ),
        notes="The organ engine runs on the laptop.",
    )  # fmt: skip


def weir():
    inputs = tuple(Port(id=f"in-{n}", name=f"In {n}", flow="in") for n in range(1, 5))
    return Device(
        id="weir", name="Weir", kind="merger", delay_ms=0.5,
        ports=(*inputs, Port(id="out", name="Out", flow="out")),
        thrus=tuple(Thru(source=p.id, dest="out") for p in inputs),
    )  # fmt: skip


def echo_pool():
    return Device(
        id="echo-pool", name="Echo Pool", kind="looper", octaves=4,
        ports=(Port(id="din-in", name="MIDI in", flow="in"),),
        limits=(
            Reserved(purpose="patch up and down", controllers=(102, 103), source=MANUAL),
            CountLimit(what="assign-slots", most=6, taken=(1, 2), source=MANUAL),
        ),
    )  # fmt: skip


def scenes():
    names = ("Dusk", "The Keeper's Stair", "Herring Market", "Squall", "Wreck Bell", "First Light")
    return tuple(
        Scene(id=name.lower().replace(" ", "-").replace("'", ""), name=name,
              programs=(ProgramChoice(device="heron", program=n),))
        for n, name in enumerate(names)
    )  # fmt: skip


def build(name, mended):
    return Plan(
        name=name,
        devices=(heron(mended), wren(mended), weir(), dovecote(mended), echo_pool(),
                 rookery(mended)),
        cables=(
            Cable(source="heron:din-out", dest="weir:in-1"),
            Cable(source="heron:usb", dest="rookery:usb-1"),
            Cable(source="wren:usb", dest="rookery:usb-2"),
            Cable(source="rookery:din-out", dest="weir:in-2"),
            Cable(source="weir:out", dest="dovecote:din-in"),
            Cable(source="dovecote:din-thru", dest="echo-pool:din-in"),
        ),
        scenes=scenes(),
        notes="A touring shadow-puppet company, three players in the pit.",
    )  # fmt: skip


def as_found():
    return build("The Paper Lighthouse, as found", mended=False)


def ready():
    return build("The Paper Lighthouse", mended=True)
