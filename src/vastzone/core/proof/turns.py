"""The rule about controls without ends and what reads their turns."""

from collections.abc import Iterator

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.pedals import moved
from vastzone.core.say import say


def turns_read_otherwise(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Turns told in one code and read in another: the target jumps instead of following."""
    for owner, send, ref, target, _ in moved(plan, compiled):
        code = send.turning if send.message == "controller" else "absolute"
        if code == target.turning or not target.sweeps:
            continue
        control = lookup.by_id(owner.controls, send.control, "control")
        read = say(
            "Let {target} read what {control} tells", target=target.name, control=control.name
        )
        device, thing = read_ref(ref)
        fixes = [set_thing(device, "targets", thing, "target", read, turning=code)]
        if control.endless and send.message == "controller":
            fixes.insert(0, _retold(owner, control, target))
        yield Remark(
            "turns read otherwise",
            (ref_to(owner.id, control.id), owner.id),
            say(
                "{control} of {owner} tells {told} and {target} reads {told_target}: it jumps "
                "instead of following.",
                control=control.name,
                owner=owner.name,
                told=_told(code),
                target=target.name,
                told_target=_told(target.turning),
            ),
            tuple(fixes),
        )


def _retold(owner: Device, control: Control, target: Target) -> Edit:
    """Everything that a control sends by controllers, told as its target reads it."""

    def change(send: Send) -> Send:
        mine = send.control == control.id and send.message == "controller"
        return changed(send, turning=target.turning) if mine else send

    return edit_sends(
        owner.id,
        say("Let {control} tell what {target} reads", control=control.name, target=target.name),
        change,
    )


def _told(code: str) -> str:
    return say("where it stands") if code == "absolute" else say("steps as {code}", code=code)
