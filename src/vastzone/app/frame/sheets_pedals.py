"""Facts of the jack behind a control: the pedal in it, how it is set, how that feels."""

from typing import Any, get_args

from vastzone.app.frame.sheet import Make, Press, Row, Sheet
from vastzone.app.frame.sheets_sweep import (
    MESSAGE_WORDS,
    louder_words,
    number_rows,
    read_ceiling,
    read_louder,
)
from vastzone.core.midi.wide import WIDE
from vastzone.core.plan import edits, lookup, pedals
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.pedal import Function, Pedal, PedalJack, PedalKind, served
from vastzone.core.plan.refs import ref_to
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Send
from vastzone.core.proof.words import listed
from vastzone.core.response.sweep import bits_of, end_values, settle_ms, steps

PEDAL = "pedal "
KINDS: tuple[PedalKind, ...] = get_args(PedalKind)
FUNCTIONS: tuple[Function, ...] = get_args(Function)


def jack_rows(plan: Plan, owner: Device, control: str) -> list[Row]:
    """The jack that a control hangs on; nothing where it has none."""
    jack = next((j for j in owner.jacks if j.control == control), None)
    if jack is None:
        return []
    ref = ref_to(owner.id, jack.id)
    plug = next((g for g in plan.pedal_plugs if g.jack == ref), None)
    choices: list[tuple[str, Any]] = [("nothing", None), *((p.name, p.id) for p in plan.pedals)]
    rows = [
        Row("Jack takes", "fixed", listed(jack.accepts)),
        Row(
            "Pedal in it",
            "choice",
            plug.pedal if plug else None,
            _plugger(plan, ref),
            choices=tuple(choices),
        ),
    ]
    pedal = next((p for p in plan.pedals if plug and p.id == plug.pedal), None)
    return rows + _set(ref, jack) + (_pedal_rows(pedal, jack) if pedal else [])


def _plugger(plan: Plan, ref: str) -> Any:
    def make(pedal: str | None) -> Edit:
        if pedal is not None:
            return pedals.plug_in(plan, pedal, ref)
        held = next((g.pedal for g in plan.pedal_plugs if g.jack == ref), "")
        return pedals.pull_out(held)

    return make


def _set(ref: str, jack: PedalJack) -> list[Row]:
    """What the jack can be told."""
    rows = []
    if len(jack.senses) > 1:
        rows.append(
            Row(
                "Expects at rest",
                "choice",
                jack.sense,
                lambda v: pedals.set_jack(ref, "Change sense", sense=v),
                choices=tuple((s, s) for s in jack.senses),
            )
        )
    if len(jack.wipers) > 1:
        rows.append(
            Row(
                "Wiper on",
                "choice",
                jack.wiper,
                lambda v: pedals.set_jack(ref, "Change wiper", wiper=v),
                choices=tuple((w, w) for w in jack.wipers),
            )
        )
    if jack.calibrated:
        for words, field in (
            ("Value at the heel", "heel"),
            ("Value at the toe", "toe"),
            ("Ignores moves up to", "hysteresis"),
        ):
            rows.append(Row(words, "number", getattr(jack, field), _calibrate(ref, field), 0, 127))
    return rows


def _calibrate(ref: str, field: str) -> Make:
    return lambda v: pedals.set_jack(ref, "Calibrate jack", **{field: v})


def _pedal_rows(pedal: Pedal, jack: PedalJack) -> list[Row]:
    found = served(pedal, jack)
    rest = {"continuous": f"wiper on the {pedal.wiper}"}.get(pedal.kind, f"{pedal.contact} at rest")
    works = {"works": "as wanted", "half": "half", "not": "not at all"}.get(found.works, "never")
    rows = [
        Row("It is", "fixed", f"{pedal.kind}, {rest}"),
        Row("Wanted for", "fixed", pedal.function),
        Row("It works", "fixed", works),
    ]
    return [*rows, Row("How it feels", "fixed", found.feel)] if found.feel else rows


def sweep_rows(send: Send, target: Target) -> list[Row]:
    """What a control makes of a target: both ends and the steps between, in its unit."""
    low, high = end_values(send, target)
    unit = f" {target.unit}" if target.unit else ""
    rows = [Row(f"{target.name} goes", "fixed", f"{low:.4g} to {high:.4g}{unit}")]
    if target.mode == "continuous":
        found = steps(send, target, bits_of(send))
        heard = ", heard one by one" if found.heard else ""
        rows.append(Row("In steps of", "fixed", f"{found.size:.3g}{unit} ({found.values}){heard}"))
    return rows


def pedal_sheet(plan: Plan, ref: str) -> Sheet:
    """A pedal: what it is, what it is wanted for, where it is plugged in."""
    ident = ref.removeprefix(PEDAL)
    pedal = lookup.find(plan.pedals, ident)
    if pedal is None:
        return Sheet("", "Pedal", "Pedal", (), remark="This pedal has been removed.")

    def setter(words: str, field: str) -> Make:
        return lambda v: pedals.set_pedal(ident, words, **{field: v})

    rows = [
        Row("Name", "text", pedal.name, setter("Rename pedal", "name")),
        Row(
            "Kind",
            "choice",
            pedal.kind,
            setter("Change kind", "kind"),
            choices=tuple((k, k) for k in KINDS),
        ),
        Row(
            "Wanted for",
            "choice",
            pedal.function,
            setter("Change function", "function"),
            choices=tuple((f, f) for f in FUNCTIONS),
        ),
        Row(
            "How much it matters",
            "choice",
            pedal.importance,
            setter("Change importance", "importance"),
            choices=tuple((i, i) for i in ("must", "wanted", "spare")),
        ),
    ]
    if pedal.kind in ("switch", "latching switch", "dual switch", "triple"):
        rows.append(
            Row(
                "At rest",
                "choice",
                pedal.contact,
                setter("Change contact", "contact"),
                choices=(("open", "open"), ("closed", "closed")),
            )
        )
    elif pedal.kind == "continuous":
        rows.append(
            Row(
                "Wiper on",
                "choice",
                pedal.wiper,
                setter("Change wiper", "wiper"),
                choices=(("tip", "tip"), ("ring", "ring")),
            )
        )
        rows.append(
            Row("Ohms", "number", pedal.ohms, setter("Change ohms", "ohms"), 100, 1_000_000)
        )
    elif pedal.kind == "voltage":
        rows += [
            Row("Lowest volts", "number", round(pedal.low), setter("Change volts", "low"), -48, 48),
            Row(
                "Highest volts",
                "number",
                round(pedal.high),
                setter("Change volts", "high"),
                -48,
                48,
            ),
        ]
    plug = next((g for g in plan.pedal_plugs if g.pedal == ident), None)
    jacks = [(f"{j.name} of {d.name}", ref_to(d.id, j.id)) for d in plan.devices for j in d.jacks]
    rows.append(
        Row(
            "Plugged into",
            "choice",
            plug.jack if plug else None,
            lambda v: pedals.plug_in(plan, ident, v) if v else pedals.pull_out(ident),
            choices=(("no jack", None), *jacks),
        )
    )
    if plug is not None:
        _, jack = pedals.pedal_jack(plan, plug.jack)
        rows += [r for r in _pedal_rows(pedal, jack) if r.label in ("It works", "How it feels")]
    presses = (Press("Remove", "trash-2", lambda: pedals.remove_pedal(ident)),)
    return Sheet(ref, pedal.name, "Pedal", tuple(rows), presses)


def target_sheet(owner: Device, target: Target) -> Sheet:
    """A parameter that is moved: its range in its unit, and how fast it follows."""

    def setter(words: str, field: str) -> Make:
        return lambda v: edits.set_thing(
            owner.id, "targets", target.id, "target", words, **{field: v}
        )

    rows = (
        Row("Name", "text", target.name, setter("Rename target", "name")),
        Row(
            "Goes by",
            "choice",
            target.answers,
            setter("Change number", "answers"),
            choices=tuple((MESSAGE_WORDS.get(k, k), k) for k in WIDE),
        ),
        *number_rows(
            target.answers, target.controller, target.page, str.capitalize, setter, "controller"
        ),
        Row("Unit", "text", target.unit, setter("Change unit", "unit")),
        Row("Lowest", "number", round(target.low), setter("Change range", "low"), -20_000, 20_000),
        Row(
            "Highest", "number", round(target.high), setter("Change range", "high"), -20_000, 20_000
        ),
        Row(
            "Answers as",
            "choice",
            target.mode,
            setter("Change mode", "mode"),
            choices=tuple((m, m) for m in ("continuous", "momentary", "toggle", "trigger")),
        ),
        Row(
            "Rises in, ms",
            "number",
            round(target.rise_ms),
            setter("Change rise", "rise_ms"),
            0,
            10_000,
        ),
        Row(
            "Falls in, ms",
            "number",
            round(target.fall_ms),
            setter("Change fall", "fall_ms"),
            0,
            10_000,
        ),
        Row(
            "When met elsewhere",
            "choice",
            target.takeover,
            setter("Change take-over", "takeover"),
            choices=(("jumps", "jump"), ("waits for pick-up", "pick-up")),
        ),
        Row(
            "Ceiling",
            "text",
            "" if target.ceiling is None else f"{target.ceiling:g}",
            lambda v: setter("Change ceiling", "ceiling")(read_ceiling(v)),
        ),
        Row(
            "Louder by dB at",
            "text",
            louder_words(target),
            lambda v: setter("Change loudness", "louder")(read_louder(v)),
        ),
    )
    remark = ""
    if target.rise_ms or target.fall_ms:
        remark = (
            f"It has settled {settle_ms(target.rise_ms):.0f} ms after a rise and "
            f"{settle_ms(target.fall_ms):.0f} ms after a fall."
        )
    return Sheet(
        ref_to(owner.id, target.id), target.name, f"Target of {owner.name}", rows, (), remark
    )
