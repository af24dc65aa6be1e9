"""Following cards, and memories of all kinds, for the laws of what devices hold."""

from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from vastzone.core.cards.card import card, in_order
from vastzone.core.memory.beginnings import as_it_stands, not_known, of_plan, wanted_program
from vastzone.core.memory.differences import left_to_dial
from vastzone.core.memory.model import Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Storage

KNOWN = Known(on="2026-05-01", how="dialled", by="ab")
STORAGES = (
    Storage(),
    Storage(buffer=False),
    Storage(slots=0),
    Storage(slots=0, buffer=False),
    Storage(editor="slots"),
    Storage(editor="buffer", close_editor=True, letters=8),
    Storage(whole="on write"),
)


@st.composite
def stored_plans(draw):
    """Random rigs whose devices keep what is dialled in every way there is."""
    plan = draw(wide_plans())
    devices = []
    for device in plan.devices:
        parts = []
        for part in device.parts:
            receives = draw(st.sampled_from(("set", "set", "learns", "fixed", "takes all")))
            parts.append(changed(part, receives=receives))
        storage = draw(st.sampled_from(STORAGES))
        devices.append(changed(device, storage=storage, parts=tuple(parts)))
    return changed(plan, devices=tuple(devices))


def done(memory, device, line):
    """One line ticked."""
    held = memory_of(memory, device)
    return with_memory(memory, perform(held, device, line.operation, KNOWN))


def lines_of(plan, memory):
    """Every line that waits, with its device, in the order of the cards."""
    listed = []
    for device in in_order(plan):
        for line in card(plan, memory, device).lines:
            if line.waits:
                listed.append((device, line))
    return listed


def follow(plan, memory):
    """Every card followed step by step."""
    for device, line in lines_of(plan, memory):
        memory = done(memory, device, line)
    return memory


def left(plan, memory):
    """What is left to dial, as lines."""
    return [line.words for _, line in lines_of(plan, memory) if line.kind != "close"]


def is_dialled(plan, memory):
    """Whether nothing is left anywhere."""
    for device in plan.devices:
        held = memory_of(memory, device)
        if not left_to_dial(device, held, wanted_program(plan, device)).nothing:
            return False
    return True


@st.composite
def memories(draw, plan, earlier):
    """Devices as they stood in an earlier plan, unknown, or after work in any order."""
    memory = of_plan(earlier)
    for device in plan.devices:
        begin = draw(st.sampled_from(("earlier", "unknown", "planned")))
        if begin == "unknown":
            memory = with_memory(memory, not_known(device))
        elif begin == "planned":
            memory = with_memory(memory, as_it_stands(device, "2026-01-01", "out of the box"))
    for _ in range(draw(st.integers(0, 6)) if plan.devices else 0):
        device = draw(st.sampled_from(plan.devices))
        numbers = [program.number for program in device.programs] or [0]
        slot = Slot(number=draw(st.sampled_from([*numbers, 7])))
        kind = draw(st.sampled_from(("select", "store", "power", "write", "dial")))
        operation = Operation(kind, (), slot)
        if kind == "dial":
            lines = [x for x in card(plan, memory, device).lines if x.kind == "dial"]
            if not lines:
                continue
            operation = draw(st.sampled_from(lines)).operation
        held = memory_of(memory, device)
        memory = with_memory(memory, perform(held, device, operation, KNOWN))
    return memory
