"""How the numbers of some controls are to be chosen: their own school, or a run of their own."""

from collections.abc import Iterable

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.dials import open_dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import ControllerSchool, OwnSchool, Schools
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say


def choose_school(
    controls: Iterable[str], controllers: ControllerSchool | None, run_from: int = 20
) -> Edit:
    """Let the numbers of controls (``device:control``) be chosen in a way of their own.

    What they send now counts nothing then.  With None they are chosen as all others of the plan.
    """
    chosen = tuple(dict.fromkeys(controls))

    def apply(plan: Plan) -> Plan:
        schools = without(plan.schools, chosen)
        if controllers is not None and chosen:
            own = OwnSchool(of=chosen, controllers=controllers, run_from=run_from)
            schools = changed(schools, own=(*schools.own, own))
        return changed(plan, schools=schools)

    return Edit(say("Change how numbers are chosen"), apply)


def without(schools: Schools, controls: Iterable[str]) -> Schools:
    """Schools in which some controls have none of their own."""
    gone = set(controls)
    kept = []
    for own in schools.own:
        left = tuple(ref for ref in own.of if ref not in gone)
        if left:
            kept.append(changed(own, of=left))
    return changed(schools, own=tuple(kept))


def school_of(plan: Plan, control: str) -> OwnSchool | None:
    """The school that a control (``device:control``) has of its own."""
    for own in plan.schools.own:
        if control in own.of:
            return own
    return None


def controls_behind(plan: Plan, ref: str) -> tuple[str, ...]:
    """The controls (``device:control``) whose numbers a setting is about: of a send or a target."""
    dial = open_dials(plan).get(ref)
    if dial is None:
        return ()
    device = dial.owner.device.id
    if dial.owner.kind == "send":
        return (ref_to(device, dial.owner.thing.control),)
    if dial.owner.kind != "target":
        return ()
    moved = ref_to(device, dial.owner.thing.id)
    sources: dict[str, None] = {}
    for wish in plan.wishes:
        if wish.moves == moved:
            sources.update(dict.fromkeys(wish.sources))
    return tuple(sources)
