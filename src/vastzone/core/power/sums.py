"""What each supply, USB port and battery has to give, with a quarter in reserve.

USB gives 500 mA a port (USB 2.0), 900 on USB 3; a hub without a supply of its own shares what one
port gives.  A battery lasts watt hours × 0.85 / watts: some is lost in conversion and age.
"""

from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.edits.cables import hosts, is_hub
from vastzone.core.plan.model.bodies import PowerSource
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of

RESERVE, USABLE = 1.25, 0.85
USB_PORT, USB_VOLTS, MAINS_VOLTS = 500, 5.0, 230.0


class Load(NamedTuple):
    """What hangs on a source or a port, and what that comes to, in milliamperes and watts."""

    fed: tuple[str, ...]
    milliamps: int
    watts: float
    unknown: tuple[str, ...] = ()


class SourceSum(NamedTuple):
    """A source with its load; ``hours`` is how long a battery lasts, None where that is unknown."""

    source: PowerSource
    load: Load
    hours: float | None

    @property
    def overloaded(self) -> bool:
        """Whether more is asked than it gives."""
        return bool(self.source.milliamps) and self.load.milliamps > self.source.milliamps

    @property
    def without_reserve(self) -> bool:
        """Whether less than a quarter is left over what is asked."""
        wanted = self.load.milliamps * RESERVE
        return bool(self.source.milliamps) and wanted > self.source.milliamps


class UsbSum(NamedTuple):
    """A USB port of a computer, or a hub as a whole, with what is powered from it."""

    host: str
    port: str
    limit: int
    load: Load
    own_supply: bool

    @property
    def overloaded(self) -> bool:
        """Whether more is asked than there is."""
        return self.load.milliamps > self.limit


def watts_of(device: Device) -> float:
    """What a device takes: as it says, or volts times amperes; 0 where nothing is known."""
    supply = device.supply
    if supply.watts:
        return supply.watts
    volts = USB_VOLTS if supply.kind == "usb" else supply.volts
    return abs(volts) * supply.milliamps / 1000


def milliamps_of(device: Device, volts: float) -> int:
    """What a device takes of a source of so many volts."""
    supply = device.supply
    if supply.milliamps:
        return supply.milliamps
    return round(supply.watts / abs(volts) * 1000) if supply.watts and volts else 0


@derived(16)
def source_sums(plan: Plan) -> tuple[SourceSum, ...]:
    """Every source of the plan with what hangs on it, through bricks and strips too."""
    return tuple(_sum_of(plan, source) for source in plan.power)


def _sum_of(plan: Plan, source: PowerSource) -> SourceSum:
    fed = _fed_by(plan, source, ())
    volts = source.volts or (MAINS_VOLTS if source.kind == "strip" else USB_VOLTS)
    milliamps, watts, unknown = 0, 0.0, []
    for device in fed:
        taken = watts_of(device)
        watts += taken
        if source.kind == "strip":
            milliamps += round(taken / volts * 1000)
        else:
            milliamps += milliamps_of(device, volts)
        if not taken and not device.supply.milliamps:
            unknown.append(device.id)
    load = Load(tuple(device.id for device in fed), milliamps, watts, tuple(unknown))
    return SourceSum(source, load, battery_hours(source.watt_hours, watts))


def battery_hours(watt_hours: float, watts: float) -> float | None:
    """How long a battery lasts: watt hours × 0.85 / watts; None where one is not known."""
    return watt_hours * USABLE / watts if watt_hours and watts else None


def _fed_by(plan: Plan, source: PowerSource, above: tuple[str, ...]) -> list[Device]:
    """The devices on a source, those on what hangs on it among them; a ring is gone round once."""
    fed: list[Device] = []
    for ident in source.feeds:
        device = lookup.find(plan.devices, ident)
        if device is not None:
            fed.append(device)
            continue
        other = lookup.find(plan.power, ident)
        if other is not None and other.id not in above:
            fed += _fed_by(plan, other, (*above, source.id))
    return fed


def feeder_of(plan: Plan, device: str) -> PowerSource | None:
    """What feeds a device or source; None where nothing does."""
    for source in plan.power:
        if device in source.feeds:
            return source
    return None


class OwnBattery(NamedTuple):
    """A device that runs on its own battery, and for how long."""

    device: Device
    hours: float | None


def own_batteries(plan: Plan) -> tuple[OwnBattery, ...]:
    """The devices on batteries of their own, what dies first before the others."""
    found = []
    for device in plan.devices:
        if device.supply.kind == "battery" and feeder_of(plan, device.id) is None:
            hours = battery_hours(device.supply.watt_hours, device.supply.watts)
            found.append(OwnBattery(device, hours))
    return tuple(sorted(found, key=lambda one: one.hours if one.hours is not None else 1e9))


@derived(16)
def usb_sums(plan: Plan) -> tuple[UsbSum, ...]:
    """Every USB port that powers something: of computers port by port, of hubs as a whole."""
    powered: dict[tuple[str, str], list[str]] = {}
    for cable in plan.cables:
        for end, other in ((cable.source, cable.dest), (cable.dest, cable.source)):
            host, port = lookup.endpoint(plan, end)
            guest = lookup.device(plan, device_of(other))
            if port.link == "usb" and hosts(host, port):
                key = (host.id, "" if is_hub(host) else port.id)
                powered.setdefault(key, []).append(guest.id)
    return tuple(_usb_sum(plan, host, port, guests) for (host, port), guests in powered.items())


def _usb_sum(plan: Plan, host: str, port: str, guests: list[str]) -> UsbSum:
    owner = lookup.device(plan, host)
    milliamps, fed = 0, []
    for ident in guests:
        for device in _usb_powered(plan, lookup.device(plan, ident), host):
            fed.append(device.id)
            milliamps += device.supply.milliamps
    watts = USB_VOLTS * milliamps / 1000
    load = Load(tuple(fed), milliamps, watts)
    own = owner.supply.kind in ("adapter", "mains")
    if port:
        here = lookup.by_id(owner.ports, port, "port")
        return UsbSum(host, port, here.milliamps or USB_PORT, load, own)
    return UsbSum(host, port, _hub_limit(plan, owner, own), load, own)


def _hub_limit(plan: Plan, hub: Device, own: bool) -> int:
    """What a hub can hand on: of its own supply, or of the port that it hangs on."""
    if own:
        ports = (len(hub.ports) - 1) * USB_PORT
        return min(ports, hub.supply.milliamps) if hub.supply.milliamps else ports
    above = USB_PORT
    for cable in plan.cables:
        for end, other in ((cable.source, cable.dest), (cable.dest, cable.source)):
            if device_of(end) == hub.id and end.endswith(f":{hub.ports[0].id}"):
                above = lookup.endpoint(plan, other)[1].milliamps or USB_PORT
    return max(0, above - (hub.supply.milliamps if hub.supply.kind == "usb" else 0))


def _usb_powered(plan: Plan, device: Device, above: str) -> list[Device]:
    """A device that is powered over USB, and what hangs on a hub without a supply of its own."""
    if is_hub(device):
        if device.supply.kind in ("adapter", "mains"):
            return []
        powered = []
        for cable in plan.cables:
            ends = (device_of(cable.source), device_of(cable.dest))
            if device.id in ends and above not in ends:
                other = ends[1] if ends[0] == device.id else ends[0]
                powered += _usb_powered(plan, lookup.device(plan, other), device.id)
        return powered
    takes = device.supply.kind == "usb" and feeder_of(plan, device.id) is None
    return [device] if takes else []
