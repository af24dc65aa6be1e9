"""Facts of the jack behind a control: the pedal in it, how it is set, how that feels."""

from collections.abc import Callable, Iterable, Iterator
from typing import Any, get_args

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Make, Press, Sheet
from vastzone.core.plan.edits import pedals
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.owners import jack_owner, target_owner
from vastzone.core.plan.fields.values import read_volts, volts_words
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.pedals import (
    FootWish,
    Pedal,
    PedalJack,
    PedalKind,
    served,
)
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.mixed import mixed_in
from vastzone.core.plan.refs import ref_to
from vastzone.core.response.sweep import bits_of, end_values, settle_ms, steps
from vastzone.core.say import say, say_each
from vastzone.core.text import listed

PEDAL = "pedal "
KINDS: tuple[PedalKind, ...] = get_args(PedalKind)
FUNCTIONS: tuple[Function, ...] = get_args(Function)
MATTERS = ("must", "wanted", "spare")
SWITCHED = ("switch", "latching switch", "dual switch", "triple")
Setter = Callable[[str, str], Make]


def jack_rows(plan: Plan, owner: Device, control: str) -> list[FactRow]:
    """The jack that a control hangs on; nothing where it has none."""
    jack = next((j for j in owner.jacks if j.control == control), None)
    if jack is None:
        return []
    ref = ref_to(owner.id, jack.id)
    plug = next((pedal_plug for pedal_plug in plan.pedal_plugs if pedal_plug.jack == ref), None)
    choices: list[tuple[str, Any]] = [("nothing", None), *((p.name, p.id) for p in plan.pedals)]
    rows = [
        FactRow(say("Jack takes"), "fixed", listed(say_each(jack.accepts))),
        FactRow(
            say("Pedal in it"),
            "choice",
            plug.pedal if plug else None,
            _plugger(plan, ref),
            choices=tuple(choices),
        ),
    ]
    pedal = next((p for p in plan.pedals if plug and p.id == plug.pedal), None)
    rows += field_rows(jack_owner(owner, jack))
    return rows + (_pedal_rows(pedal, jack, owner.id) if pedal else [])


def _plugger(plan: Plan, ref: str) -> Any:
    def make(pedal: str | None) -> Edit:
        if pedal is not None:
            return pedals.plug_in(plan, pedal, ref)
        plugged = next((plug.pedal for plug in plan.pedal_plugs if plug.jack == ref), "")
        return pedals.pull_out(plugged)

    return make


def _pedal_rows(pedal: Pedal, jack: PedalJack, device: str) -> list[FactRow]:
    service = served(pedal, jack, device)
    rest = {"continuous": say("wiper on the {wiper}", wiper=say(pedal.wiper))}.get(
        pedal.kind, say("{contact} at rest", contact=say(pedal.contact))
    )
    works = {
        "works": say("as wanted"),
        "half": say("half"),
        "not": say("not at all"),
    }.get(service.works, say("never"))
    rows = [
        FactRow(say("It is"), "fixed", f"{say(pedal.kind)}, {rest}"),
        FactRow(say("Wanted for"), "fixed", listed(say(wish.function) for wish in pedal.wishes)),
        FactRow(say("It works"), "fixed", works),
    ]
    return [*rows, FactRow(say("How it feels"), "fixed", service.feel)] if service.feel else rows


def sweep_rows(send: Send, target: Target) -> list[FactRow]:
    """What a control makes of a target: both ends and the steps between, in its unit."""
    low, high = end_values(send, target)
    unit = f" {target.unit}" if target.unit else ""
    rows = [
        FactRow(
            say("{target} goes", target=target.name),
            "fixed",
            say("{low:.4g} to {high:.4g}{unit}", low=low, high=high, unit=unit),
        )
    ]
    if target.mode == "continuous":
        coarseness = steps(send, target, bits_of(send))
        heard = say(", heard one by one") if coarseness.heard else ""
        rows.append(
            FactRow(
                say("In steps of"),
                "fixed",
                say(
                    "{size:.3g}{unit} ({values}){heard}",
                    size=coarseness.size,
                    unit=unit,
                    values=coarseness.values,
                    heard=heard,
                ),
            )
        )
    return rows


def pedal_sheet(plan: Plan, ref: str) -> Sheet:
    """A pedal: what it is, what it is wanted for, where it is plugged in."""
    ident = ref.removeprefix(PEDAL)
    pedal = lookup.find(plan.pedals, ident)
    if pedal is None:
        return Sheet("", say("Pedal"), say("Pedal"), (), remark=say("This pedal has been removed."))

    def setter(words: str, field: str) -> Make:
        return lambda v: pedals.set_pedal(ident, words, **{field: v})

    rows = [
        FactRow(say("Name"), "text", pedal.name, setter(say("Rename pedal"), "name")),
        _choice(say("Kind"), pedal.kind, setter(say("Change kind"), "kind"), KINDS),
        *_made(pedal, setter),
    ]
    for place in range(len(pedal.wishes)):
        rows += _wish_rows(plan, pedal, place)
    plug = next((pedal_plug for pedal_plug in plan.pedal_plugs if pedal_plug.pedal == ident), None)
    jacks = []
    for device in plan.devices:
        for j in device.jacks:
            jacks.append(
                (say("{j} of {device}", j=j.name, device=device.name), ref_to(device.id, j.id))
            )
    rows.append(
        FactRow(
            say("Plugged into"),
            "choice",
            plug.jack if plug else None,
            lambda v: pedals.plug_in(plan, ident, v) if v else pedals.pull_out(ident),
            choices=((say("no jack"), None), *jacks),
        )
    )
    if plug is not None:
        owner, jack = pedals.pedal_jack(plan, plug.jack)
        rows += _mixed_rows(plan, plug.jack, jack)
        for pedal_row in _pedal_rows(pedal, jack, owner.id):
            if pedal_row.label in (say("It works"), say("How it feels")):
                rows.append(pedal_row)
    return Sheet(ref, pedal.name, say("Pedal"), tuple(rows), tuple(_presses(pedal)))


def _mixed_rows(plan: Plan, ref: str, jack: PedalJack) -> list[FactRow]:
    """How far each source moves a jack that several share."""
    mixed = mixed_in(plan, ref, jack)
    if mixed is None:
        return []
    rows = []
    for source, reach in zip(mixed.sources, mixed.reaches, strict=True):
        end = mixed.rests + reach
        rows.append(
            FactRow(
                say("{source} alone", source=source.name),
                "fixed",
                say("{rests} to {end}", rests=mixed.rests, end=end),
            )
        )
    return [
        *rows,
        FactRow(
            say("All together"),
            "fixed",
            say("{rests} to {whole}", rests=mixed.rests, whole=mixed.whole),
        ),
    ]


def _presses(pedal: Pedal) -> Iterator[Press]:
    """Another wish, the last one dropped, the pedal removed."""
    another = FootWish(function="any", importance="wanted")
    yield Press(say("Want one thing more"), "plus", lambda: pedals.wish_also(pedal.id, another))
    last = len(pedal.wishes) - 1
    if last:
        words = say("Drop {function}", function=pedal.wishes[last].function)
        yield Press(words, "x", lambda: pedals.drop_wish(pedal.id, last))
    yield Press(say("Remove"), "trash-2", lambda: pedals.remove_pedal(pedal.id))


def _choice(label: str, chosen: str, make: Make, names: Iterable[str]) -> FactRow:
    """A row to choose from names that are called as they are."""
    return FactRow(
        label, "choice", chosen, make, choices=tuple((say(name), name) for name in names)
    )


def _wish_rows(plan: Plan, pedal: Pedal, place: int) -> list[FactRow]:
    """One wish of a pedal: for what, how much it matters, on which device, whether it stays."""
    wish = pedal.wishes[place]
    before = "" if len(pedal.wishes) == 1 else f"{place + 1}. "

    def setter(words: str, field: str) -> Make:
        return lambda v: pedals.set_wish(pedal.id, place, words, **{field: v})

    devices: list[tuple[str, Any]] = [(say("any device"), None)]
    devices += [(device.name, device.id) for device in plan.devices if device.jacks]
    matters = setter(say("Change importance"), "importance")
    function = setter(say("Change function"), "function")
    return [
        _choice(say("{before}Wanted for", before=before), wish.function, function, FUNCTIONS),
        _choice(
            say("{before}How much it matters", before=before), wish.importance, matters, MATTERS
        ),
        FactRow(
            f"{before}On",
            "choice",
            wish.device,
            setter(say("Change device"), "device"),
            choices=tuple(devices),
        ),
        FactRow(
            say("{before}Only by this pedal", before=before),
            "check",
            wish.tied,
            setter(say("Tie a wish"), "tied"),
        ),
    ]


def _made(pedal: Pedal, setter: Setter) -> list[FactRow]:
    """How a pedal is made inside."""
    if pedal.kind in SWITCHED:
        change = setter(say("Change contact"), "contact")
        return [_choice(say("At rest"), pedal.contact, change, ("open", "closed"))]
    if pedal.kind == "continuous":
        ohms = setter(say("Change ohms"), "ohms")
        return [
            _choice(
                say("Wiper on"), pedal.wiper, setter(say("Change wiper"), "wiper"), ("tip", "ring")
            ),
            FactRow(say("Ohms"), "number", pedal.ohms, ohms, 100, 1_000_000),
        ]
    if pedal.kind == "voltage":
        return [
            _volts(pedal, "low", say("Lowest, V")),
            _volts(pedal, "high", say("Highest, V")),
            FactRow(
                say("Through, ohms"),
                "number",
                pedal.source_ohms,
                setter(say("Change ohms"), "source_ohms"),
                100,
                1_000_000,
            ),
        ]
    return []


def _volts(pedal: Pedal, end: str, label: str) -> FactRow:
    """An end of the range of a source, with two decimals.  What is typed may raise EditError."""

    def make(words: str) -> Edit:
        return pedals.set_pedal(pedal.id, say("Change volts"), **{end: read_volts(words)})

    return FactRow(label, "text", volts_words(getattr(pedal, end)), make)


def target_sheet(owner: Device, target: Target) -> Sheet:
    """A parameter that is moved: its range in its unit, and how fast it follows."""

    rows = tuple(field_rows(target_owner(owner, target)))
    remark = ""
    if target.rise_ms or target.fall_ms:
        remark = say(
            "It has settled {settle_ms:.0f} ms after a rise and {settle_ms_target:.0f} ms after "
            "a fall.",
            settle_ms=settle_ms(target.rise_ms),
            settle_ms_target=settle_ms(target.fall_ms),
        )
    return Sheet(
        ref_to(owner.id, target.id),
        target.name,
        say("Target of {owner}", owner=owner.name),
        rows,
        (),
        remark,
    )
