"""The rule about keyboards that an encoder reads otherwise than they are wired."""

from collections.abc import Iterator

from vastzone.core.console.schools import mends, sentence
from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.console import consoles_of, zones_of_blocks
from vastzone.core.proof.finding import Remark


def read_otherwise(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Keyboards wired by one school and read by the other, unless what is told makes up for it."""
    for owner, console in consoles_of(plan):
        for program, block, zone in zones_of_blocks(owner, console):
            ref = ref_to(owner.id, zone.keybed)
            wished = {wish.shift for wish in plan.wishes if ref in wish.sources} or {0}
            shift = heard_shift(owner, zone)
            if shift == zone.shift or shift in wished:
                continue
            fixes = tuple(mends(owner, console, program, block, zone))
            yield Remark(
                "read otherwise than wired",
                (ref, owner.id),
                sentence(owner, console, block),
                fixes,
            )
