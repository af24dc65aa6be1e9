"""What the pages of the view share: the chosen console, what is held, what is pointed at."""

from typing import NamedTuple

from PySide6.QtCore import QObject, Signal

from vastzone.app.clock import now_ms
from vastzone.core.console.circuit import Circuit, built
from vastzone.core.console.scan import ReportedContact, State, scan, state_of
from vastzone.core.console.schools import told_otherwise
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.desk.session import Desk


class Looked(NamedTuple):
    """The console that is looked at in a plan."""

    plan: Plan
    chosen: str
    owners: tuple[Device, ...]
    owner: Device | None
    circuit: Circuit | None


class Bench(QObject):
    """The console that is looked at; contacts are told by their index in its circuit."""

    pointed = Signal(int)
    held_changed = Signal()

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.chosen = ""
        self.at = -1
        self.held: set[int] = set()
        self._sounding: dict[ReportedContact, tuple[str, int | None]] = {}
        self.only = -1
        self._last: Looked | None = None
        desk.stage.struck.connect(self._follow)

    @property
    def owners(self) -> tuple[Device, ...]:
        """The devices that have a console."""
        return self._looked().owners

    @property
    def owner(self) -> Device | None:
        """The one that is looked at."""
        return self._looked().owner

    def _looked(self) -> "Looked":
        """What is looked at, found once for each plan: painting asks for it at every key."""
        looked = self._last
        plan = self.desk.plan
        if looked is None or looked.plan is not plan or looked.chosen != self.chosen:
            owners = tuple(device for device in plan.devices if device.console is not None)
            first = owners[0] if owners else None
            owner = next((item for item in owners if item.id == self.chosen), first)
            circuit = None
            if owner is not None and owner.console is not None:
                circuit = built(owner, owner.console)
            looked = self._last = Looked(plan, self.chosen, owners, owner, circuit)
        return looked

    @property
    def console(self) -> Console:
        """Its console."""
        owner = self.owner
        return owner.console if owner is not None and owner.console is not None else Console()

    @property
    def circuit(self) -> Circuit:
        """Its circuit without faults."""
        circuit = self._looked().circuit
        assert circuit is not None
        return circuit

    @property
    def state(self) -> State:
        """Its circuit as the simulated console is: with faults known, and those still hidden."""
        owner = self.owner
        told = told_otherwise(owner, self.console) if owner is not None else ()
        return state_of(self.circuit, (*self.console.faults, *self.console.hidden, *told))

    def reported(self) -> frozenset[ReportedContact]:
        """What the encoder reports for what is held now."""
        return scan(self.circuit, self.state, self.held)

    def point(self, index: int) -> None:
        """Point at a contact; −1 for none."""
        if index != self.at:
            self.at = index
            self.pointed.emit(index)

    def press(self, index: int, velocity: int = 96) -> None:
        """Hold a contact down: it is selected and sounds."""
        owner = self.owner
        if owner is None or index in self.held:
            return
        self.held.add(index)
        ref, note = self.key(index)
        if note is None or device_of(self.desk.selection) != owner.id:
            self.desk.select(ref)
        self.point(index)
        self._sound(velocity)
        self.held_changed.emit()

    def release(self, index: int) -> None:
        """Let it go."""
        if index not in self.held:
            return
        self.held.discard(index)
        if self.owner is not None:
            self._sound(0)
        elif not self.held:
            self._silence()
        self.held_changed.emit()

    def _sound(self, velocity: int) -> None:
        """Sound what a chord and the hidden faults make of what is held.

        The engine knows what known faults make of a key by itself.
        """
        circuit = self.circuit
        state = state_of(circuit, self.console.hidden)
        now = scan(circuit, state, self.held) - scan(circuit, state, ()) | self._unwired()
        for hit in sorted(set(self._sounding) - now):
            self._move(*self._sounding.pop(hit), 0)
        own = circuit.contacts[self.at] if 0 <= self.at < len(circuit.contacts) else None
        struck = (own.block, own.number) if own is not None else None
        for block, number in sorted(now - set(self._sounding), key=lambda hit: hit == struck):
            if not 0 <= number < circuit.parts[block].size:
                continue
            sounded = self._sounding[block, number] = self.key(circuit.contact(block, number))
            self._move(*sounded, velocity)

    def _silence(self) -> None:
        """Let go all that sounds, of a console that is gone too."""
        for sounded in self._sounding.values():
            self._move(*sounded, 0)
        self._sounding.clear()

    def _unwired(self) -> frozenset[ReportedContact]:
        """What is held of blocks that have no pins yet: it plays as planned."""
        circuit = self.circuit
        held_contacts = (circuit.contacts[item] for item in self.held)
        contacts = set()
        for item in held_contacts:
            if not circuit.parts[item.block].commons:
                contacts.add((item.block, item.number))
        return frozenset(contacts)

    def _move(self, ref: str, note: int | None, velocity: int) -> None:
        """Strike a key or control, or let go what was struck, wherever it is by now."""
        if note is None:
            self.desk.stage.move((ref, 1), 127 if velocity else 0, now_ms())
        elif velocity:
            self.desk.stage.press(ref, note, velocity, now_ms())
        else:
            self.desk.stage.release(ref, note, now_ms())

    def release_all(self) -> None:
        """Let everything go."""
        for index in tuple(self.held):
            self.release(index)

    def key(self, index: int) -> tuple[str, int | None]:
        """A contact as a key («device:keybed», note) or as a control («device:control», None)."""
        owner, contact = self.owner, self.circuit.contacts[index]
        block = self.circuit.parts[contact.block].block
        ident = owner.id if owner is not None else ""
        if block.keybed:
            return ref_to(ident, block.keybed), self.circuit.parts[
                contact.block
            ].low + contact.number
        return ref_to(ident, block.controls[contact.number]), None

    def index_of(self, ref: str, note: int | None) -> int:
        """The contact of a key or control; −1 where it is none of this console."""
        if self.owner is None:
            return -1
        device, thing = read_ref(ref)
        for part in self.circuit.parts if device == self.owner.id else ():
            if note is not None and part.block.keybed == thing:
                number = note - part.low
                return part.first + number if 0 <= number < part.size else -1
            if note is None and thing in part.block.controls:
                return part.first + part.block.controls.index(thing)
        return -1

    def _follow(self, report: object) -> None:
        """Something struck elsewhere is pointed at here."""
        subject = getattr(report, "subject", "")
        index = self.index_of(subject, getattr(report, "key", None))
        if index >= 0:
            self.point(index)
