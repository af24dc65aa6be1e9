"""What a device can do, who says so, and whether anyone looked."""

from typing import Literal

from vastzone.core.plan.model.values import Byte, Channel, Text, Value

Scope = Literal["fixed", "global", "program", "bank", "control"]
LimitedSetting = Literal[
    "zone-channel",
    "zone-range",
    "zone-shift",
    "send-channel",
    "send-number",
    "send-mode",
    "part-channel",
    "part-range",
    "part-shift",
    "kit-notes",
    "target-controller",
    "send-feel",
    "outputs",
    "part-mode",
    "target-mode",
    "input",
    "jack",
    "send-function",
]
Count = Literal["zones", "memory-slots", "assign-slots", "channels", "messages"]


class ScopeLimit(Value, tag="scope", frozen=True, kw_only=True):
    """How far one kind of setting reaches: *fixed*, one for the device, one a program, …"""

    setting: LimitedSetting
    scope: Scope
    source: Text = ""
    verified: Text = ""


class CountLimit(Value, tag="count", frozen=True, kw_only=True):
    """How many of something there are; ``taken`` of them must be left alone.

    The messages are those that one control can send at once.
    """

    what: Count
    most: int
    taken: tuple[int, ...] = ()
    source: Text = ""
    verified: Text = ""


class Reserved(Value, tag="reserved", frozen=True, kw_only=True):
    """Controllers 0–127 or channels 1–16 that the device keeps for itself, and for what."""

    purpose: Text
    controllers: tuple[Byte, ...] = ()
    channels: tuple[Channel, ...] = ()
    source: Text = ""
    verified: Text = ""


class Answers(Value, tag="answers", frozen=True, kw_only=True):
    """The notes that the device answers at all."""

    low: Byte
    high: Byte
    source: Text = ""
    verified: Text = ""


Limit = ScopeLimit | CountLimit | Reserved | Answers
