"""What is to be done at a device, in an order that works: the plan compared with its memory.

First what is set for the whole device; then, program by program, one is selected, dialled, cleared
of whatever else it may hold, and stored; what learns comes after that, and last the program that
the first scene wants is selected.  A program that is on and holds something not stored comes first,
or that would be lost.
"""

from collections.abc import Iterable, Iterator

from vastzone.core.cache import derived
from vastzone.core.cards.dialling import (
    SELECT,
    STORE,
    Groups,
    Step,
    as_content,
    dial_steps,
    grouped_by_thing,
    planned_steps,
)
from vastzone.core.memory.contents import has_buffer, in_slot, same_slot
from vastzone.core.memory.differences import (
    Difference,
    Left,
    ProgramLeft,
    left_to_dial,
    program_differences,
)
from vastzone.core.memory.keys import is_once, keeps, key_of, slot_key
from vastzone.core.memory.model import Content, DeviceMemory
from vastzone.core.memory.operations import Operation
from vastzone.core.memory.states import State
from vastzone.core.plan.fields.dials import Dial, device_dials, dials_named, whole_dials
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import Device


@derived(256)
def steps(
    device: Device,
    memory: DeviceMemory,
    wanted: int | None,
    everything: bool = False,
    also: frozenset[str] = frozenset(),
) -> tuple[Step, ...]:
    """Every step at a device; with those done for the settings ``also``, or for ``everything``."""
    work = _Work(device, memory, left_to_dial(device, memory, wanted), everything, also)
    return tuple(work.steps(wanted))


class _Work:
    """The steps of one device while they are put together."""

    def __init__(
        self,
        device: Device,
        memory: DeviceMemory,
        left: Left,
        everything: bool,
        also: frozenset[str],
    ) -> None:
        self.device, self.memory, self.left = device, memory, left
        self.shown = self._shown(everything, also)
        self.on = memory.selected
        self.clean = memory.buffer is None
        self.learned: list[Step] = []
        self.stored: dict[str, Content] = {}

    def _shown(self, everything: bool, also: frozenset[str]) -> dict[str, list[Dial]]:
        """Settings that are shown though they are done: by program, «» outside programs."""
        shown: dict[str, list[Dial]] = {}
        dials: Iterable[Dial] = ()
        if everything:
            dials = (dial for dial in device_dials(self.device) if not dial.is_usual)
        elif also:
            dials = dials_named(self.device, also)
        for dial in dials:
            if keeps(dial):
                outside = dial.program is None or is_once(dial)
                where = "" if outside or dial.owner.program is None else dial.owner.program.id
                shown.setdefault(where, []).append(dial)
        return shown

    def steps(self, wanted: int | None) -> Iterator[Step]:
        """All steps, in order."""
        yield from self._whole()
        for left in self._in_order():
            yield from self._program(left)
        yield from self.learned
        yield from self._last(wanted)

    def _whole(self) -> Iterator[Step]:
        states: dict[str, State] = {}
        for difference in self.left.whole:
            states[difference.key] = "planned"
        for key in self.left.unwritten:
            states.setdefault(key, "sent")
        grouped = self._grouped(self.left.whole, self._unwritten())
        dialled = list(self._sorted(dial_steps(grouped, states, None, None)))
        yield from dialled
        on_write = any(
            each.dial.field.where_kept(each.dial.owner) == "on write"
            for step in dialled
            for each in step.differences
        )
        if on_write or self.left.unwritten:
            unwritten = self.left.unwritten or any(not step.done for step in dialled)
            state: State = "planned" if unwritten else "stored"
            yield Step(Operation("write"), (), state, presses=STORE)

    def _unwritten(self) -> list[Dial]:
        """What is shown though it is set, and what is set and not written yet."""
        shown = {key_of(dial): dial for dial in self.shown.get("", ())}
        for dial in whole_dials(self.device) if self.left.unwritten else ():
            if key_of(dial) in self.left.unwritten:
                shown[key_of(dial)] = dial
        return list(shown.values())

    def _in_order(self) -> list[ProgramLeft]:
        """Programs with something to do or to show, the one that is on with a changed buffer
        first."""
        waiting = []
        for left in self.left.programs:
            if self._is_waiting(left) or left.program.id in self.shown:
                waiting.append(left)
        if self.memory.buffer is not None:
            waiting.sort(key=lambda left: left.in_buffer is None)
        return waiting

    @staticmethod
    def _is_waiting(left: ProgramLeft) -> bool:
        return not left.is_stored or bool(left.in_buffer)

    def _program(self, left: ProgramLeft) -> Iterator[Step]:
        storage = self.device.storage
        if storage.editor == "slots" or not has_buffer(self.device):
            yield from self._into_slots(left)
        else:
            yield from self._by_buffer(left)

    def _into_slots(self, left: ProgramLeft) -> Iterator[Step]:
        """Slots that are written as they are dialled: by an editor, or on a selected one."""
        program = left.program
        storage = self.device.storage
        into = storage.editor == "slots" or not storage.slots
        for slot, differences in left.in_slots:
            dialled = tuple(self._dialled(left, differences, slot if into else None))
            unknown = slot in left.rest
            if not dialled and not unknown:
                continue
            if not into:
                yield self._select(slot, program)
            yield from dialled
            if unknown:
                rest = Operation("clear the rest", slot=slot if into else None)
                yield Step(rest, (), "planned", program, presses=SELECT)
            self.stored[slot_key(slot)] = as_content(program)

    def _by_buffer(self, left: ProgramLeft) -> Iterator[Step]:
        """A program that is selected, dialled into the buffer and stored."""
        program = left.program
        if left.is_stored and left.in_buffer and program.id not in self.shown:
            yield self._select(slots_of(program)[0], program)
            return
        begin, content, base = self._base(left)
        yield self._select(begin, program, keep=left.in_buffer is not None)
        yield from self._dialled(left, base, None)
        if content is None or not content.whole:
            yield Step(Operation("clear the rest"), (), "planned", program, presses=SELECT)
        for slot, differences in left.in_slots:
            kept = not differences and slot not in left.rest and not left.in_buffer
            state: State = "stored" if kept else "planned"
            yield Step(Operation("store", slot=slot), (), state, program, presses=STORE)
            if not kept:
                self.on, self.clean = slot, True
            self.stored[slot_key(slot)] = as_content(program)

    def _dialled(
        self, left: ProgramLeft, base: tuple[Difference, ...], into: Slot | None
    ) -> Iterator[Step]:
        """What is dialled in a program, from what it begins with."""
        program = left.program
        shown = self.shown.get(program.id, ())
        if not shown and (left.in_buffer is None or into is not None):
            yield from self._sorted(planned_steps(base, program, into))
            return
        states, waiting = self._states(left, base)
        yield from self._sorted(dial_steps(self._grouped(waiting, shown), states, program, into))

    def _sorted(self, listed: Iterable[Step]) -> Iterator[Step]:
        """What learns waits for the end; an encoder asks keyboard by keyboard."""
        here = []
        for step in listed:
            if step.learned:
                self.learned.append(step)
            else:
                here.append(step)
        if self.device.console is not None:
            here.sort(key=self._asked_at)
        yield from here

    def _asked_at(self, step: Step) -> int:
        """The place among an encoder's questions of what a step is about."""
        owner = step.differences[0].dial.owner
        console = self.device.console
        blocks = console.blocks if console is not None else ()
        for place, block in enumerate(blocks):
            if owner.kind == "zone" and owner.thing.keybed == block.keybed:
                return place
            if owner.kind == "block" and owner.thing.id == block.id:
                return place
        return len(blocks)

    @staticmethod
    def _states(
        left: ProgramLeft, base: tuple[Difference, ...]
    ) -> tuple[dict[str, State], tuple[Difference, ...]]:
        """How far settings have come that are still to be dialled or stored, and which these are.

        What the buffer holds already is only to be stored.
        """
        states: dict[str, State] = {each.key: "planned" for each in base}
        waiting = list(base)
        if left.in_buffer is not None:
            for _, differences in left.in_slots:
                for each in differences:
                    if each.key not in states:
                        states[each.key] = "sent"
                        waiting.append(each)
        return states, tuple(waiting)

    def _base(self, left: ProgramLeft) -> tuple[Slot, Content | None, tuple[Difference, ...]]:
        """What to begin from: the slot, what it holds, and what has to be dialled then.

        Its own slot or buffer; where little is known of those, another program that is much alike.
        """
        home = slots_of(left.program)[0]
        for slot in slots_of(left.program):
            if left.in_buffer is not None and same_slot(slot, self.memory.selected):
                buffer = self.memory.buffer or in_slot(self.memory, slot)
                return slot, buffer, left.in_buffer
        content = in_slot(self.memory, home)
        own = left.in_slots[0][1]
        if content is not None and content.whole:
            return home, content, own
        best = (home, content, own)
        for program in self.device.programs:
            slot = Slot(number=program.number)
            other = self.stored.get(slot_key(slot)) or in_slot(self.memory, slot)
            if program is left.program or other is None or not other.whole or other.unknown:
                continue
            differences = program_differences(self.device, left.program, other)
            if len(differences) < len(best[2]):
                best = (slot, other, differences)
        return best

    def _select(self, slot: Slot, program: Program, keep: bool = False) -> Step:
        """Select a slot; done where it is on, with nothing in the buffer but what is to be kept."""
        is_on = same_slot(slot, self.on) and (keep or self.clean)
        self.on, self.clean = slot, True
        state: State = "stored" if is_on else "planned"
        return Step(Operation("select", slot=slot), (), state, program, presses=SELECT)

    def _grouped(self, differences: Iterable[Difference], shown: Iterable[Dial]) -> Groups:
        """Settings by the thing that they are of, with those that are shown though done."""
        listed = list(differences)
        told = {difference.key for difference in listed}
        done = [Difference(dial, dial.value) for dial in shown if key_of(dial) not in told]
        if done:
            listed = self._in_device_order([*listed, *done])
        return grouped_by_thing(listed)

    def _in_device_order(self, listed: list[Difference]) -> list[Difference]:
        """As a person meets them on the device; what is gone comes last."""
        refs = frozenset(difference.dial.ref for difference in listed)
        places: dict[str, int] = {}
        for number, dial in enumerate(dials_named(self.device, refs)):
            places[dial.ref] = number
        last = len(places)
        return sorted(listed, key=lambda each: places.get(each.dial.ref, last))

    def _last(self, wanted: int | None) -> Iterator[Step]:
        """The program that the first scene wants is selected in the end."""
        if wanted is None or not self.device.storage.slots:
            return
        slot = Slot(number=wanted)
        if same_slot(slot, self.on):
            return
        yield Step(Operation("select", slot=slot), (), "planned", presses=SELECT)
