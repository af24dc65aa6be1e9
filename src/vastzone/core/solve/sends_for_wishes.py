"""What controls send for their wishes: in layers where one message cannot carry them all."""

from vastzone.core.plan.fields.dials import owner_dials, scope_of
from vastzone.core.plan.fields.owners import send_owner
from vastzone.core.plan.fields.send_fields import MESSAGE_WORDS
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.values import Mode
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import messages_of
from vastzone.core.plan.queries.limits import most
from vastzone.core.plan.queries.plugged import strokes_as
from vastzone.core.plan.refs import ref_to, send_place
from vastzone.core.proof.modes import pair_remark
from vastzone.core.proof.travel import moves_as_wished
from vastzone.core.say import say, say_many
from vastzone.core.solve.assignment import assigned
from vastzone.core.solve.holds import Holds
from vastzone.core.solve.loads import ControlInProgram, Load, loads_of, sent_ends
from vastzone.core.solve.shaped import Binding, Obstacle
from vastzone.core.text import ALL, listed

SET = ("message", "channel", "mode", "low", "high", "vel_low", "vel_high")
"""The fields that are set here; numbers and channels are worked out later."""


def on_sends(
    plan: Plan,
    owner: Device,
    program: Program,
    wishes: tuple[Wish, ...],
    obstacles: list[Obstacle],
    holds: Holds,
    on_zones: list[Binding],
) -> tuple[Program, list[Binding]]:
    """A send for each wish of a control, in layers where one cannot carry them all.

    ``on_zones`` are the wishes that the zones of the program carry; ``obstacles`` gets what cannot
    be sent.
    """
    zones = _played_by_zones(on_zones)
    sends: dict[tuple[str, int, int], Send] = {}
    for send in program.sends:
        sends[send.control, send.bank, send.layer] = send
    bindings: list[Binding] = []
    for control in owner.controls:
        mine = _of_control(wishes, ref_to(owner.id, control.id))
        for bank in dict.fromkeys(wish.bank for wish in mine):
            here = ControlInProgram(plan, owner, program, control, bank, holds, zones)
            for send, carried in _layers(here, [w for w in mine if w.bank == bank], obstacles):
                sends[control.id, bank, send.layer] = send
                for wish in carried:
                    bound = Binding(wish, here.ref, owner.id, program.number, send.thing, False)
                    bindings.append(bound)
    return changed(program, sends=tuple(map(_on_a_channel, sends.values()))), bindings


def _played_by_zones(bindings: list[Binding]) -> dict[str, frozenset[str]]:
    """The parts that each zone is wished to play."""
    played: dict[str, frozenset[str]] = {}
    for binding in bindings:
        part = binding.wish.plays or ""
        played[binding.thing] = played.get(binding.thing, frozenset()) | {part}
    return played


def _of_control(wishes: tuple[Wish, ...], ref: str) -> list[Wish]:
    """The wishes of a control."""
    return [wish for wish in wishes if ref in wish.sources]


def _on_a_channel(send: Send) -> Send:
    """A note has to go on some channel: it cannot follow the zones."""
    return changed(send, channel=1) if send.message == "note" and send.channel is None else send


Layer = tuple[Send, tuple[Wish, ...]]


def _layers(here: ControlInProgram, wishes: list[Wish], obstacles: list[Obstacle]) -> list[Layer]:
    """What a control sends in each layer, with the wishes that this carries."""
    loads = loads_of(here, wishes)
    hindrance = _not_struck(here, wishes) or _contradiction(here, loads) or _too_many(here, loads)
    if hindrance is not None:
        obstacles.append(hindrance)
    there = here.sends
    layers: list[Layer] = []
    for load, old in zip(loads, _likest(here, loads), strict=True):
        taken = {send.layer for send, _ in layers} | {send.layer for send in there}
        new = _carrying(here, old, load, _free_layer(taken))
        layers.append((new, load.wishes))
        obstacle = _obstacle(here, old, new, load)
        if obstacle is not None:
            obstacles.append(obstacle)
    used = {send.layer for send, _ in layers}
    for send in there:
        # What else the control would sound is not wished.
        place = send_place(here.owner.id, here.program.id, send.thing)
        idle = send.layer not in used and send.message == "note"
        if idle and not here.holds.keeps(here.owner, "send", place, "message"):
            layers.append((changed(send, message="none"), ()))
    return layers


def _not_struck(here: ControlInProgram, wishes: list[Wish]) -> Obstacle | None:
    """A control of a module whose input has no pad that would strike it."""
    if here.control.id not in dict(strokes_as(here.plan, here.owner)):
        return None
    wished = listed(dict.fromkeys(wish.name for wish in wishes[:4]), ALL)
    sentence = say(
        "{control} of {owner} is not struck by what is plugged in there: plug in a pad that "
        "has it for {wished}.",
        control=here.control.name,
        owner=here.owner.name,
        wished=wished,
    )
    return Obstacle(tuple(wish.id for wish in wishes), (), sentence)


def _contradiction(here: ControlInProgram, loads: list[Load]) -> Obstacle | None:
    """Two wishes that want one target over different ranges from one control."""
    moved: dict[str, Wish] = {}
    for load in loads:
        for wish in load.wishes:
            before = moved.setdefault(wish.moves or wish.id, wish)
            if wish.moves and before not in load.wishes:
                sentence = say(
                    "{before} and {wish} want different ranges of one target from {control} of "
                    "{owner}: "
                    "leave one out.",
                    before=before.name,
                    wish=wish.name,
                    control=here.control.name,
                    owner=here.owner.name,
                )
                return Obstacle((before.id, wish.id), (), sentence)
    return None


def _too_many(here: ControlInProgram, loads: list[Load]) -> Obstacle | None:
    """More messages than a control can send at once."""
    limit = most(here.owner, "messages")
    if limit is None or len(loads) <= limit.most:
        return None
    wishes = [wish for load in loads for wish in load.wishes]
    named = listed(dict.fromkeys(wish.name for wish in wishes))
    sentence = say(
        "{control} of {owner} can send {messages} at once, and {named} need {count}: let "
        "receivers have the ranges, or leave one out.",
        control=here.control.name,
        owner=here.owner.name,
        messages=say_many("{count} message", "{count} messages", limit.most),
        named=named,
        count=len(loads),
    )
    return Obstacle(tuple(dict.fromkeys(wish.id for wish in wishes)), (), sentence)


def _free_layer(taken: set[int]) -> int:
    return next(layer for layer in range(len(taken) + 1) if layer not in taken)


def _likest(here: ControlInProgram, loads: list[Load]) -> list[Send | None]:
    """What is sent already that each load takes over, so that the fewest fields change."""
    there = here.sends
    if not there:
        return [None] * len(loads)
    worth = []
    for row, load in enumerate(loads):
        values = []
        for column, send in enumerate(there):
            new = _carrying(here, send, load, send.layer)
            kept = _kept_fields(here, send, new)
            count = len(_changed_fields(send, new)) + 100 * len(kept)
            # The slight slope decides between equals, so that the answer is always the same.
            values.append(-count - 1e-6 * abs(row - column))
        # A layer of its own where there are not enough.
        worth.append([*values, *(-1e6 - number for number in range(len(loads)))])
    chosen = []
    for column in assigned(worth):
        chosen.append(there[column] if column < len(there) else None)
    return chosen


def _changed_fields(old: Send, new: Send) -> list[str]:
    return [field for field in SET if getattr(old, field) != getattr(new, field)]


def _kept_fields(here: ControlInProgram, old: Send, new: Send) -> list[str]:
    """The fields that would change and must stay as they are."""
    place = send_place(here.owner.id, here.program.id, old.thing)
    kept = []
    for field in (*_changed_fields(old, new), *_gone_fields(here, old, new)):
        if here.holds.keeps(here.owner, "send", place, field):
            kept.append(field)
    return kept


def _gone_fields(here: ControlInProgram, old: Send, new: Send) -> list[str]:
    """What there would be nothing to set of any more: a bend has no number."""
    if old.message == new.message:
        return []
    return sorted(_fields_of(here, old) - _fields_of(here, new))


def _fields_of(here: ControlInProgram, send: Send) -> frozenset[str]:
    """What can be set of what a control sends."""
    owner = send_owner(here.owner, here.program, send, here.control)
    return frozenset(dial.field.id for dial in owner_dials(owner))


def _carrying(here: ControlInProgram, old: Send | None, load: Load, layer: int) -> Send:
    """What a control sends in one layer so that it can carry a load."""
    first = load.first
    target = here.target(first)
    message = "note" if target is None else target.answers
    send = old or Send(control=here.control.id, bank=here.bank, layer=layer, message="none")
    if send.message == "none":
        send = changed(send, channel=_channel_beside(here) or send.channel)
    mode = _mode(here, send.mode, load.wishes)
    if target is None:
        return changed(
            send,
            message=message,
            mode=mode,
            channel=send.channel or _channel_of(here, first),
            vel_low=load.soft,
            vel_high=load.loud,
        )
    channel = send.channel
    if channel is None and not all(_may_follow(here, wish) for wish in load.wishes):
        channel = _channel_of(here, first)
    send = changed(send, message=message, mode=mode, channel=channel, page=target.page)
    return _over_its_range(here, send, load.wishes)


def _channel_beside(here: ControlInProgram) -> int | None:
    """The channel of other controls, in a device where it is one for some together."""
    if scope_of(here.owner, "send-channel") in ("control", "fixed"):
        return None
    for send in here.program.sends:
        if send.channel is not None:
            return send.channel
    return None


def _over_its_range(here: ControlInProgram, send: Send, wishes: tuple[Wish, ...]) -> Send:
    """A send with ends that bring its targets where they are wished; as it is where it does."""
    for wish in wishes:
        target = here.target(wish)
        if target is None or not target.sweeps or moves_as_wished(wish, send, target):
            continue
        low, high = sent_ends(wish, target, send.low > send.high)
        send = changed(send, low=low, high=high)
    return send


def _mode(here: ControlInProgram, now: Mode, wishes: tuple[Wish, ...]) -> Mode:
    """The mode, momentary where it does not work with all that it reaches."""
    for wish in wishes:
        device, thing = here.party(wish)
        target = here.target(wish)
        if target is not None and target.answers == "program":
            continue  # a program is selected at every press, whatever the mode
        receiver = lookup.part(device, thing).trigger if target is None else target.mode
        if pair_remark(now, receiver):
            return "momentary"
    return now


def _channel_of(here: ControlInProgram, wish: Wish) -> int:
    """The channel on which what a wish ends at listens now; the lowest where that is any."""
    device, thing = here.party(wish)
    target = here.target(wish)
    if target is not None and target.part is None:
        return target.channel or 1
    part = lookup.part(device, thing if target is None else target.part or "")
    return part.channel or 1


def _may_follow(here: ControlInProgram, wish: Wish) -> bool:
    """Whether a control that sends on the channel of the zones reaches a target just once."""
    target = here.target(wish)
    if target is None:
        return False
    zones = [zone for zone in here.program.zones if zone.sends]
    if len(zones) == 1 and target.part is None:
        return target.channel is None
    device, _ = here.party(wish)
    part = None if target.part is None else lookup.part(device, target.part)
    if part is None or not zones:
        return False
    # Zones that all play the part are on one channel, unless it hears them all.
    played = ref_to(device.id, part.id)
    all_play = all(played in here.zones.get(zone.id, ()) for zone in zones)
    return all_play and (part.channel is not None or len(zones) == 1)


def _obstacle(here: ControlInProgram, old: Send | None, new: Send, load: Load) -> Obstacle | None:
    """Why a control cannot send what carries some wishes."""
    group = load.wishes
    wishes = tuple(wish.id for wish in group)
    name = say("{control} of {owner}", control=here.control.name, owner=here.owner.name)
    wished = listed(dict.fromkeys(wish.name for wish in group[:4]), ALL)
    message = MESSAGE_WORDS.get(new.message, new.message)
    if new.message not in messages_of(here.control) and (old is None or old.message != new.message):
        return Obstacle(
            wishes,
            (),
            say(
                "{name} cannot send what {wished} needs: {message}.",
                name=name,
                wished=wished,
                message=message,
            ),
        )
    kept = [] if old is None else _kept_fields(here, old, new)
    if kept and old is not None:
        place = send_place(here.owner.id, here.program.id, old.thing)
        locks = here.holds.locks(place, kept)
        how = say("is locked") if locks else say("cannot be changed")
        return Obstacle(
            wishes,
            locks,
            say(
                "What {name} sends {how}, and {wished} needs something else.",
                name=name,
                how=how,
                wished=wished,
            ),
        )
    for wish in group:
        target = here.target(wish)
        if target is not None and target.sweeps and not moves_as_wished(wish, new, target):
            return Obstacle(
                (wish.id,),
                (),
                say(
                    "{name} cannot bring {target} from one end of {wished} to the other: draw "
                    "its curve "
                    "from end to end.",
                    name=name,
                    target=target.name,
                    wished=wished,
                ),
            )
    return None
