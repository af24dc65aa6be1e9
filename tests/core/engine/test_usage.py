"""What goes over a cable, against every message followed one by one."""

from hypothesis import given, settings

from tests.plans import plans
from vastzone import demo
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.usage import usage
from vastzone.files import native


def followed(compiled):
    found = {}
    for emissions in compiled.keys.values():
        for emission in emissions:
            for step in emission.tree.steps:
                way = (step.arc.source, step.arc.dest)
                found.setdefault(way, set()).add(emission.channel + 1)
    for sendings in compiled.controls.values():
        for sending in sendings:
            for sent in (*sending.notes, *sending.motions):
                for step in sent.tree.steps:
                    found.setdefault((step.arc.source, step.arc.dest), set()).add(sent.channel + 1)
    return found


@settings(max_examples=60, deadline=None)
@given(plans())
def test_every_channel_and_no_other(plan):
    for scene in plan.scenes:
        compiled = compile_scene(plan, scene)
        assert {way: set(u.channels) for way, u in usage(compiled).items()} == followed(compiled)


def test_each_channel_names_who_sends_on_it():
    plan = native.read(demo.AS_FOUND)
    for scene in plan.scenes:
        compiled = compile_scene(plan, scene)
        for use in usage(compiled).values():
            assert set(use.senders) == set(use.channels)
            assert all(names for names in use.senders.values())
