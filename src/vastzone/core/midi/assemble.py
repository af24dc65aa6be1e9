"""Pairs and parameters put together again from the single controllers that carry them."""

from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import ENTRY, FINE, SELECT, Wide

Whole = tuple[Wide, int, int]
"""What came together: the kind, its number, and the value in 14 bits."""
PARAMETERS: tuple[Wide, ...] = ("rpn", "nrpn")
CHOSEN = {part: (kind, half) for kind in PARAMETERS for half, part in enumerate(SELECT[kind])}
NULL = 127, 127
"""The parameter number that chooses none, so that stray data entry moves nothing."""


class Assembler:
    """Remembers on each channel which parameter is chosen, and the high bits that came last."""

    def __init__(self) -> None:
        self._kind: dict[int, Wide] = {}
        self._halves: dict[tuple[int, Wide], list[int | None]] = {}
        self._coarse: dict[tuple[int, Wide, int], int] = {}

    def take(self, message: Message) -> Whole | None:
        """What a message completes or moves on; None where it does neither.

        High bits alone count as a value whose low bits are 0, as the specification has it.
        """
        if message.kind != "controller":
            return None
        number, channel = message.first, message.channel
        if number in CHOSEN:
            kind, half = CHOSEN[number]
            self._kind[channel] = kind
            self._halves.setdefault((channel, kind), [None, None])[half] = message.second
            return None
        if number in (ENTRY, ENTRY + FINE) and (chosen := self._parameter(channel)) is not None:
            return self._value(channel, *chosen, number == ENTRY, message.second)
        if number < 2 * FINE:
            return self._value(channel, "pair", number % FINE, number < FINE, message.second)
        return None

    def _parameter(self, channel: int) -> tuple[Wide, int] | None:
        kind = self._kind.get(channel)
        if kind is None:
            return None
        high, low = self._halves[channel, kind]
        if high is None or low is None or (high, low) == NULL:
            return None
        return kind, high << 7 | low

    def _value(
        self, channel: int, kind: Wide, number: int, is_coarse: bool, data: int
    ) -> Whole | None:
        place = (channel, kind, number)
        if is_coarse:
            self._coarse[place] = data
            return kind, number, data << 7
        coarse = self._coarse.get(place)
        return None if coarse is None else (kind, number, coarse << 7 | data)
