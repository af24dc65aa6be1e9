"""The last stretch before the stage: outputs given out, the plan without, the book."""

from collections.abc import Iterator
from datetime import date
from functools import partial

from bench.full_house import full_house
from bench.table import Row, best
from vastzone import demo
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.plan.edits.audio import usual_wishes
from vastzone.core.plan.model.audio import OutputWish
from vastzone.core.plan.model.bodies import AudioOutput
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.proof.check import check
from vastzone.core.sheets.book import book
from vastzone.core.solve.desk_outputs import give_out
from vastzone.core.solve.losing import losses
from vastzone.core.solve.without import every_loss, without
from vastzone.files import native
from vastzone.files.paper import Form
from vastzone.files.sheet_paper import to_pdf

PARTS, OUTPUTS = 64, 8
SOUNDS = ("Kick", "Snare", "Hat", "Tom", "Crash", "Loop", "Viol", "Lead", "Pad", "Choir")


def many_parts() -> Plan:
    """A module of sixty-four parts and eight outputs, with the usual wishes and leads in stereo."""
    parts = tuple(
        Part(id=f"p{n}", name=f"{SOUNDS[n % len(SOUNDS)]} {n}", tag="AA", channel=1 + n % 16)
        for n in range(PARTS)
    )
    outputs = tuple(AudioOutput(id=str(n), name=f"Output {n}") for n in range(1, OUTPUTS + 1))
    device = Device(id="big", name="Big", kind="module", parts=parts, outputs=outputs)
    plan = Plan(name="Many parts", devices=(device,))
    leads = tuple(f"big:{part.id}" for part in parts if "Lead" in part.name)
    stereo = OutputWish(id="leads", name="Leads", of=leads, want="stereo", strength=3)
    return changed(plan, output_wishes=(*usual_wishes(plan), stereo))


def rows() -> Iterator[Row]:
    given = best(lambda: give_out(many_parts(), "big"), 3)
    yield Row("outputs, 64 parts on 8", f"{given:.3f} s", "1 s", given, 1.0)
    plan = native.read(demo.READY)
    table = best(lambda: list(every_loss(plan)), 1)
    yield Row("every device lost in turn", f"{table:.2f} s", "10 s", table / 10, 1.0)
    devices = [loss for loss in losses(plan) if loss.kind == "device"]
    each = max(best(partial(without, plan, loss), 1) for loss in devices)
    yield Row("one device lost, the longest", f"{each:.2f} s", "1 s", each, 1.0)
    large = full_house()
    memory = of_plan(large)
    check(large)  # as a window has that shows the plan
    today = date.today().isoformat()
    paper = best(lambda: to_pdf(book(large, memory), large.name, today, Form(), book=True), 1)
    yield Row("the book of the full house", f"{paper:.2f} s", "10 s", paper / 10, 1.0)
