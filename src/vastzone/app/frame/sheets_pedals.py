"""Facts of the jack behind a control: the pedal in it, how it is set, how that feels."""

from typing import Any

from vastzone.app.frame.sheet import Row
from vastzone.core.plan import pedals
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.pedal import Pedal, PedalJack, served
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Send
from vastzone.core.proof.words import listed
from vastzone.core.response.sweep import end_values, steps


def jack_rows(plan: Plan, owner: Device, control: str) -> list[Row]:
    """The jack that a control hangs on; nothing where it has none."""
    jack = next((j for j in owner.jacks if j.control == control), None)
    if jack is None:
        return []
    ref = f"{owner.id}:{jack.id}"
    plug = next((g for g in plan.pedal_plugs if g.jack == ref), None)
    choices: list[tuple[str, Any]] = [("nothing", None), *((p.name, p.id) for p in plan.pedals)]
    rows = [
        Row("Jack takes", "fixed", listed(jack.accepts)),
        Row("Pedal in it", "choice", plug.pedal if plug else None, _plugger(plan, ref),
            choices=tuple(choices)),
    ]  # fmt: skip
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
        rows.append(Row("Expects at rest", "choice", jack.sense,
                        lambda v: pedals.set_jack(ref, "Change sense", sense=v),
                        choices=tuple((s, s) for s in jack.senses)))  # fmt: skip
    if len(jack.wipers) > 1:
        rows.append(Row("Wiper on", "choice", jack.wiper,
                        lambda v: pedals.set_jack(ref, "Change wiper", wiper=v),
                        choices=tuple((w, w) for w in jack.wipers)))  # fmt: skip
    return rows


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
        found = steps(send, target)
        heard = ", heard one by one" if found.heard else ""
        rows.append(Row("In steps of", "fixed", f"{found.size:.3g}{unit} ({found.values}){heard}"))
    return rows
