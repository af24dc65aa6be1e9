"""What the keyboard and the menus do with zones."""

from collections.abc import Callable, Iterator
from functools import partial

from PySide6.QtWidgets import QWidget

from vastzone.app.actions import Action
from vastzone.app.applying import Performer
from vastzone.app.frame.sheets import sheet_for, split_key
from vastzone.app.views.keys.canvas import Pointed
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.zones import layer_zone, move_edge, remove_zone, set_zone, split_zone
from vastzone.core.plan.model.controls import Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.desk.session import Desk

GROUP = "Zone"
STEPS = (
    (say("Transpose zone up a semitone"), say("Transpose zone"), "transpose", 1, "Ctrl+Up"),
    (say("Transpose zone down a semitone"), say("Transpose zone"), "transpose", -1, "Ctrl+Down"),
    (say("Shift zone up an octave"), say("Shift zone"), "octave", 1, "Ctrl+Shift+Up"),
    (say("Shift zone down an octave"), say("Shift zone"), "octave", -1, "Ctrl+Shift+Down"),
    (say("Next channel for zone"), say("Change zone channel"), "channel", 1, "Ctrl+."),
    (say("Previous channel for zone"), say("Change zone channel"), "channel", -1, "Ctrl+,"),
)
ENDS = (
    (say("Lower end of zone down"), "low", -1, "Ctrl+Left"),
    (say("Lower end of zone up"), "low", 1, "Ctrl+Right"),
    (say("Upper end of zone down"), "high", -1, "Ctrl+Shift+Left"),
    (say("Upper end of zone up"), "high", 1, "Ctrl+Shift+Right"),
)
Chosen = tuple[Device, int, Zone]


class ZoneCommands:
    """Edits of the selected zone, and what is offered at a key."""

    def __init__(self, desk: Desk, perform: Performer, view: QWidget) -> None:
        self._desk, self._perform, self._view = desk, perform, view

    def actions(self) -> Iterator[Action]:
        """The table of what the keyboard can do."""
        yield self._action("zone-split", say("Split the selected zone"), self._split, "Ctrl+T")
        yield self._action("zone-layer", say("Layer the selected zone"), self._layer, "Ctrl+L")
        remove = self._action("zone-remove", say("Remove the selected zone"), self._remove, "Del")
        yield remove._replace(removes=True)
        for name, label, field, step, keys in STEPS:
            run = partial(self._by, label, field, step)
            yield self._action(f"zone-{field}{step:+}", name, run, keys)
        for name, side, step, keys in ENDS:
            run = partial(self._end, side, step)
            yield self._action(f"zone-{side}{step:+}", name, run, keys)
        on, back = partial(self._step, 1), partial(self._step, -1)
        yield self._action("next-zone", say("Select the next zone"), on, "Ctrl+Tab")
        yield self._action("previous-zone", say("Select the previous zone"), back, "Ctrl+Shift+Tab")

    def _action(self, ident: str, label: str, run: Callable[[], object], keys: str) -> Action:
        """An action whose key counts only while the zones can be seen."""
        return Action(ident, label, run, keys, GROUP, within=self._view)

    def _zones(self) -> list[Chosen]:
        chosen_zones: list[Chosen] = []
        for owner in self._desk.plan.devices:
            program = lookup.program_in(self._desk.scene, owner)
            if program is not None:
                zones = sorted(program.zones, key=lambda z: (z.keybed, z.low))
                chosen_zones += [(owner, program.number, zone) for zone in zones]
        return chosen_zones

    def chosen(self) -> Chosen | None:
        """The selected zone with its device and program."""
        for owner, number, zone in self._zones():
            if ref_to(owner.id, zone.id) == self._desk.selection:
                return owner, number, zone
        return None

    def _step(self, steps: int) -> None:
        refs = [ref_to(owner.id, zone.id) for owner, _, zone in self._zones()]
        if self._desk.selection in refs:
            self._desk.select(refs[(refs.index(self._desk.selection) + steps) % len(refs)])
        elif refs:
            self._desk.select(refs[0 if steps > 0 else -1])

    def _split(self) -> None:
        if chosen := self.chosen():
            owner, number, zone = chosen
            key = split_key(self._desk, owner, zone)
            self._perform(split_zone(owner.id, number, zone.id, key))

    def _layer(self) -> None:
        if chosen := self.chosen():
            self._perform(layer_zone(chosen[0].id, chosen[1], chosen[2].id))

    def _remove(self) -> None:
        if chosen := self.chosen():
            self._perform(remove_zone(chosen[0].id, chosen[1], chosen[2].id))

    def _by(self, label: str, field: str, step: int) -> None:
        if chosen := self.chosen():
            owner, number, zone = chosen
            value = {field: getattr(zone, field) + step}
            self._perform(set_zone(owner.id, number, zone.id, label, **value))

    def _end(self, side: str, step: int) -> None:
        if chosen := self.chosen():
            owner, number, zone = chosen
            key = getattr(zone, side) + step
            self._perform(move_edge(owner.id, number, zone.id, side, key))

    def offers(self, hit: Pointed) -> list[tuple[str, Edit]]:
        """What can be done at a key, a zone or a keybed."""
        owner = hit.picture.owner
        number = lookup.program_number(self._desk.scene, owner)
        if number is None or hit.kind == "part":
            return []
        zones = [hit.bar.zone] if hit.bar else []
        if hit.kind == "key":
            zones = []
            for bar in hit.picture.zones:
                if bar.zone.low <= hit.key <= bar.zone.high:
                    zones.append(bar.zone)
        offered: list[tuple[str, Edit]] = []
        for zone in zones:
            offered.extend(_for_zone(owner, number, zone, hit.key))
        bed = sheet_for(self._desk, hit.picture.ref)
        return [*offered, *((press.label, press.make()) for press in bed.presses)]


def _for_zone(owner: Device, number: int, zone: Zone, key: int) -> Iterator[tuple[str, Edit]]:
    if zone.low < key <= zone.high:
        label = say(
            "Split {zone} at {pitch}", zone=zone.name, pitch=pitch.label(key, owner.octaves)
        )
        yield label, split_zone(owner.id, number, zone.id, key)
    yield say("Layer {zone}", zone=zone.name), layer_zone(owner.id, number, zone.id)
    yield say("Remove {zone}", zone=zone.name), remove_zone(owner.id, number, zone.id)
