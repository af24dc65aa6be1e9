"""Controllers renumbered to a memorable run, on both ends at once."""

from collections.abc import Iterator

from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import BOUND_NUMBERS, FIRST_MODE, HEARD_BY_PARTS
from vastzone.core.midi.wide import FINE, SHARED
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.limits import kept_controllers
from vastzone.core.plan.refs import owner_place, send_place, setting_in
from vastzone.core.say import say, say_many

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
                say(
                    "A run of {controllers} from {first} would end beyond 119: begin lower.",
                    controllers=say_many("{count} controller", "{count} controllers", len(moving)),
                    first=first,
                )
            )
        run[old] = new
        new += 1
    return run


def _moving(plan: Plan) -> list[int]:
    """The numbers that may move, as the controls lie."""
    wanted = {number for number in _answered(plan) if number not in KEPT} - _locked(plan)
    order: dict[int, None] = {}
    for device in plan.devices:
        for control in device.controls:
            order.update(dict.fromkeys(_sent_by(device, control.id)))
    moving = []
    for number in order:
        if number in wanted:
            moving.append(number)
    return moving


def _answered(plan: Plan) -> Iterator[int]:
    """The controllers that move a target which is not at home on that number."""
    for device in plan.devices:
        for target in device.targets:
            plain = target.answers == "controller" and target.role != target.controller
            if plain and target.controller is not None:
                yield target.controller


def _sent_by(device: Device, control: str) -> Iterator[int]:
    """The controllers that a control sends, program by program."""
    for program in device.programs:
        for send in program.sends:
            if send.control == control and send.message == "controller":
                yield send.number


def _locked(plan: Plan) -> set[int]:
    locked = set()
    for setting in plan.settings:
        if setting.hold == "locked":
            locked.add(setting.ref)
    numbers = set()
    for device in plan.devices:
        for target in device.targets:
            if (
                setting_in(owner_place(device.id, "target", target.id), "controller") in locked
                and target.controller
            ):
                numbers.add(target.controller)
        for program in device.programs:
            for send in program.sends:
                if setting_in(send_place(device.id, program.id, send.thing), "number") in locked:
                    numbers.add(send.number)
    return numbers


def _kept(plan: Plan, moving: list[int]) -> set[int]:
    """The numbers that the run must go round."""
    kept = set(KEPT)
    for device in plan.devices:
        kept |= kept_controllers(device)
        for kind, number in _in_use(device):
            if kind == "pair":
                kept |= {number, number + FINE}
            elif kind in SHARED and number not in moving:
                kept.add(number)
    return kept


def _in_use(device: Device) -> Iterator[tuple[str, int]]:
    """What a device sends and answers: the kind of message and its number."""
    for program in device.programs:
        for send in program.sends:
            yield send.message, send.number
    for target in device.targets:
        if target.controller is not None:
            yield target.answers, target.controller


def renumber(plan: Plan, first: int) -> Edit:
    """Every control and target by its number in the run.  Raises EditError as ``run_of``."""
    run = run_of(plan, first)

    def inside(device: Device) -> Device:
        programs = tuple(
            changed(
                program,
                sends=tuple(
                    changed(send, number=run.get(send.number, send.number))
                    if send.message == "controller"
                    else send
                    for send in program.sends
                ),
            )
            for program in device.programs
        )
        targets = tuple(
            changed(target, controller=run.get(target.controller, target.controller))
            if target.answers == "controller"
            and target.controller is not None
            and target.role != target.controller
            else target
            for target in device.targets
        )
        return changed(device, programs=programs, targets=targets)

    return Edit(
        say(
            "Renumber {controllers} from {first}",
            controllers=say_many("{count} controller", "{count} controllers", len(run)),
            first=first,
        ),
        lambda old: changed(old, devices=tuple(inside(d) for d in old.devices)),
    )
