"""What the things of a device are called in few letters: on its face, its back and inside."""

from vastzone.core.describe.things import WORDS, Thing, item_of
from vastzone.core.midi import pitch
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many

SHORT = {
    "controller": "CC",
    "program": say("prog"),
    "pair": say("CC pair"),
    "rpn": "RPN",
    "nrpn": "NRPN",
}


def program_shown(device: Device) -> Program | None:
    """The program whose numbers are shown on a face: the first one."""
    return device.programs[0] if device.programs else None


def send_of(device: Device, control: str, bank: int) -> Send | None:
    """What a control sends in a bank of the program that is shown; None where nothing."""
    program = program_shown(device)
    for send in program.sends if program is not None else ():
        if send.control == control and send.bank == bank and not send.layer:
            return send
    return None


def sent_words(device: Device, control: Control, bank: int) -> str:
    """What a control sends: «C♯2», «CC 20», «bend»; nothing where it sends nothing."""
    send = send_of(device, control.id, min(bank, control.banks))
    return "" if send is None or send.message == "none" else _message_words(device, send)


def sent_as(device: Device, send: Send) -> str:
    """A message with its channel: «CC 20, channel 1»."""
    if send.message == "none":
        return send.does or say("nothing")
    words = f"{_message_words(device, send)}, {channel_words(send)}"
    return say("{words}, and {does}", words=words, does=send.does) if send.does else words


def _message_words(device: Device, send: Send) -> str:
    if send.message == "note":
        return pitch.name(send.number, device.octaves)
    if send.message in ("bend", "pressure"):
        return say(send.message)
    number = send.wide
    if send.message == "program":
        number += device.first_program
    return f"{SHORT[send.message]} {number}"


def channel_words(send: Send) -> str:
    """The channel that something is sent on."""
    return (
        say("channel of the zones")
        if send.channel is None
        else say("channel {channel}", channel=send.channel)
    )


def thing_words(device: Device, thing: Thing, bank: int) -> str:
    """A thing in one sentence: its name, what it is and what it does now."""
    item = item_of(device, thing)
    if item is None:
        return ""
    if isinstance(item, Control):
        send = send_of(device, item.id, min(bank, item.banks))
        sent = sent_words(device, item, bank)
        where = (
            say(" on {channel}", channel=channel_words(send)) if send is not None and sent else ""
        )
        banks = say_many(", {count} bank", ", {count} banks", item.banks) if item.banks > 1 else ""
        return say(
            "{item}: {kind}{banks}, sends {sent}{where}",
            item=item.name,
            kind=say(item.kind),
            banks=banks,
            sent=sent or say("nothing"),
            where=where,
        )
    if thing.group == "keybeds":
        return say_many(
            "{item}: {count} key, {span}",
            "{item}: {count} keys, {span}",
            item.keys,
            item=item.name,
            span=_span(device, item),
        )
    if thing.group == "parts":
        return f"{item.name}: {_heard_on(item.channel)}, {_span(device, item)}"
    if isinstance(item, Target):
        return f"{item.name}: {target_words(device, item)}"
    if thing.group == "kits":
        return say_many(
            "{item}: {count} sound", "{item}: {count} sounds", len(item.sounds), item=item.name
        )
    return f"{item.name}: {say(WORDS[thing.group])}"


def _span(device: Device, item: object) -> str:
    low, high = item.low, item.high  # type: ignore[attr-defined]
    return pitch.span(low, high, device.octaves)


def _heard_on(channel: int | None) -> str:
    return say("all channels") if channel is None else say("channel {channel}", channel=channel)


def target_words(device: Device, target: Target) -> str:
    """What moves a target, and of which part it is."""
    part = lookup.find(device.parts, target.part)
    of = f"{part.name} · " if part is not None else ""
    if target.receives == "learns":
        return f"{of}learned"
    if target.answers in ("bend", "pressure"):
        return f"{of}{target.answers}"
    return (
        say("{of}no number yet", of=of)
        if target.wide is None
        else say("{of}CC {wide}", of=of, wide=target.wide)
    )
