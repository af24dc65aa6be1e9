"""What recorded strikes say that inputs of drum modules are to be set to, written into the plan."""

from typing import NamedTuple

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.plugs import change_input
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.plugged import in_input
from vastzone.core.plan.refs import ref_to
from vastzone.core.response.strikes import Settings
from vastzone.core.say import say


class Written(NamedTuple):
    """The edit that sets the inputs, those it sets, and pads that no input was found for."""

    edit: Edit
    inputs: tuple[str, ...]
    unknown: tuple[str, ...]


def into_inputs(plan: Plan, proposed: Settings) -> Written:
    """Set threshold, mask time and crosstalk of every input whose pad was struck.

    A recorded pad is found by the name of the pad that is plugged in, of a control, or of an input.
    Crosstalk is set in hundredths of the stronger hit.
    """
    known = _inputs_by_name(plan)
    thresholds: dict[str, float] = {}
    unknown = []
    for pad, threshold in proposed.thresholds.items():
        ref = known.get(pad.lower())
        if ref is None:
            unknown.append(pad)
        else:
            thresholds[ref] = min(threshold, thresholds.get(ref, threshold))

    def apply(old: Plan) -> Plan:
        for ref, threshold in thresholds.items():
            edit = change_input(
                ref,
                say("Set inputs by strikes"),
                threshold=int(threshold),
                mask_ms=float(proposed.mask_ms),
                crosstalk=min(127, round(100 * proposed.ratio)),
            )
            old = edit.change(old)
        return old

    return Written(Edit(say("Set inputs by strikes"), apply), tuple(thresholds), tuple(unknown))


def _inputs_by_name(plan: Plan) -> dict[str, str]:
    """Inputs by all names that a recording may call them by, in small letters."""
    known: dict[str, str] = {}
    for device in plan.devices:
        for jack in device.inputs:
            ref = ref_to(device.id, jack.id)
            known.setdefault(jack.name.lower(), ref)
            for control in device.controls:
                if control.input == jack.id:
                    known.setdefault(control.name.lower(), ref)
    for device in plan.devices:
        for jack in device.inputs:
            ref = ref_to(device.id, jack.id)
            for name in in_input(plan, ref).names:
                known[name.lower()] = ref
    return known
