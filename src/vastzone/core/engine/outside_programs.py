"""Everything of a device but its programs: what decides, with a program, what happens in it."""

from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.console_contacts import Reports, reports
from vastzone.core.plan.model.controls import Control, Keybed
from vastzone.core.plan.model.organ import Coupler
from vastzone.core.plan.model.parts import Kit, Part, Target
from vastzone.core.plan.model.plan import Device, Plan, Port
from vastzone.core.plan.queries.functions import Sole, sole_of
from vastzone.core.plan.queries.functions import latching as latching_in
from vastzone.core.plan.queries.hats import Hat, hats_of
from vastzone.core.plan.queries.organ import couplers_on
from vastzone.core.plan.queries.plugged import Strokes, strokes_as
from vastzone.core.plan.queries.schools_of_wiring import Offsets, offsets_of


class Shell(NamedTuple):
    """A device without its programs.

    ``reports`` is what its wiring makes of each contact, ``strokes`` what the pads in its inputs
    make of its controls, ``hats`` those that follow a pedal, ``offsets`` the semitones by which
    keyboards come out too high that are read otherwise than they are wired, ``sole`` the controls
    that can do one thing only, ``latching`` those that stay down until they are pressed again,
    ``couplers`` those that are on.
    """

    id: str
    ports: tuple[Port, ...]
    local: bool
    delay_ms: float
    keybeds: tuple[Keybed, ...]
    controls: tuple[Control, ...]
    parts: tuple[Part, ...]
    kits: tuple[Kit, ...]
    targets: tuple[Target, ...]
    reports: Reports
    strokes: Strokes
    hats: tuple[Hat, ...] = ()
    offsets: Offsets = ()
    sole: Sole = ()
    latching: frozenset[str] = frozenset()
    couplers: tuple[Coupler, ...] = ()


def shell_of(plan: Plan, device: Device) -> Shell:
    """The shell of a device; the same value while nothing but its programs changed."""
    return _shell(
        device.id,
        device.ports,
        device.local,
        device.delay_ms,
        device.keybeds,
        device.controls,
        device.parts,
        device.kits,
        device.targets,
        reports(device),
        strokes_as(plan, device),
        hats_of(plan, device),
        offsets_of(device),
        sole_of(device),
        latching_in(plan, device),
        couplers_on(device),
    )


@derived(1024, whole=True)
def _shell(
    ident: str,
    ports: tuple[Port, ...],
    local: bool,
    delay_ms: float,
    keybeds: tuple[Keybed, ...],
    controls: tuple[Control, ...],
    parts: tuple[Part, ...],
    kits: tuple[Kit, ...],
    targets: tuple[Target, ...],
    reported: Reports,
    strokes: Strokes,
    hats: tuple[Hat, ...],
    offsets: Offsets,
    sole: Sole,
    latching: frozenset[str],
    couplers: tuple[Coupler, ...],
) -> Shell:
    return Shell(
        ident,
        ports,
        local,
        delay_ms,
        keybeds,
        controls,
        parts,
        kits,
        targets,
        reported,
        strokes,
        hats,
        offsets,
        sole,
        latching,
        couplers,
    )
