"""What a field is: one kind of thing that is set in a device."""

from collections.abc import Callable
from typing import Any, Literal, NamedTuple, get_args

from vastzone.core.plan.fields.owners import Owner, OwnerKind
from vastzone.core.plan.fields.values import Ports, Stored, Values
from vastzone.core.plan.model.limits import LimitedSetting
from vastzone.core.plan.queries.capabilities import has_field

OwnKind = Literal["device-switch", "program"]
FieldKind = LimitedSetting | OwnKind
KINDS: tuple[FieldKind, ...] = (*get_args(LimitedSetting), *get_args(OwnKind))
"""What kind of setting it is: how far it reaches may be said in the limits of a device."""
Kept = Literal["slot", "at once", "on write", "fixed", "nowhere"]
"""Where a device keeps it: in its buffer and the slot that this is stored in; in one place for
all, at once or when it is told to write; as it was made; or nowhere, as a plug or a knob."""
WHOLE_DEVICE: frozenset[OwnerKind] = frozenset(
    (
        "device",
        "switch",
        "passed on",
        "encoder",
        "block",
        "shoe",
        "input",
        "jack",
        "part",
        "route",
        "target",
        "coupler",
        "combination",
        "crescendo",
    )
)
"""Owners outside programs: what is set in them counts at once."""
NO_USUAL = object()
"""Stands for «a new device shows nothing certain here»."""


class Field(NamedTuple):
    """One kind of thing that is set in a device.

    ``owner`` is what it belongs to, ``id`` its name in references and, unless ``get`` and ``put``
    say otherwise, in the plan; ``name`` what it is called on a card, ``console_name`` what on an
    encoder of a console, ``asked`` what where it is entered.  ``values`` is what it can hold and
    ``kind`` says which limit of a device tells how far it reaches.  ``has`` is whether this owner
    has it at all; ``usual`` what a device shows out of its box: such a value is not listed among
    everything.  ``solved`` ones may be chosen by a solver.  ``presses`` is what it costs to reach
    it on a panel, where the device does not say.
    """

    owner: OwnerKind
    id: str
    name: str
    kind: FieldKind
    values: Values
    has: Callable[[Owner], bool] | None = None
    usual: object = NO_USUAL
    solved: bool = False
    kept: Kept | None = None
    asked: str | Callable[[Owner], str] = ""
    console_name: str = ""
    get: Callable[[Owner], Any] | None = None
    put: Callable[[Owner, Any], dict[str, Any]] | None = None
    presses: int = 3

    @property
    def full_name(self) -> str:
        """Its owner and name, as limits, panels and schema name it: «zone/channel»."""
        return f"{self.owner}/{self.id}"

    def name_on(self, owner: Owner) -> str:
        """What it is called on a device."""
        return self.console_name if self.console_name and owner.device.console else self.name

    def asked_on(self, owner: Owner) -> str:
        """What it is called where it is entered."""
        asked = self.asked if isinstance(self.asked, str) else self.asked(owner)
        return asked or self.name_on(owner)

    def id_on(self, owner: Owner) -> str:
        """The last piece of its reference."""
        return owner.alone or self.id

    def belongs_to(self, owner: Owner) -> bool:
        """Whether this owner has it."""
        if self.has is not None:
            return self.has(owner)
        return has_field(owner.device, self.full_name)

    def held(self, owner: Owner) -> Any:
        """Its value as it stands in the plan."""
        return self.get(owner) if self.get is not None else getattr(owner.thing, self.id)

    def read(self, owner: Owner) -> Stored | None:
        """Its value as it is kept; None where this owner has no such field."""
        return self.values.stored(owner, self.held(owner)) if self.belongs_to(owner) else None

    def changes(self, owner: Owner, value: Any) -> dict[str, Any]:
        """What changes in the owner to give it a value of the plan."""
        return self.put(owner, value) if self.put is not None else {self.id: value}

    def is_usual(self, owner: Owner) -> bool:
        """Whether it is as a device shows it out of its box."""
        return self.usual is not NO_USUAL and self.held(owner) == self.usual

    @property
    def is_dialled(self) -> bool:
        """Whether it is set on the device: it is no plug, and not as it was made."""
        return self.kept not in ("nowhere", "fixed")

    def where_kept(self, owner: Owner) -> Kept:
        """Where the device keeps it."""
        if self.kept is not None:
            return self.kept
        if owner.kind == "sound":
            return "fixed" if owner.kit and owner.kit.fixed else "at once"
        if owner.kind == "switch":
            kept: Kept = owner.thing.kept
            return kept
        if owner.kind in ("part", "target") and owner.thing.receives == "learns":
            return "at once"
        return owner.device.storage.whole if owner.kind in WHOLE_DEVICE else "slot"


def ports_field(
    owner: OwnerKind, ident: str, name: str, kind: FieldKind, ports: Ports, **more: Any
) -> Field:
    """Which ports of its device a thing uses, all of them where none is named."""

    def put(_owner: Owner, chosen: tuple[str, ...]) -> dict[str, Any]:
        return {"ports": chosen}

    return Field(
        owner, ident, name, kind, ports, get=lambda owner: owner.thing.ports, put=put, **more
    )
