"""Fields of what draws other things: couplers, what pistons draw, what a crescendo adds."""

from typing import Any, Final

from vastzone.core.errors import EditError
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.values import EntryForm, Listed, OnOff, Stored, Typed, Whole, signed
from vastzone.core.plan.queries.organ import drawable
from vastzone.core.say import say
from vastzone.core.text import quoted

ORGAN: Final = "device-switch"
NOTHING = "nothing"


class ThingNames:
    """Things of a device by name, kept by id: «Flute 8, Octave 4»; stages between strokes."""

    def __init__(self, staged: bool) -> None:
        self._staged = staged

    def stored(self, _owner: Owner, value: Any) -> str:
        """Their ids."""
        stages = value if self._staged else (value,)
        return "/".join(",".join(stage) for stage in stages)

    def held(self, owner: Owner, stored: Stored) -> Any:
        """The ids.  Raises EditError for what is not there."""
        known = drawable(owner.device)
        stages = []
        for piece in str(stored).split("/") if stored else ():
            ids = tuple(ident for ident in piece.split(",") if ident)
            for ident in ids:
                if ident not in known:
                    raise EditError(
                        say("There is no “{ident}” to draw: choose another.", ident=quoted(ident))
                    )
            stages.append(ids)
        if self._staged:
            return tuple(stages)
        return stages[0] if stages else ()

    def words(self, owner: Owner, stored: Stored) -> str:
        """What they are called."""
        known = drawable(owner.device)
        stages = []
        for piece in str(stored).split("/"):
            names = [known.get(ident, ident) for ident in piece.split(",") if ident]
            stages.append(", ".join(names) or NOTHING)
        return " / ".join(stages)

    def form(self, _owner: Owner) -> EntryForm:
        """Their names, to type."""
        return EntryForm("text")

    def shown(self, owner: Owner, value: Any) -> str:
        """What they are called."""
        stored = self.stored(owner, value)
        return self.words(owner, stored) if stored else ""

    def entered(self, owner: Owner, shown: Any) -> Any:
        """The ids of what was named.  Raises EditError where a name is nobody’s."""
        stages = [self._read(owner, piece) for piece in str(shown).split("/")]
        if self._staged:
            return tuple(stages) if str(shown).strip() else ()
        return tuple(dict.fromkeys(ident for stage in stages for ident in stage))

    @staticmethod
    def _read(owner: Owner, words: str) -> tuple[str, ...]:
        by_name = {}
        for ident, name in drawable(owner.device).items():
            by_name[name.strip().lower()] = ident
        found = []
        for name in (piece.strip() for piece in words.split(",")):
            if not name or name == NOTHING:
                continue
            if name.lower() not in by_name:
                raise EditError(
                    say(
                        "There is no “{name}” in {device}: write stops by name, with commas "
                        "between.",
                        name=quoted(name),
                        device=owner.device.name,
                    )
                )
            found.append(by_name[name.lower()])
        return tuple(dict.fromkeys(found))


def _parts(owner: Owner) -> tuple[tuple[str, Any], ...]:
    return tuple((part.name, part.id) for part in owner.device.parts)


def _targets(owner: Owner) -> tuple[tuple[str, Any], ...]:
    return tuple((target.name, target.id) for target in owner.device.targets)


def _setters(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """What sets it off: a control where it draws controls, a target where it draws targets."""
    device = owner.device
    own = device.controls if owner.thing.by not in {t.id for t in device.targets} else ()
    things = own or device.targets
    return tuple((thing.name, thing.id) for thing in things)


ORGAN_FIELDS: tuple[Field, ...] = (
    Field("coupler", "name", say("Name"), ORGAN, Typed(), kept="nowhere"),
    Field("coupler", "target", say("Drawn by"), ORGAN, Listed(_targets, say("nothing yet"))),
    Field("coupler", "of", say("What plays"), ORGAN, Listed(_parts)),
    Field("coupler", "plays", say("Also plays"), ORGAN, Listed(_parts)),
    Field("coupler", "shift", say("Semitones away"), ORGAN, Whole(-60, 60, say=signed)),
    Field("coupler", "through", say("Hands on"), ORGAN, OnOff(), usual=False),
    Field("combination", "name", say("Name"), ORGAN, Typed(), kept="nowhere"),
    Field("combination", "by", say("Set off by"), ORGAN, Listed(_setters)),
    Field("combination", "draws", say("Draws"), ORGAN, ThingNames(staged=False)),
    Field(
        "combination", "governs", say("Of these only"), ORGAN, ThingNames(staged=False), usual=()
    ),
    Field("crescendo", "name", say("Name"), ORGAN, Typed(), kept="nowhere"),
    Field("crescendo", "by", say("Set off by"), ORGAN, Listed(_setters)),
    Field("crescendo", "stages", say("Stages"), ORGAN, ThingNames(staged=True)),
)
