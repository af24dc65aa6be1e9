"""What is packed, and in which order it is put up and tested: told once, ticked as it is done."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.audio import channel_words, jack_of
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.power.lengths import cable_list, cable_needs
from vastzone.core.power.sums import feeder_of
from vastzone.core.proof.at_desk import at_desk
from vastzone.core.say import say, say_many

Section = Literal[
    "Devices",
    "Pedals and pads",
    "Power",
    "Cables",
    "Adapters and boxes",
    "Spares",
    "Putting up",
    "Testing",
]
TO_PACK: tuple[Section, ...] = (
    "Devices",
    "Pedals and pads",
    "Power",
    "Cables",
    "Adapters and boxes",
    "Spares",
)


class PackLine(NamedTuple):
    """A thing to pack or a step to do; ``key`` is what its tick is kept under."""

    section: Section
    what: str
    more: str = ""
    kilograms: float = 0.0

    @property
    def key(self) -> str:
        """What its tick is kept under."""
        return f"{self.section}: {self.what}"


@derived(16)
def packing_lines(plan: Plan) -> tuple[PackLine, ...]:
    """Everything, section by section."""
    return (
        *_devices(plan),
        *_feet(plan),
        *_power(plan),
        *_cables(plan),
        *_adapters(plan),
        *_spares(plan),
        *_putting_up(plan),
        *_testing(plan),
    )


def weight(plan: Plan) -> float:
    """What all devices weigh, as far as that is known."""
    return sum(device.weight_kg for device in plan.devices)


def _devices(plan: Plan) -> Iterator[PackLine]:
    for device in plan.devices:
        told = []
        if device.size is not None:
            told.append(
                say(
                    "{wide:g} × {deep:g} cm", wide=device.size.wide / 10, deep=device.size.deep / 10
                )
            )
        if device.weight_kg:
            told.append(say("{weight_kg:g} kg", weight_kg=device.weight_kg))
        if device.weight_kg >= 25:
            told.append(say("two people"))
        yield PackLine("Devices", device.name, ", ".join(told), device.weight_kg)


def _feet(plan: Plan) -> Iterator[PackLine]:
    jacks = {plug.pedal: plug.jack for plug in plan.pedal_plugs}
    for pedal in plan.pedals:
        where = jacks.get(pedal.id)
        more = (
            say("for {device}", device=lookup.device(plan, device_of(where)).name)
            if where
            else say(pedal.kind)
        )
        yield PackLine("Pedals and pads", pedal.name, more)
    inputs = {plug.pad: plug.input for plug in plan.plugs}
    for pad in plan.pads:
        where = inputs.get(pad.id)
        more = (
            say("for {device}", device=lookup.device(plan, device_of(where)).name) if where else ""
        )
        yield PackLine("Pedals and pads", pad.name, more)


def _power(plan: Plan) -> Iterator[PackLine]:
    for source in plan.power:
        told = [say("{volts:g} V", volts=source.volts)] if source.volts else []
        if source.milliamps:
            told.append(say("{milliamps} mA", milliamps=source.milliamps))
        if source.kind == "battery":
            told.append(say("charged"))
        yield PackLine("Power", source.name, ", ".join((*told, say(source.kind))))
    for device in plan.devices:
        supply = device.supply
        if supply.kind == "adapter" and feeder_on_bricks(plan, device) is None:
            told = [
                say("{volts:g} V {milliamps} mA", volts=supply.volts, milliamps=supply.milliamps),
                say(supply.polarity),
                supply.plug,
            ]
            more = ", ".join(filter(None, told))
            yield PackLine("Power", say("Adapter of {device}", device=device.name), more)
        if supply.kind == "mains":
            yield PackLine("Power", say("Mains lead of {device}", device=device.name))
        if supply.kind == "battery":
            yield PackLine(
                "Power", say("Charger of {device}", device=device.name), say("and charge it before")
            )


def feeder_on_bricks(plan: Plan, device: Device) -> str | None:
    """The brick or battery that feeds a device instead of an adapter of its own."""
    source = feeder_of(plan, device.id)
    return source.name if source is not None and source.kind in ("brick", "battery") else None


def _cables(plan: Plan) -> Iterator[PackLine]:
    for kind, metres, count in cable_list(plan):
        length = say("length not known") if metres is None else say("{metres:g} m", metres=metres)
        yield PackLine("Cables", f"{count} × {kind}, {length}")


def _adapters(plan: Plan) -> Iterator[PackLine]:
    boxes = sum(cable.di for cable in plan.audio_cables)
    if boxes:
        yield PackLine("Adapters and boxes", say_many("{count} DI box", "{count} DI boxes", boxes))
    splitters = len({plug.input for plug in plan.plugs if _is_shared(plan, plug.input)})
    if splitters:
        yield PackLine(
            "Adapters and boxes",
            say_many("{count} splitter lead", "{count} splitter leads", splitters),
            say("tip and ring"),
        )
    crossed = sum(cable.crossed for cable in plan.cables)
    if crossed:
        yield PackLine(
            "Adapters and boxes",
            say_many("{count} crossed lead", "{count} crossed leads", crossed),
            say("type A to B"),
        )
    for source in plan.power:
        for ident in source.feeds:
            device = lookup.find(plan.devices, ident)
            if device is None or not (source.plug and device.supply.plug):
                continue
            if source.plug.lower() != device.supply.plug.lower():
                what = say(
                    "Plug {plug} to {device_supply}",
                    plug=source.plug,
                    device_supply=device.supply.plug,
                )
                yield PackLine("Adapters and boxes", what, say("for {device}", device=device.name))


def _is_shared(plan: Plan, socket: str) -> bool:
    return sum(plug.input == socket for plug in plan.plugs) > 1


def _spares(plan: Plan) -> Iterator[PackLine]:
    """One more of every kind of cable, as long as the longest; what a small stage cannot buy."""
    longest: dict[str, float] = {}
    for need in cable_needs(plan):
        longest[need.kind] = max(longest.get(need.kind, 0.0), need.metres or 0.0)
    for kind, metres in sorted(longest.items()):
        length = say(", {metres:g} m", metres=metres) if metres else ""
        yield PackLine("Spares", f"1 × {kind}{length}")
    for source in plan.power:
        if source.kind == "brick":
            yield PackLine(
                "Spares", say("A brick of {volts:g} V", volts=source.volts), say(source.polarity)
            )
    yield PackLine("Spares", say("The book of the plan on paper, and the file on a stick"))


def _putting_up(plan: Plan) -> Iterator[PackLine]:
    """From the floor to the hands, everything switched off and the desk muted to the end."""
    section: Section = "Putting up"
    yield PackLine(section, say("Desk muted, phantom power off, amplifiers off"))
    for device in plan.devices:
        spot = device.place
        where = (
            say("{x:g} m from the left, {y:g} m back", x=spot.x, y=spot.y)
            if spot is not None
            else ""
        )
        yield PackLine(section, say("{device} in its place", device=device.name), where)
    for source in plan.power:
        names = [_named(plan, ident) for ident in source.feeds]
        yield PackLine(
            section, say("{source} laid, switched off", source=source.name), ", ".join(names)
        )
    for line in plan.audio_cables:
        (one, output), (other, jack) = jack_of(plan, line.source), jack_of(plan, line.dest)
        side = "" if line.leg == "both" else f" {say(line.leg)}"
        box = say("through a DI box") if line.di else ""
        what = say(
            "{output}{side} of {one} into {jack} of {other}",
            output=output.name,
            side=side,
            one=one.name,
            jack=jack.name,
            other=other.name,
        )
        yield PackLine(section, what, box)
    for cable in plan.cables:
        (one, port), (other, far) = (
            lookup.endpoint(plan, cable.source),
            lookup.endpoint(plan, cable.dest),
        )
        yield PackLine(
            section,
            say(
                "{port} of {one} into {far} of {other}",
                port=port.name,
                one=one.name,
                far=far.name,
                other=other.name,
            ),
        )
    for plug in plan.pedal_plugs:
        pedal = lookup.find(plan.pedals, plug.pedal)
        owner = lookup.device(plan, device_of(plug.jack))
        jack_name = lookup.by_id(owner.jacks, plug.jack.partition(":")[2], "jack").name
        if pedal is not None:
            yield PackLine(
                section,
                say(
                    "{pedal} into {jack_name} of {owner}",
                    pedal=pedal.name,
                    jack_name=jack_name,
                    owner=owner.name,
                ),
            )
    yield PackLine(section, say("Leads taped down where people walk"))
    yield PackLine(section, say("Power on: what sounds, then what plays, the amplifiers last"))


def _named(plan: Plan, ident: str) -> str:
    device = lookup.find(plan.devices, ident)
    source = lookup.find(plan.power, ident)
    return device.name if device is not None else source.name if source is not None else ident


def _testing(plan: Plan) -> Iterator[PackLine]:
    """Turned down: each sound on its channel, device by device."""
    section: Section = "Testing"
    yield PackLine(section, say("Everything turned down before the first strike"))
    for one in at_desk(plan):
        if one.verdict == "nowhere":
            continue
        device = lookup.device(plan, one.device).name
        channel = channel_words(plan, one.channels)
        yield PackLine(
            section,
            say("{unit} of {device}", unit=one.unit.name, device=device),
            say("heard on {channel}", channel=channel),
        )


def is_ticked(plan: Plan, line: PackLine) -> bool:
    """Whether a line was ticked."""
    return any(tick.what == line.key for tick in plan.packed)
