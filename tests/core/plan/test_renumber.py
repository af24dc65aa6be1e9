"""Renumbering to a run keeps every wish; numbers are named as they are found; caps keep an order."""

import pytest

from vastzone import demo
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.parameter_names import name_number
from vastzone.core.plan.edits.renumber import renumber, run_of
from vastzone.core.proof.check import scenes_compiled
from vastzone.core.proof.marking import prove
from vastzone.core.response.loudness import ceilings, volume_db
from vastzone.core.solve.caps import write_caps
from vastzone.files import native


@pytest.fixture(scope="module")
def ready():
    return native.read(demo.READY)


@pytest.mark.parametrize("first", [3, 20, 26, 40])
def test_a_run_keeps_the_proof(ready, first):
    run = run_of(ready, first)
    assert list(run.values()) == sorted(run.values()) and len(set(run.values())) == len(run)
    assert prove(renumber(ready, first).change(ready)).good


def test_a_run_that_would_end_beyond_the_controllers_is_refused(ready):
    with pytest.raises(EditError, match="beyond 119"):
        renumber(ready, 118)


def test_naming_takes_a_number_and_gives_it_back(ready):
    pool = next(d for d in ready.devices if d.id == "echo-pool")
    named = name_number(pool, 90, "Wobble").change(ready)
    held = next(d for d in named.devices if d.id == "echo-pool")
    assert held.targets[-1].controller == 90 and held.targets[-1].channel == 16
    freed = name_number(held, 90, " ").change(named)
    assert next(d for d in freed.devices if d.id == "echo-pool").targets[-1].controller is None


@pytest.mark.parametrize("where", ["senders", "receivers"])
def test_caps_keep_the_order_on_either_side(ready, where):
    caps = ceilings((("Feedback", 3.0), ("Mix", 6.0)))
    made = write_caps(ready, scenes_compiled(ready), caps, where)
    assert made.written == ("Feedback", "Mix") and not made.unknown
    new = made.edit.change(ready)
    assert new != ready
    assert volume_db(caps[0].top) - volume_db(caps[1].top) >= 6
    with pytest.raises(EditError, match="names"):
        write_caps(ready, scenes_compiled(ready), ceilings((("Owl", 0.0),)), where)
