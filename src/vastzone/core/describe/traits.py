"""How the things of a device are made, as one table: what can be said of each, in words.

What is *set* in a device stands in the table of fields; here is what a thing *is*: its name and
kind, how many banks it has, what a jack takes.  Facts, tables to paste and tables written out all
read it.
"""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal, NamedTuple, get_args

from vastzone.core.describe.fitting import fitted
from vastzone.core.describe.things import Group, Thing
from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.audio import InputKind
from vastzone.core.plan.model.bodies import OutputKind
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.functions import TOLD, Function
from vastzone.core.plan.model.pedals import Accepts
from vastzone.core.plan.model.plan import Device, Flow
from vastzone.core.plan.model.triggers import InputType
from vastzone.core.plan.model.values import ControlKind
from vastzone.core.plan.queries.capabilities import CONTROLS
from vastzone.core.say import number, say, say_many
from vastzone.core.text import decimal, quoted, whole_number

Choices = tuple[tuple[str, Any], ...]
Entry = Literal["text", "number", "decimal", "note", "choice", "check"]


class Trait(NamedTuple):
    """Something that can be said of things of one list.

    ``id`` is what a column of a table is called, ``label`` what stands before it in the facts;
    other words that people use for the column are ``also``.  ``choices`` depend on the device.
    ``get`` and ``put`` say how it stands in the thing where that is not plainly the attribute.
    """

    group: Group
    id: str
    label: str
    entry: Entry
    low: int = 0
    high: int = 127
    choices: Callable[[Device], Choices] | None = None
    also: tuple[str, ...] = ()
    get: Callable[[Any], Any] | None = None
    put: Callable[[Any, Any], Mapping[str, Any]] | None = None
    has: Callable[[Any], bool] | None = None

    def held(self, item: Any) -> Any:
        """What a thing is in this respect."""
        return self.get(item) if self.get is not None else getattr(item, self.id)

    def changes(self, item: Any, value: Any) -> Mapping[str, Any]:
        """What changes in a thing to make it so."""
        return self.put(item, value) if self.put is not None else {self.id: value}

    def belongs_to(self, item: Any) -> bool:
        """Whether it can be said of this thing."""
        return self.has is None or self.has(item)

    def words(self, device: Device, value: Any) -> str:
        """A value as it is written in a table."""
        if self.entry == "choice" and self.choices is not None:
            named = [words for words, choice in self.choices(device) if choice == value]
            return named[0] if named else ""
        if self.entry == "check":
            return "yes" if value else ""
        if self.entry == "note":
            return pitch.name(value, device.octaves)
        if value is None:
            return ""
        return number(value, "g") if isinstance(value, float) else str(value)

    def read(self, device: Device, text: str) -> Any:
        """A value as it was written.  Raises EditError or PitchError, which say what would do."""
        plain = text.strip()
        if self.entry == "check":
            return _yes(plain)
        if self.entry == "note":
            return pitch.parse(plain, device.octaves)
        if self.entry == "choice" and self.choices is not None:
            return _chosen(self.choices(device), plain, self.label)
        if self.entry == "text":
            return plain
        number = whole_number(plain) if self.entry == "number" else decimal(plain)
        if number is None or (self.entry == "number" and not self.low <= number <= self.high):
            raise EditError(
                say(
                    "“{plain}” is no {label}: write a number from {low} to {high}.",
                    plain=quoted(plain),
                    label=self.label.lower(),
                    low=self.low,
                    high=self.high,
                )
            )
        return number


YES = frozenset(("yes", "y", "x", "1", "true", "on", "✓"))
NO = frozenset(("", "no", "n", "0", "false", "off", "-", "–"))


def _yes(text: str) -> bool:
    if text.lower() in YES:
        return True
    if text.lower() in NO:
        return False
    raise EditError(say("“{text}” is neither yes nor no: write one of them.", text=quoted(text)))


def _chosen(choices: Choices, text: str, label: str) -> Any:
    for words, value in choices:
        if words.lower() == text.lower() or str(value).lower() == text.lower():
            return value
    offered = ", ".join(words for words, _ in choices[:8])
    raise EditError(
        say(
            "“{text}” is no {label}: write one of {offered}.",
            text=quoted(text),
            label=label.lower(),
            offered=offered,
        )
    )


def plain_choices(values: Sequence[Any]) -> Callable[[Device], Choices]:
    """Values that are called as they are."""
    choices = tuple((say(str(value)), value) for value in values)
    return lambda _device: choices


def _parts(device: Device) -> Choices:
    return ((say("of none"), None), *((part.name, part.id) for part in device.parts))


def _controls(device: Device) -> Choices:
    return ((say("nothing"), None), *((control.name, control.id) for control in device.controls))


def _kits(device: Device) -> Choices:
    return (("none", None), *((kit.name, kit.id) for kit in device.kits))


SENDS: Choices = (
    (say("anything"), ()),
    (say("notes"), ("none", "note")),
    (say("controllers"), ("none", "controller")),
    (say("notes and controllers"), ("none", "note", "controller")),
    (say("controllers and programs"), ("none", "controller", "program")),
    (say("bends"), ("none", "bend")),
    (say("nothing"), ("none",)),
)
TURNS: Choices = (
    (say("where to go"), "absolute"),
    (say("steps, 1 and 127"), "1 or 127"),
    (say("steps, 65 and 63"), "65 or 63"),
    (say("steps, 1 and 65"), "1 or 65"),
)
RECEIVES: Choices = (
    (say("can be set"), "set"),
    (say("cannot be changed"), "fixed"),
    (say("is learned"), "learns"),
    (say("takes everything"), "takes all"),
)
TYPES: Choices = (
    *((kind, (kind,)) for kind in get_args(InputType)),
    (say("dual or mono"), ("dual", "mono")),
    (say("dual or piezo-switch"), ("dual", "piezo-switch")),
    (say("piezo-switch or mono"), ("piezo-switch", "mono")),
    (say("dual, piezo-switch or mono"), ("dual", "piezo-switch", "mono")),
    (say("three-way, piezo-switch or mono"), ("three-way", "piezo-switch", "mono")),
)
TAKES: Choices = (
    *((kind, (kind,)) for kind in get_args(Accepts)),
    (say("switch or continuous"), ("switch", "continuous")),
    (say("continuous or voltage"), ("continuous", "voltage")),
    (say("switch or dual switch"), ("switch", "dual switch")),
)
ROLES: Choices = (
    (say("none"), None),
    (say("volume (7)"), 7),
    (say("pan (10)"), 10),
    (say("expression (11)"), 11),
    (say("modulation (1)"), 1),
    (say("breath (2)"), 2),
    (say("sustain (64)"), 64),
    (say("brightness (74)"), 74),
    (say("reverb (91)"), 91),
    (say("chorus (93)"), 93),
)


def _known(fixed: Choices) -> Callable[[Device], Choices]:
    return lambda _device: fixed


def _put_types(item: Any, types: tuple[InputType, ...]) -> Mapping[str, Any]:
    return {"types": types, "type": item.type if item.type in types else types[0]}


def _functions(text: str) -> tuple[Function, ...]:
    known: tuple[Function, ...] = get_args(Function)
    named = [piece.strip().lower() for piece in text.replace("/", ",").split(",") if piece.strip()]
    for name in named:
        if name not in known:
            raise EditError(
                say(
                    "“{name}” is no function of a jack: use {known} or any.",
                    name=quoted(name),
                    known=", ".join(known[:-1]),
                )
            )
    return tuple(name for name in known if name in named) or ("any",)


def _put_functions(_item: Any, text: str) -> Mapping[str, Any]:
    return {"functions": _functions(text)}


def _put_can(_item: Any, text: str) -> Mapping[str, Any]:
    if not text.strip():
        return {"can": ()}
    can = _functions(text)
    return {"can": TOLD if "any" in can else tuple(each for each in can if each in TOLD)}


def _listed_can(item: Any) -> str:
    return ", ".join(item.can)


def _pressed(item: Any) -> bool:
    return CONTROLS[item.kind].pressed


def _contact(item: Any) -> bool:
    """Whether it is pressed and comes back, or stays."""
    return CONTROLS[item.kind].pressed and not CONTROLS[item.kind].hard


def _put_choices(item: Any, text: str) -> Mapping[str, Any]:
    choices = tuple(piece.strip() for piece in text.split("/") if piece.strip())
    if len(choices) < 2:
        raise EditError(
            say("A switch has two choices or more: write them between strokes, “on/off”.")
        )
    return {"choices": choices, "choice": min(item.choice, len(choices) - 1)}


def _sounds(item: Any) -> str:
    return "/".join(sound.name for sound in item.sounds)


def _put_sounds(item: Any, text: str) -> Mapping[str, Any]:
    names = [piece.strip() for piece in text.split("/") if piece.strip()]
    if len(names) != len(item.sounds):
        raise EditError(
            say(
                "This kit has {sounds} and {names} were written: give each its own, between "
                "strokes.",
                sounds=say_many("{count} sound", "{count} sounds", len(item.sounds)),
                names=say_many("{count} name", "{count} names", len(names)),
            )
        )
    pairs = zip(item.sounds, names, strict=True)
    return {"sounds": tuple(changed(sound, name=name) for sound, name in pairs)}


def _first_note(item: Any) -> int:
    return int(min(sound.note for sound in item.sounds))


def _sounding(item: Any) -> bool:
    return bool(item.sounds)


def _put_notes(item: Any, first: int) -> Mapping[str, Any]:
    """All notes as far up or down as the lowest one."""
    shift = first - _first_note(item)
    highest = max(sound.note for sound in item.sounds) + shift
    if highest > 127:
        raise EditError(
            say(
                "The highest sound would be on note {highest}, above 127: begin lower.",
                highest=highest,
            )
        )
    return {"sounds": tuple(changed(sound, note=sound.note + shift) for sound in item.sounds)}


def _hard(item: Any) -> bool:
    return CONTROLS[item.kind].hard


def _turned(item: Any) -> bool:
    return CONTROLS[item.kind].swept and not CONTROLS[item.kind].hard


TRAITS: tuple[Trait, ...] = (
    Trait("controls", "name", say("Name"), "text", also=("control", "label")),
    Trait(
        "controls",
        "kind",
        say("Kind"),
        "choice",
        choices=plain_choices(get_args(ControlKind)),
        also=("type",),
    ),
    Trait("controls", "banks", say("Banks"), "number", 1, 64),
    Trait("controls", "row", say("Row"), "number", 0, 127),
    Trait("controls", "column", say("Column"), "number", 0, 127, also=("col",)),
    Trait(
        "controls",
        "shape",
        say("Shape"),
        "choice",
        choices=plain_choices(("square", "round", "bar")),
        has=_hard,
    ),
    Trait("controls", "span", say("Columns wide"), "number", 1, 16, has=_hard),
    Trait("controls", "endless", say("Endless"), "check", has=_turned),
    Trait("controls", "latches", say("Stays down"), "check", has=_contact),
    Trait("controls", "sends", say("Can send"), "choice", choices=_known(SENDS)),
    Trait(
        "controls",
        "can",
        say("Can be told to"),
        "text",
        get=_listed_can,
        put=_put_can,
        has=_pressed,
    ),
    Trait("controls", "taps", say("Taps for a tempo"), "number", 2, 8, has=_pressed),
    Trait("keybeds", "name", say("Name"), "text"),
    Trait("keybeds", "low", say("Lowest key"), "note", also=("lowest",)),
    Trait("keybeds", "keys", say("Keys"), "number", 1, 128),
    Trait("parts", "name", say("Name"), "text", also=("part", "sound", "layer")),
    Trait("parts", "tag", say("Tag"), "text"),
    Trait("parts", "receives", say("Its channel"), "choice", choices=_known(RECEIVES)),
    Trait(
        "parts",
        "trigger",
        say("Plays"),
        "choice",
        choices=plain_choices(("gate", "one-shot", "toggle")),
        also=("mode",),
    ),
    Trait("parts", "kit", say("Kit"), "choice", choices=_kits),
    Trait("parts", "rhythm", say("Rhythm"), "check"),
    Trait("parts", "mono", say("Mono"), "check"),
    Trait("targets", "name", say("Name"), "text", also=("target", "parameter")),
    Trait("targets", "part", say("Of part"), "choice", choices=_parts, also=("of",)),
    Trait("targets", "receives", say("Its number"), "choice", choices=_known(RECEIVES[:3])),
    Trait("targets", "role", say("By standard"), "choice", choices=_known(ROLES)),
    Trait(
        "targets",
        "mode",
        say("Answers as"),
        "choice",
        choices=plain_choices(("continuous", "momentary", "toggle", "trigger")),
    ),
    Trait("targets", "turning", say("Reads turns as"), "choice", choices=_known(TURNS)),
    Trait("targets", "low", say("Lowest"), "decimal", -20000, 20000, also=("min", "from")),
    Trait("targets", "high", say("Highest"), "decimal", -20000, 20000, also=("max", "to")),
    Trait("targets", "unit", say("Unit"), "text"),
    Trait("kits", "name", say("Name"), "text"),
    Trait("kits", "fixed", say("Cannot be rearranged"), "check"),
    Trait("kits", "sounds", "Sounds", "text", get=_sounds, put=_put_sounds),
    Trait(
        "kits", "from", say("Notes from"), "note", get=_first_note, put=_put_notes, has=_sounding
    ),
    Trait("ports", "name", say("Name"), "text", also=("port",)),
    Trait("ports", "flow", say("Carries"), "choice", choices=plain_choices(get_args(Flow))),
    Trait(
        "ports", "link", say("Link"), "choice", choices=plain_choices(("din", "usb", "bluetooth"))
    ),
    Trait("inputs", "name", say("Name"), "text", also=("input", "jack")),
    Trait("inputs", "types", say("Can be"), "choice", choices=_known(TYPES), put=_put_types),
    Trait("jacks", "name", say("Name"), "text", also=("jack",)),
    Trait("jacks", "accepts", say("Takes"), "choice", choices=_known(TAKES)),
    Trait(
        "jacks",
        "functions",
        say("Offers"),
        "text",
        get=lambda item: ", ".join(item.functions),
        put=_put_functions,
    ),
    Trait("jacks", "control", say("Moves"), "choice", choices=_controls),
    Trait("jacks", "calibrated", say("Can be calibrated"), "check"),
    Trait("jacks", "low", say("Least volts"), "decimal", -48, 48),
    Trait("jacks", "high", say("Most volts"), "decimal", -48, 48),
    Trait("jacks", "ohms", say("Loads with, ohms"), "number", 100, 1_000_000),
    Trait("ports", "trs", say("Small jack"), "choice", choices=plain_choices(("", "A", "B"))),
    Trait("ports", "milliamps", say("Gives, mA"), "number", 0, 10_000),
    Trait("outputs", "name", say("Name"), "text", also=("output",)),
    Trait("outputs", "kind", say("Kind"), "choice", choices=plain_choices(get_args(OutputKind))),
    Trait("audio_inputs", "name", say("Name"), "text", also=("audio_input",)),
    Trait(
        "audio_inputs", "kind", say("Kind"), "choice", choices=plain_choices(get_args(InputKind))
    ),
    Trait("audio_inputs", "phantom", say("Phantom power"), "check"),
    Trait("switches", "name", say("Name"), "text", also=("switch",)),
    Trait(
        "switches",
        "choices",
        say("Choices"),
        "text",
        get=lambda item: "/".join(item.choices),
        put=_put_choices,
    ),
    Trait(
        "switches", "kept", say("Kept"), "choice", choices=plain_choices(("at once", "on write"))
    ),
)
"""Everything that can be said of the things of a device, list by list."""


def traits_of(group: Group) -> tuple[Trait, ...]:
    """What can be said of the things of one list."""
    return tuple(trait for trait in TRAITS if trait.group == group)


def set_trait(device: str, things: Sequence[Thing], trait: Trait, value: Any) -> Edit:
    """Say one thing of several things of a list.  Raises EditError for what cannot be."""
    ids = {thing.id for thing in things}

    def change(owner: Device) -> Device:
        items = []
        for item in getattr(owner, trait.group):
            mine = item.id in ids and trait.belongs_to(item)
            items.append(changed(item, **trait.changes(item, value)) if mine else item)
        return fitted(owner, changed(owner, **{trait.group: tuple(items)}))

    return edit_device(device, say("Change {trait}", trait=trait.label.lower()), change)
