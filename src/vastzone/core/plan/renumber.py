"""Controllers renumbered to a memorable run, on both ends at once."""

from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import BOUND_NUMBERS, FIRST_MODE, HEARD_BY_PARTS
from vastzone.core.midi.wide import FINE, SHARED
from vastzone.core.plan import edits
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.limits import Reserved
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import send_place, setting_in, target_place
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Send

KEPT = BOUND_NUMBERS | HEARD_BY_PARTS
"""No numbers for targets of one’s own."""


def run_of(plan: Plan, first: int) -> dict[int, int]:
    """Each controller that moves a target, in the order of the controls, and its place in a run.

    Numbers that targets have by the standard stay, and so does what is locked.  Raises EditError
    where the run would leave 0–119.
    """
    moving = _moving(plan)
    kept = _kept(plan, moving)
    run: dict[int, int] = {}
    new = first
    for old in moving:
        while new in kept:
            new += 1
        if new >= FIRST_MODE:
            raise EditError(
                f"A run of {len(moving)} controllers from {first} would end beyond 119: begin "
                "lower."
            )
        run[old] = new
        new += 1
    return run


def _moving(plan: Plan) -> list[int]:
    """The numbers that may move, as the controls lie."""
    wanted = {
        t.controller
        for d in plan.devices
        for t in d.targets
        if t.controller is not None and t.answers == "controller" and t.role != t.controller
    }
    fixed = {n for n in wanted if n in KEPT} | _locked(plan)
    order = (
        s.number
        for d in plan.devices
        for c in d.controls
        for p in d.programs
        for s in p.sends
        if s.control == c.id and s.message == "controller"
    )
    return [n for n in dict.fromkeys(order) if n in wanted - fixed]


def _locked(plan: Plan) -> set[int]:
    locked = {s.ref for s in plan.settings if s.hold == "locked"}
    found = set()
    for device in plan.devices:
        for target in device.targets:
            if (
                setting_in(target_place(device.id, target.id), "controller") in locked
                and target.controller
            ):
                found.add(target.controller)
        for program in device.programs:
            for send in program.sends:
                if (
                    setting_in(send_place(device.id, program.number, send.thing), "number")
                    in locked
                ):
                    found.add(send.number)
    return found


def _kept(plan: Plan, moving: list[int]) -> set[int]:
    """The numbers that the run must go round."""
    kept = set(KEPT)
    for device in plan.devices:
        kept |= {n for lim in device.limits if isinstance(lim, Reserved) for n in lim.controllers}
        held: list[Send | Target] = [s for p in device.programs for s in p.sends]
        for thing in (*held, *device.targets):
            number = thing.number if isinstance(thing, Send) else thing.controller
            kind = thing.message if isinstance(thing, Send) else thing.answers
            if number is not None and kind in SHARED and (kind == "pair" or number not in moving):
                kept |= {number, number + FINE} if kind == "pair" else {number}
    return kept


def renumber(plan: Plan, first: int) -> Edit:
    """Every control and target by its number in the run.  Raises EditError as ``run_of``."""
    run = run_of(plan, first)

    def inside(device: Device) -> Device:
        programs = tuple(
            edits.changed(
                p,
                sends=tuple(
                    edits.changed(s, number=run.get(s.number, s.number))
                    if s.message == "controller"
                    else s
                    for s in p.sends
                ),
            )
            for p in device.programs
        )
        targets = tuple(
            edits.changed(t, controller=run.get(t.controller, t.controller))
            if t.answers == "controller" and t.controller is not None and t.role != t.controller
            else t
            for t in device.targets
        )
        return edits.changed(device, programs=programs, targets=targets)

    return Edit(
        f"Renumber {len(run)} controllers from {first}",
        lambda old: edits.changed(old, devices=tuple(inside(d) for d in old.devices)),
    )
