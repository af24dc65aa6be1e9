"""What feet are wanted for against what their jacks are told, and switches that do not come back."""

from hypothesis import given
from hypothesis import strategies as st

from tests.core.engine.test_functions import stage, turning
from tests.rigs import scene
from vastzone.core.plan.edits.pedals import take_over
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.functions import TOLD
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.check import check

JACK = "stage:jack"


def with_foot(plan, function, offers=TOLD, kind="switch", **more):
    jack = PedalJack(
        id="jack", name="Jack", accepts=("switch",), functions=tuple(offers), control="foot"
    )
    device = changed(plan.devices[0], jacks=(jack,), **more)
    pedal = Pedal(id="p", name="Left", kind=kind, function=function)
    plug = PedalPlug(pedal="p", jack=JACK)
    return changed(plan, devices=(device,), pedals=(pedal,), pedal_plugs=(plug,))


def told(plan, rule="foot does something else"):
    return [finding for finding in check(plan) if finding.rule == rule]


@given(st.sampled_from(TOLD), st.sampled_from([None, *TOLD]))
def test_a_foot_that_does_something_else_is_found_and_mended(wanted, does):
    """Exactly where a press does not do what is wanted; telling it does, and Fit tells it too."""
    plan = with_foot(stage(does, programs=2, step="goes round"), wanted)
    found = told(plan)
    assert bool(found) == (does != wanted)
    for finding in found:
        assert not told(finding.fixes[0].change(plan))
    fitted = take_over(plan.pedal_plugs).change(plan)
    assert not told(fitted)


@given(st.sampled_from([(64, "sustain"), (66, "sostenuto"), (67, "soft"), (69, "hold")]))
def test_a_standard_controller_does_what_it_means(meant):
    """A jack that sends 64 does sustain without being told."""
    number, function = meant
    sent = {"message": "controller", "number": number, "channel": 1}
    assert not told(with_foot(stage(**sent), function))
    assert told(with_foot(stage(**{**sent, "number": 80}), function))


def test_the_last_program_has_no_next_one():
    """A foot that is wanted for the next program does nothing at the last one, unless it wraps."""
    plan = with_foot(stage("program up", programs=2, step="stops"), "program up")
    scenes = (scene("a", stage=0), scene("b", stage=3))
    found = told(changed(plan, scenes=scenes))
    assert [finding.scenes for finding in found] == [("b",)]


def test_a_function_that_a_device_has_once_cannot_differ():
    """Two programs, told differently, where the device has one: a finding that says so."""
    device = stage("step", programs=2).devices[0]
    first, second = device.programs
    other = changed(second, sends=(changed(second.sends[0], does="gate"),))
    once = ScopeLimit(setting="send-function", scope="global")
    torn = changed(device, programs=(first, other), limits=(once,))
    plan = changed(stage(), devices=(torn,), scenes=(scene("a", stage=0), scene("b", stage=3)))
    found = told(plan, "one for all")
    assert found
    assert found[0].scenes
    assert not told(found[0].fixes[0].change(plan), "one for all")


def test_a_pad_that_is_played_and_changes_the_kit_is_found():
    """A stroke that plays and steps on: told, and mended by letting it only play."""
    plan = stage("program up", programs=2, kind="pad", message="note", number=40, channel=1)
    wish = Wish(id="w", name="W", sources=("stage:foot",), plays="stage:piano", note=40)
    plan = changed(plan, wishes=(wish,))
    found = told(plan, "plays and changes")
    assert found
    assert not told(found[0].fixes[0].change(plan), "plays and changes")


def test_a_switch_that_stays_down_must_not_toggle():
    """A toggle under a latching switch acts at every second press; following its contact mends."""
    sent = {"message": "controller", "number": 80, "channel": 1, "mode": "toggle"}
    plan = stage(latches=True, **sent)
    found = told(plan, "stays down and toggles")
    assert found
    assert not told(found[0].fixes[0].change(plan), "stays down and toggles")


@given(
    st.sampled_from(["absolute", "1 or 127", "65 or 63", "1 or 65"]),
    st.sampled_from(["absolute", "1 or 127", "65 or 63", "1 or 65"]),
)
def test_turns_are_told_as_they_are_read(sender, reader):
    """A finding exactly where both differ; each mend makes them agree."""
    plan = turning(sender, reader)
    found = told(plan, "turns read otherwise")
    assert bool(found) == (sender != reader)
    for finding in found:
        for fix in finding.fixes:
            assert not told(fix.change(plan), "turns read otherwise")
