"""A device laid open, told: each thing on its face, at its back and inside."""

from collections.abc import Callable, Iterable
from functools import partial

from vastzone.app.reader import Element, Role
from vastzone.app.views.rig.workshop.geometry import Bench
from vastzone.core.describe.things import Thing
from vastzone.core.describe.words import thing_words
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say


def elements(
    device: Device,
    bench: Bench,
    bank: int,
    chosen: frozenset[Thing],
    choose: Callable[[Iterable[Thing]], object],
) -> list[Element]:
    """Section by section, in the order in which they are drawn."""
    found: list[Element] = []
    for section in bench.sections:
        found.append(Element(section.name, say(section.name), section.rect, Role.Heading))
        for tile in section.tiles:
            found.append(
                Element(
                    f"{tile.thing.group} {tile.thing.id}",
                    thing_words(device, tile.thing, bank),
                    tile.rect,
                    Role.ListItem,
                    chosen=tile.thing in chosen,
                    press=partial(choose, (tile.thing,)),
                )
            )
    return found
