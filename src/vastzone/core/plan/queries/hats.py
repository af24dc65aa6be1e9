"""Hi-hats that follow a pedal: which control a stroke sounds as while the pedal is where it is."""

from collections.abc import Mapping
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.controls import Control, Zoned
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import (
    SENSED,
    HatState,
    Plug,
    TriggerInput,
    TriggerPad,
    hat_state,
)
from vastzone.core.plan.queries.plugged import EMPTY, heard_zone, sockets_of
from vastzone.core.plan.refs import ref_to

Struck = Literal["bow", "edge"]
BY_STATE: dict[tuple[Struck, HatState], tuple[Zoned, ...]] = {
    ("bow", "open"): ("open", "bow", "head"),
    ("bow", "half"): ("half", "open", "bow", "head"),
    ("bow", "closed"): ("closed", "half", "open", "bow", "head"),
    ("edge", "open"): ("open edge", "edge", "rim"),
    ("edge", "half"): ("half edge", "open edge", "edge", "rim"),
    ("edge", "closed"): ("closed edge", "half edge", "open edge", "edge", "rim"),
}
"""The strokes that a hit on the bow or the edge may be told as, the first that a module has."""


class Hat(NamedTuple):
    """A hi-hat input with its pedal in it.

    ``struck`` says of each control ``device:control`` where one hits for it, ``heard`` what such a
    hit sounds as with the pedal in a state.  ``pedal``, ``chick`` and ``splash`` are controls, «»
    where the module has none.
    """

    ref: str
    jack: TriggerInput
    struck: Mapping[str, Struck]
    heard: Mapping[tuple[Struck, HatState], str]
    pedal: str = ""
    chick: str = ""
    splash: str = ""

    def state(self, position: float) -> HatState:
        """How it stands with the pedal at 0 (up) to 127 (down)."""
        return hat_state(self.jack, position)

    def sounds_as(self, control: str, position: float) -> str:
        """The control that a hit on this one sounds as; «» where there is none for it."""
        return self.heard.get((self.struck[control], self.state(position)), "")


def hats_of(plan: Plan, owner: Device) -> tuple[Hat, ...]:
    """The hats of a module whose pedal is plugged in."""
    if not any(jack.type == "hi-hat" for jack in owner.inputs) or not plan.plugs:
        return ()
    return _hats(owner.id, owner.controls, owner.inputs, plan.pads, plan.plugs)


@derived(64)
def _hats(
    owner: str,
    controls: tuple[Control, ...],
    inputs: tuple[TriggerInput, ...],
    pads: tuple[TriggerPad, ...],
    plugs: tuple[Plug, ...],
) -> tuple[Hat, ...]:
    held = sockets_of(pads, plugs)
    hats = []
    for jack in inputs:
        sockets = held.get(ref_to(owner, jack.id), EMPTY)
        if jack.type == "hi-hat" and sockets.pedal is not None:
            mine = {}
            for control in controls:
                if control.input == jack.id and control.zone is not None:
                    mine[control.zone] = ref_to(owner, control.id)
            hats.append(_hat(ref_to(owner, jack.id), jack, mine, sockets.pad))
    return tuple(hats)


def _hat(ref: str, jack: TriggerInput, mine: dict[Zoned, str], pad: TriggerPad | None) -> Hat:
    struck: dict[str, Struck] = {}
    heard: dict[tuple[Struck, HatState], str] = {}
    for zone, control in mine.items() if pad is not None else ():
        where = SENSED[zone]
        if where in ("bow", "head", "edge", "rim"):
            struck[control] = "edge" if where in ("edge", "rim") else "bow"
    for key, zones in BY_STATE.items():
        known = [mine[zone] for zone in zones if zone in mine]
        heard[key] = known[0] if known else ""
    if pad is not None and heard_zone(pad, jack, "edge") not in ("edge", "rim"):
        # What the pad or the input cannot tell apart is struck as the bow is.
        struck = dict.fromkeys(struck, "bow")
    return Hat(
        ref,
        jack,
        struck,
        heard,
        mine.get("pedal", ""),
        mine.get("foot chick", ""),
        mine.get("foot splash", ""),
    )
