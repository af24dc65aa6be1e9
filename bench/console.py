"""Consoles: a scan of seven manuals against a frame, and the trials that the finder needs."""

from collections.abc import Iterator

from bench import finder
from bench.table import Row, best
from vastzone.core.console.circuit import built
from vastzone.core.console.scan import scan, state_of
from vastzone.core.plan.model.console import Block, Console, Encoder, Fault
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.plan import Device

FRAME_MS, SAMPLE, MOST = 1000 / 60, 60, 8


def seven() -> Device:
    """Seven manuals of 61 keys on one encoder."""
    beds = tuple(Keybed(id=f"m-{n}", name=f"Manual {n}", low=36, keys=61) for n in range(7))
    blocks = tuple(
        Block(id=b.id, name=b.name, keybed=b.id, commons=tuple(range(6 * n + 1, 6 * n + 7)))
        for n, b in enumerate(beds)
    )
    console = Console(encoder=Encoder(commons=42, keyboards=7), blocks=blocks)
    return Device(id="c", name="C", kind="encoder", keybeds=beds, console=console)


def rows() -> Iterator[Row]:
    owner = seven()
    assert owner.console is not None
    made = built(owner, owner.console)
    state = state_of(
        made, (Fault(kind="short", at=1, to=2), Fault(kind="shorted diode", block="m-3", at=7))
    )
    held = [made.contact(n % 7, 5 * n % 61) for n in range(20)]
    took = best(lambda: scan(made, state, held)) * 1000
    yield Row(
        "Console of 7 × 61 keys: a scan with 20 keys held",
        f"{took:.2f} ms",
        f"{FRAME_MS:.1f} ms frame",
        took / FRAME_MS,
        1 / 10,
    )
    counts, right = finder.sample(SAMPLE)
    yield Row(
        f"Fault finder: worst trials of {SAMPLE} single faults, {right} found",
        f"{max(counts)}",
        "",
        max(counts) if right == SAMPLE else 99,
        MOST,
    )
