"""Fields of where sounds leave their device: of parts, and of sounds that go a way of their own."""

from typing import Any

from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.values import Listed, Whole, signed
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.queries.sounds import output_choices, output_words
from vastzone.core.say import say


def _outputs(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """The first output, as it comes, then every output and pair by name."""
    device = owner.device
    usual = say("as the part") if owner.kind == "route" else say("the first")
    choices: list[tuple[str, Any]] = [(usual, "")]
    for choice in output_choices(device):
        choices.append((output_words(device, choice), choice))
    return tuple(choices)


def _leaves(owner: Owner) -> bool:
    """Whether something leaves its device at an output at all."""
    return bool(owner.device.outputs) and has_field(owner.device, f"{owner.kind}/output")


OUTPUT = Listed(_outputs)
LEVEL, PAN = Whole(0, 127), Whole(-64, 63, say=signed)

AUDIO_FIELDS: tuple[Field, ...] = (
    Field("part", "output", say("Output"), "part-mode", OUTPUT, _leaves, "", solved=True),
    Field("part", "level", say("Level"), "part-mode", LEVEL, _leaves, 100),
    Field("part", "pan", say("Pan"), "part-mode", PAN, _leaves, 0),
    Field("route", "output", say("Output"), "part-mode", OUTPUT, _leaves, "", solved=True),
    Field("route", "level", say("Level"), "part-mode", LEVEL, _leaves, 100),
    Field("route", "pan", say("Pan"), "part-mode", PAN, _leaves, 0),
)
