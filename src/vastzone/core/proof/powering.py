"""Rules of power and links: supplies, USB ports, batteries, small jacks, radio, long cables."""

from collections import Counter
from collections.abc import Iterator

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits.cables import hosts, is_hub, set_cable
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.power import feed, set_source
from vastzone.core.plan.model.bodies import PowerSource, Supply
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port
from vastzone.core.plan.queries import lookup
from vastzone.core.power.lengths import LONGEST, between
from vastzone.core.power.sums import (
    RESERVE,
    SourceSum,
    UsbSum,
    own_batteries,
    source_sums,
    usb_sums,
)
from vastzone.core.proof.finding import Remark
from vastzone.core.text import listed

PERIPHERALS = 4
"""How many Bluetooth devices one central holds without trouble."""
VOLTS_OFF = 0.05
"""The share by which a supply may differ from what a device wants."""


def supplies(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sources that do not suit what hangs on them, or give too little."""
    for told in source_sums(plan):
        source = told.source
        for ident in source.feeds:
            device = lookup.find(plan.devices, ident)
            if device is not None and source.kind in ("brick", "battery"):
                yield from _suits(source, device)
        if len(source.feeds) > source.outlets:
            yield Remark(
                "too few outlets",
                (_first(told),),
                f"{source.name} has {source.outlets} outlets and feeds {len(source.feeds)}.",
                (set_source(source.id, "More outlets", outlets=len(source.feeds)),),
            )
        yield from _enough(plan, told)


def _first(told: SourceSum) -> str:
    """Where a finding about a source leads: the first device on it."""
    return told.load.fed[0] if told.load.fed else ""


def _suits(source: PowerSource, device: Device) -> Iterator[Remark]:
    """Polarity, voltage and plug of a source against a device."""
    supply = device.supply
    off = feed("", (device.id,))
    unplug = Edit(f"Take {device.name} off {source.name}", off.change)
    if source.polarity and supply.polarity and source.polarity != supply.polarity:
        yield Remark(
            "wrong polarity",
            (device.id,),
            f"{source.name} is {source.polarity} and {device.name} wants {supply.polarity}: it "
            "does not start, or is destroyed.",
            (unplug,),
        )
    if source.volts and supply.volts and supply.kind == "adapter":
        apart = abs(abs(source.volts) - abs(supply.volts))
        if apart > VOLTS_OFF * abs(supply.volts):
            yield Remark(
                "wrong voltage",
                (device.id,),
                f"{source.name} gives {source.volts:g} V and {device.name} wants "
                f"{supply.volts:g} V.",
                (unplug,),
            )
    if source.plug and supply.plug and source.plug.lower() != supply.plug.lower():
        yield Remark(
            "plug does not fit",
            (device.id,),
            f"The plug of {source.name} is {source.plug} and {device.name} takes {supply.plug}: "
            "pack an adapter.",
        )


def _enough(plan: Plan, told: SourceSum) -> Iterator[Remark]:
    source, load = told.source, told.load
    names = listed((lookup.device(plan, ident).name for ident in load.fed), 4)
    needed = round(load.milliamps * RESERVE)
    if told.overloaded or told.without_reserve:
        usb = source.kind in ("hub", "charger")
        rule = "supply without reserve"
        if told.overloaded:
            rule = "hub overloaded" if usb else "supply overloaded"
        less = "less than they take" if told.overloaded else "without a quarter in reserve"
        yield Remark(
            rule,
            (_first(told),),
            f"{source.name} gives {source.milliamps} mA, {less}: {names} take {load.milliamps} mA.",
            (set_source(source.id, f"One of {needed} mA", milliamps=needed),),
        )
    if source.kind == "battery" and told.hours is not None and told.hours < plan.hours:
        yield Remark(
            "battery ends early",
            (_first(told),),
            f"{source.name} lasts {told.hours:.1f} h with {names}, and the evening {plan.hours:g}: "
            "charge it in the break, or take a second one.",
        )


def batteries(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Devices on batteries of their own that end before the evening, the first one named so."""
    short = [one for one in own_batteries(plan) if one.hours is not None]
    for place, one in enumerate(short):
        if one.hours is not None and one.hours < plan.hours:
            first = " It dies first." if not place else ""
            yield Remark(
                "battery ends early",
                (one.device.id,),
                f"{one.device.name} lasts {one.hours:.1f} h on its battery, and the evening "
                f"{plan.hours:g}: charge it before the gig.{first}",
            )


def usb_power(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """USB ports and hubs that have to give more than they can; USB powered things without one."""
    fed: set[str] = set()
    for told in usb_sums(plan):
        fed |= set(told.load.fed)
        if told.overloaded:
            yield _overloaded(plan, told)
    for source in plan.power:
        fed |= set(source.feeds)
    for device in plan.devices:
        if device.supply.kind == "usb" and device.id not in fed:
            yield Remark(
                "USB without a host",
                (device.id,),
                f"{device.name} is powered over USB and hangs on no computer, hub or charger.",
            )


def _overloaded(plan: Plan, told: UsbSum) -> Remark:
    owner = lookup.device(plan, told.host)
    names = listed((lookup.device(plan, ident).name for ident in told.load.fed), 4)
    fixes: tuple[Edit, ...] = ()
    where = owner.name
    if is_hub(owner) and not told.own_supply:
        supply = Supply(kind="adapter", volts=5.0, milliamps=2000, polarity="centre plus")
        fixes = (set_device(owner.id, f"Give {owner.name} a supply of its own", supply=supply),)
        where = f"{owner.name} without a supply of its own,"
    has = f"{where} which gives {told.limit}" if fixes else f"{where}, which gives {told.limit}"
    return Remark(
        "hub overloaded" if is_hub(owner) else "port overloaded",
        (owner.id, *told.load.fed),
        f"{names} take {told.load.milliamps} mA of {has}.",
        fixes,
    )


def links(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Small jacks wired otherwise, USB without a computer, too much radio, cables too long."""
    radio: Counter[str] = Counter()
    for cable in plan.cables:
        (one, port), (other, far) = (
            lookup.endpoint(plan, cable.source),
            lookup.endpoint(plan, cable.dest),
        )
        yield from _small_jacks(cable, (one, port), (other, far))
        if port.link == "usb" and not (hosts(one, port) or hosts(other, far)):
            yield Remark(
                "USB without a host",
                (one.id, other.id),
                f"{one.name} and {other.name} are both USB devices and cannot talk to each other: "
                "put a computer or a host box between.",
            )
        if port.link == "bluetooth":
            radio.update((one.id, other.id))
        metres = between(one, other, cable.metres)
        longest = LONGEST.get(port.link)
        if metres is not None and longest is not None and metres > longest:
            yield Remark(
                "cable too long",
                (one.id, other.id),
                f"The cable from {one.name} to {other.name} would be {metres:g} m, and such a line "
                f"works to {longest:g} m: put a repeater or an interface between.",
            )
    for ident, count in radio.items():
        if count > PERIPHERALS:
            name = lookup.device(plan, ident).name
            yield Remark(
                "too much radio",
                (ident,),
                f"{name} has to hold {count} Bluetooth devices, and {PERIPHERALS} are what works "
                "without drop-outs: use cables for some.",
            )


def _small_jacks(
    cable: Cable, one: tuple[Device, Port], other: tuple[Device, Port]
) -> Iterator[Remark]:
    """Type A into type B is silent; a crossed lead between equal ones as well."""
    types = (one[1].trs, other[1].trs)
    if "" in types:
        return
    if (types[0] != types[1]) is cable.crossed:
        return
    label = "A straight lead" if cable.crossed else "A crossed lead, A to B"
    yield Remark(
        "small jacks crossed",
        (one[0].id, other[0].id),
        f"{one[0].name} sends MIDI by type {types[0]} and {other[0].name} hears type {types[1]}: "
        f"with {'a crossed' if cable.crossed else 'a straight'} lead nothing arrives.",
        (set_cable(cable, label, crossed=not cable.crossed),),
    )


def unfed(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Where bricks and strips are planned: what needs one and has none."""
    if not plan.power:
        return
    fed = {ident for source in plan.power for ident in source.feeds}
    left = []
    for device in plan.devices:
        if device.supply.kind in ("mains", "adapter") and device.id not in fed:
            left.append(device)
    if left:
        yield Remark(
            "not fed",
            tuple(device.id for device in left),
            f"{listed((device.name for device in left), 4)} hang on no brick or strip.",
        )
