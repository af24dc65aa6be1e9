"""A range that is not the one wished, told in a sentence with what would mend it."""

from collections.abc import Iterator

from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import can_be_limited
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.group import Group
from vastzone.core.proof.travel import moves_as_wished
from vastzone.core.response.sweep import bits_of
from vastzone.core.response.wished import Ends, ends_for, limits_for, reached, wished_ends
from vastzone.core.say import say


def travel(plan: Plan, group: Group) -> Remark:
    """A control that does not move a target from one end of a wish to the other."""
    device, control, _, ident = group.about
    owner, wish = lookup.device(plan, device), lookup.by_id(plan.wishes, ident, "wish")
    there, thing = read_ref(wish.moves or "")
    receiver = lookup.device(plan, there)
    target = lookup.by_id(receiver.targets, thing, "target")
    send = _wrong_send(group, owner, wish, target)
    name = lookup.by_id(owner.controls, control, "control").name
    went, wanted = reached(send, target), wished_ends(wish, target)
    return Remark(
        "range not as wished",
        (ref_to(device, control), wish.moves or ""),
        say(
            "{name} of {owner} moves {target} {words}; wished is {words_wanted}.",
            name=name,
            owner=owner.name,
            target=target.name,
            words=_words(went, target),
            words_wanted=_words(wanted, target),
        ),
        tuple(_mends(owner, name, send, receiver, target, wanted)),
    )


def _words(ends: Ends, target: Target) -> str:
    """Two ends in the unit of a target."""
    unit = f" {target.unit}" if target.unit else ""
    return say("from {first:.4g} to {last:.4g}{unit}", first=ends[0], last=ends[1], unit=unit)


def _wrong_send(group: Group, owner: Device, wish: Wish, target: Target) -> Send:
    """What a control sends that does not bring its target where it is wished."""
    control, bank = group.about[1], int(group.about[2])
    here: list[Send] = []
    for number in group.programs:
        for send in lookup.program(owner, number).sends:
            if (send.control, send.bank) == (control, bank) and send.message == target.answers:
                here.append(send)
    wrong = [send for send in here if not moves_as_wished(wish, send, target)]
    return (wrong or here)[0]


def _mends(
    owner: Device, name: str, send: Send, receiver: Device, target: Target, wanted: Ends
) -> Iterator[Edit]:
    """Other ends at the sender, other limits at the receiver."""
    low, high = ends_for(wanted, target, bits_of(send) == 14)

    def over_it(one: Send) -> Send:
        return changed(one, low=low, high=high) if one == send else one

    yield edit_sends(
        owner.id,
        say("Send {low:.4g} to {high:.4g} from {name}", low=low, high=high, name=name),
        over_it,
    )
    limits = limits_for(wanted, send, target)
    if limits is not None and can_be_limited(receiver, target):
        yield set_thing(
            receiver.id,
            "targets",
            target.id,
            "target",
            say(
                "Let {target} move {words} at {receiver}",
                target=target.name,
                words=_words(limits, target),
                receiver=receiver.name,
            ),
            least=limits[0],
            most=limits[1],
        )
