"""The evening: how devices get from song to song, what a song begins with, songs in order."""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.values import Byte, Channel, Id, Name, Ref, Text, Value

Way = Literal["own buttons", "by number", "by hand", "by message", "host list"]
"""How a device gets to another program: with its own up and down, by typing a number, through the
menus of its panel, by a message of another device, or by the list of patches in a host."""
Banked = Literal["none", "msb", "lsb", "both"]
Clock = Literal["none", "sends", "follows"]


class ProgramSent(Value, frozen=True, kw_only=True):
    """The program change 0–127 that a program sends as it is selected, and the bank before it.

    It goes to all outputs of its device unless ``ports`` names some.
    """

    channel: Channel
    number: Byte
    bank: Annotated[int, Meta(ge=0, le=16383)] | None = None
    ports: tuple[Id, ...] = ()


class Arrival(Value, frozen=True, kw_only=True):
    """How a device gets to its program in one song, where that is not as usual."""

    device: Id
    way: Way


class StartValue(Value, frozen=True, kw_only=True):
    """What a song puts a target (``device:target``) to at its beginning, in its own unit."""

    target: Ref
    value: float


class PlayerNote(Value, frozen=True, kw_only=True):
    """What one player has to think of in a song.

    ``busy`` hands hold keys as it begins; the ``click`` goes to the player's ears.
    """

    player: Name
    notes: Text = ""
    busy: bool = False
    click: bool = False


class SetStep(Value, frozen=True, kw_only=True):
    """A place in a set list: a song, spare or not, or a break of that many minutes."""

    scene: Id | None = None
    spare: bool = False
    minutes: Annotated[int, Meta(ge=0, le=600)] = 0


class SetList(Value, frozen=True, kw_only=True):
    """Songs in the order of one evening; a song may come twice."""

    id: Id
    name: Name
    steps: Annotated[tuple[SetStep, ...], Meta(max_length=400)] = ()

    @property
    def played(self) -> tuple[Id, ...]:
        """The scenes that are played, in order, without breaks and spare songs."""
        songs = []
        for step in self.steps:
            if step.scene is not None and not step.spare:
                songs.append(step.scene)
        return tuple(songs)
