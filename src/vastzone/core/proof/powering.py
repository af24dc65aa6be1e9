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
from vastzone.core.say import say
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
                say(
                    "{source} has {outlets} outlets and feeds {count}.",
                    source=source.name,
                    outlets=source.outlets,
                    count=len(source.feeds),
                ),
                (set_source(source.id, say("More outlets"), outlets=len(source.feeds)),),
            )
        yield from _enough(plan, told)


def _first(told: SourceSum) -> str:
    """Where a finding about a source leads: the first device on it."""
    return told.load.fed[0] if told.load.fed else ""


def _suits(source: PowerSource, device: Device) -> Iterator[Remark]:
    """Polarity, voltage and plug of a source against a device."""
    supply = device.supply
    off = feed("", (device.id,))
    unplug = Edit(
        say("Take {device} off {source}", device=device.name, source=source.name), off.change
    )
    if source.polarity and supply.polarity and source.polarity != supply.polarity:
        yield Remark(
            "wrong polarity",
            (device.id,),
            say(
                "{source} is {polarity} and {device} wants {supply_polarity}: it does not "
                "start, or "
                "is destroyed.",
                source=source.name,
                polarity=source.polarity,
                device=device.name,
                supply_polarity=supply.polarity,
            ),
            (unplug,),
        )
    if source.volts and supply.volts and supply.kind == "adapter":
        apart = abs(abs(source.volts) - abs(supply.volts))
        if apart > VOLTS_OFF * abs(supply.volts):
            yield Remark(
                "wrong voltage",
                (device.id,),
                say(
                    "{source} gives {volts:g} V and {device} wants {supply_volts:g} V.",
                    source=source.name,
                    volts=source.volts,
                    device=device.name,
                    supply_volts=supply.volts,
                ),
                (unplug,),
            )
    if source.plug and supply.plug and source.plug.lower() != supply.plug.lower():
        yield Remark(
            "plug does not fit",
            (device.id,),
            say(
                "The plug of {source} is {plug} and {device} takes {supply_plug}: pack an adapter.",
                source=source.name,
                plug=source.plug,
                device=device.name,
                supply_plug=supply.plug,
            ),
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
        less = (
            say("less than they take") if told.overloaded else say("without a quarter in reserve")
        )
        yield Remark(
            rule,
            (_first(told),),
            say(
                "{source} gives {milliamps} mA, {less}: {names} take {load_milliamps} mA.",
                source=source.name,
                milliamps=source.milliamps,
                less=less,
                names=names,
                load_milliamps=load.milliamps,
            ),
            (set_source(source.id, say("One of {needed} mA", needed=needed), milliamps=needed),),
        )
    if source.kind == "battery" and told.hours is not None and told.hours < plan.hours:
        yield Remark(
            "battery ends early",
            (_first(told),),
            say(
                "{source} lasts {hours:.1f} h with {names}, and the evening {plan_hours:g}: charge "
                "it in the break, or take a second one.",
                source=source.name,
                hours=told.hours,
                names=names,
                plan_hours=plan.hours,
            ),
        )


def batteries(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Devices on batteries of their own that end before the evening, the first one named so."""
    short = [one for one in own_batteries(plan) if one.hours is not None]
    for place, one in enumerate(short):
        if one.hours is not None and one.hours < plan.hours:
            first = say(" It dies first.") if not place else ""
            yield Remark(
                "battery ends early",
                (one.device.id,),
                say(
                    "{device} lasts {hours:.1f} h on its battery, and the evening "
                    "{plan_hours:g}: charge "
                    "it before the gig.{first}",
                    device=one.device.name,
                    hours=one.hours,
                    plan_hours=plan.hours,
                    first=first,
                ),
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
                say(
                    "{device} is powered over USB and hangs on no computer, hub or charger.",
                    device=device.name,
                ),
            )


def _overloaded(plan: Plan, told: UsbSum) -> Remark:
    owner = lookup.device(plan, told.host)
    names = listed((lookup.device(plan, ident).name for ident in told.load.fed), 4)
    fixes: tuple[Edit, ...] = ()
    where = owner.name
    if is_hub(owner) and not told.own_supply:
        supply = Supply(kind="adapter", volts=5.0, milliamps=2000, polarity="centre plus")
        fixes = (
            set_device(
                owner.id, say("Give {owner} a supply of its own", owner=owner.name), supply=supply
            ),
        )
        where = say("{owner} without a supply of its own,", owner=owner.name)
    has = (
        say("{where} which gives {limit}", where=where, limit=told.limit)
        if fixes
        else say("{where}, which gives {limit}", where=where, limit=told.limit)
    )
    return Remark(
        "hub overloaded" if is_hub(owner) else "port overloaded",
        (owner.id, *told.load.fed),
        say(
            "{names} take {milliamps} mA of {has}.",
            names=names,
            milliamps=told.load.milliamps,
            has=has,
        ),
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
                say(
                    "{one} and {other} are both USB devices and cannot talk to each other: put a "
                    "computer or a host box between.",
                    one=one.name,
                    other=other.name,
                ),
            )
        if port.link == "bluetooth":
            radio.update((one.id, other.id))
        metres = between(one, other, cable.metres)
        longest = LONGEST.get(port.link)
        if metres is not None and longest is not None and metres > longest:
            yield Remark(
                "cable too long",
                (one.id, other.id),
                say(
                    "The cable from {one} to {other} would be {metres:g} m, and such a line "
                    "works to "
                    "{longest:g} m: put a repeater or an interface between.",
                    one=one.name,
                    other=other.name,
                    metres=metres,
                    longest=longest,
                ),
            )
    for ident, count in radio.items():
        if count > PERIPHERALS:
            name = lookup.device(plan, ident).name
            yield Remark(
                "too much radio",
                (ident,),
                say(
                    "{name} has to hold {count} Bluetooth devices, and {peripherals} are what "
                    "works "
                    "without drop-outs: use cables for some.",
                    name=name,
                    count=count,
                    peripherals=PERIPHERALS,
                ),
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
    label = say("A straight lead") if cable.crossed else say("A crossed lead, A to B")
    yield Remark(
        "small jacks crossed",
        (one[0].id, other[0].id),
        (
            say(
                "{one} sends MIDI by type {sent} and {other} hears type {heard}: with a crossed "
                "lead nothing arrives.",
                one=one[0].name,
                sent=types[0],
                other=other[0].name,
                heard=types[1],
            )
            if cable.crossed
            else say(
                "{one} sends MIDI by type {sent} and {other} hears type {heard}: with a "
                "straight "
                "lead nothing arrives.",
                one=one[0].name,
                sent=types[0],
                other=other[0].name,
                heard=types[1],
            )
        ),
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
            say(
                "{device} hang on no brick or strip.",
                device=listed((device.name for device in left), 4),
            ),
        )
