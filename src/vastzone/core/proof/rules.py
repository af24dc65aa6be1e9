"""The table of rules: what each finds, how grave that is, and where it is seen best.

A rule is added by a function that looks and a line here.  A function may find several things; it
is run once.
"""

from types import MappingProxyType
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof import (
    combinations,
    console,
    console_schools,
    couplers,
    coverage,
    desk,
    doubles,
    endings,
    functions,
    held_tabs,
    inputs,
    lateness,
    numbers,
    pad_response,
    pads,
    pedals,
    powering,
    repitching,
    scopes,
    setlists,
    sweeps,
    turns,
    wiring,
)
from vastzone.core.proof.finding import Finding, PlanRule, Remark, Severity, SpotRule
from vastzone.core.say import say

View = Literal["rig", "keys", "pads", "pedals", "console", "scenes", "outputs"]


class Rule(NamedTuple):
    """One thing that can be wrong.

    ``severity`` is the usual one.  ``view`` is where it is seen best, and ``page`` the page there
    (the first when empty); what is said to be seen in keys or pedals is seen where its first
    subject is.  ``of_spot`` looks at a keybed in a program, ``of_plan`` at the whole plan; without
    either it is only told as a cause.  ``causes`` are the kinds of causes that tell the same, and
    ``doubles`` says that its keys sound twice.
    """

    id: str
    severity: Severity
    view: View
    of_spot: SpotRule | None = None
    of_plan: PlanRule | None = None
    page: str = ""
    causes: tuple[str, ...] = ()
    doubles: bool = False

    @property
    def title(self) -> str:
        """What it is called where it is shown."""
        title = say(self.id)
        return title[0].upper() + title[1:]


RULES: tuple[Rule, ...] = (
    Rule("dead keys", "fault", "keys", of_spot=coverage.dead_keys, causes=("dead", "off")),
    Rule(
        "outside 0–127", "fault", "keys", of_spot=coverage.outside_midi, causes=("shift", "range")
    ),
    Rule("octave naming", "fault", "keys", of_spot=coverage.unanswered, causes=("shift", "range")),
    Rule("unheard zone", "fault", "keys", of_spot=coverage.unanswered, causes=("channel", "path")),
    Rule("outside part", "fault", "keys", of_spot=coverage.unanswered, causes=("shift", "range")),
    Rule(
        "keys that double",
        "fault",
        "keys",
        of_spot=doubles.overlapping_zones,
        causes=("reach", "stray"),
        doubles=True,
    ),
    Rule(
        "parts on one channel",
        "fault",
        "keys",
        of_spot=doubles.shared_channel,
        causes=("shared",),
        doubles=True,
    ),
    Rule("connected twice", "fault", "rig", of_spot=doubles.double_ways, causes=("twice",)),
    Rule("local control", "fault", "rig", of_spot=doubles.double_ways, causes=("twice",)),
    Rule("thru ring", "fault", "rig", of_plan=doubles.thru_rings, causes=("twice",)),
    Rule(
        "reserved controller",
        "fault",
        "keys",
        of_plan=numbers.reserved_controllers,
        causes=("controller",),
    ),
    Rule("more pads than inputs", "caution", "pads", of_plan=inputs.unplugged_pads, page="Inputs"),
    Rule("pad in no input", "caution", "pads", of_plan=inputs.unplugged_pads, page="Inputs"),
    Rule("zone lost", "caution", "pads", of_plan=inputs.lost_zones, page="Inputs"),
    Rule("splitter broken", "fault", "pads", of_plan=inputs.broken_splitters, page="Inputs"),
    Rule(
        "pad on a hat pedal", "caution", "pads", of_plan=inputs.pads_on_a_hat_pedal, page="Inputs"
    ),
    Rule(
        "hat without its pedal",
        "caution",
        "pads",
        of_plan=inputs.hats_without_their_pedal,
        page="Inputs",
    ),
    Rule("two pads on one note", "caution", "pads", of_plan=pads.two_on_one_note),
    Rule("pad outside the kit", "caution", "pads", of_plan=pads.silent_pads),
    Rule("pads double keys", "caution", "pads", of_plan=pads.pads_double_keys),
    Rule("mute group alone", "caution", "pads", of_plan=pads.lonely_mute_groups),
    Rule("rhythm not on 10", "hint", "pads", of_plan=pads.rhythm_elsewhere),
    Rule("channel 10 not rhythm", "hint", "pads", of_plan=pads.others_on_10),
    Rule("more sounds than pads", "caution", "pads", of_plan=pads.more_sounds_than_pads),
    Rule("over-range voltage", "fault", "pedals", of_plan=pedals.pedals_in_jacks, page="Jacks"),
    Rule("wrong jack", "fault", "pedals", of_plan=pedals.pedals_in_jacks, page="Jacks"),
    Rule("pedal half works", "caution", "pedals", of_plan=pedals.pedals_in_jacks, page="Jacks"),
    Rule(
        "foot does something else",
        "caution",
        "pedals",
        of_plan=functions.told_otherwise,
        page="Jacks",
    ),
    Rule("plays and changes", "caution", "pads", of_plan=functions.changes_besides),
    Rule("voltages mixed", "hint", "pedals", of_plan=pedals.mixed_sources, page="Jacks"),
    Rule(
        "coupler not as wished",
        "fault",
        "console",
        of_plan=couplers.couplers_as_wished,
        page="Couplers",
    ),
    Rule(
        "coupler sounds twice",
        "fault",
        "console",
        of_plan=couplers.couplers_as_wished,
        page="Couplers",
    ),
    Rule(
        "couplers in a ring",
        "fault",
        "console",
        of_plan=couplers.couplers_in_rings,
        page="Couplers",
    ),
    Rule(
        "coupler nobody wished",
        "hint",
        "console",
        of_plan=couplers.couplers_unwished,
        page="Couplers",
    ),
    Rule(
        "piston draws otherwise",
        "fault",
        "console",
        of_plan=combinations.pistons_as_set,
        page="Pistons",
    ),
    Rule(
        "crescendo draws otherwise",
        "fault",
        "console",
        of_plan=combinations.crescendos_as_set,
        page="Pistons",
    ),
    Rule("led elsewhere", "fault", "scenes", of_plan=setlists.led_elsewhere),
    Rule("two leaders", "fault", "scenes", of_plan=setlists.two_leaders),
    Rule("leaders in a ring", "fault", "scenes", of_plan=setlists.two_leaders),
    Rule("two clocks", "fault", "scenes", of_plan=setlists.two_clocks),
    Rule("no clock", "caution", "scenes", of_plan=setlists.two_clocks),
    Rule("click without a clock", "hint", "scenes", of_plan=setlists.clicks_without_a_clock),
    Rule("program nobody selects", "hint", "scenes", of_plan=setlists.unselected_programs),
    Rule("no such slot", "fault", "scenes", of_plan=setlists.missing_slots),
    Rule("steps and plays", "caution", "scenes", of_plan=setlists.buttons_of_two_minds),
    Rule("hands are busy", "caution", "scenes", of_plan=setlists.busy_hands),
    Rule("loop over a change", "caution", "scenes", of_plan=setlists.heard_changes),
    Rule("step skips", "hint", "scenes", of_plan=setlists.steps_that_skip, page="Storing"),
    Rule("sent too early", "caution", "scenes", of_plan=setlists.sent_too_early),
    Rule("sound nowhere", "fault", "outputs", of_plan=desk.sounds_at_the_desk),
    Rule("sound at the desk twice", "fault", "outputs", of_plan=desk.sounds_at_the_desk),
    Rule("one side lost", "caution", "outputs", of_plan=desk.sounds_at_the_desk),
    Rule("not on its channel", "fault", "outputs", of_plan=desk.sounds_at_the_desk),
    Rule("output wish not kept", "caution", "outputs", of_plan=desk.output_wishes),
    Rule("sound in two copies", "fault", "outputs", of_plan=desk.copies_of_sounds),
    Rule("phantom into an output", "caution", "outputs", of_plan=desk.phantom_power, page="Desk"),
    Rule("long line without a box", "hint", "outputs", of_plan=desk.long_lines, page="Desk"),
    Rule("late", "caution", "outputs", of_plan=lateness.late_ways, page="Delay"),
    Rule("Bluetooth under drums", "caution", "outputs", of_plan=lateness.late_ways, page="Delay"),
    Rule("line busy", "caution", "outputs", of_plan=lateness.busy_lines, page="Delay"),
    Rule("sweep starves notes", "caution", "outputs", of_plan=lateness.busy_lines, page="Delay"),
    Rule("wrong polarity", "fault", "outputs", of_plan=powering.supplies, page="Power"),
    Rule("wrong voltage", "fault", "outputs", of_plan=powering.supplies, page="Power"),
    Rule("plug does not fit", "caution", "outputs", of_plan=powering.supplies, page="Power"),
    Rule("too few outlets", "caution", "outputs", of_plan=powering.supplies, page="Power"),
    Rule("supply overloaded", "fault", "outputs", of_plan=powering.supplies, page="Power"),
    Rule("supply without reserve", "caution", "outputs", of_plan=powering.supplies, page="Power"),
    Rule("battery ends early", "caution", "outputs", of_plan=powering.batteries, page="Power"),
    Rule("hub overloaded", "fault", "outputs", of_plan=powering.usb_power, page="Power"),
    Rule("port overloaded", "fault", "outputs", of_plan=powering.usb_power, page="Power"),
    Rule("USB without a host", "fault", "outputs", of_plan=powering.usb_power, page="Power"),
    Rule("not fed", "hint", "outputs", of_plan=powering.unfed, page="Power"),
    Rule("small jacks crossed", "fault", "rig", of_plan=powering.links),
    Rule("too much radio", "caution", "rig", of_plan=powering.links),
    Rule("cable too long", "caution", "outputs", of_plan=powering.links, page="Stage"),
    Rule("stays down and toggles", "caution", "pedals", of_plan=functions.never_comes_back),
    Rule(
        "turns read otherwise",
        "fault",
        "pedals",
        of_plan=turns.turns_read_otherwise,
        page="Table",
    ),
    Rule("pedal in no jack", "caution", "pedals", of_plan=pedals.unplugged_pedals, page="Jacks"),
    Rule(
        "two controls on one number",
        "caution",
        "pedals",
        of_plan=pedals.two_on_one_controller,
        page="Table",
    ),
    Rule("step too coarse", "hint", "pedals", of_plan=pedals.coarse_steps),
    Rule("switch on a sweep", "hint", "pedals", of_plan=pedals.ends_only),
    Rule("sweep on a switch", "hint", "pedals", of_plan=pedals.ends_only),
    Rule("controls fight", "caution", "pedals", of_plan=pedals.fights),
    Rule("bend ranges disagree", "caution", "pedals", of_plan=pedals.bend_ranges),
    Rule("dead slot", "hint", "pedals", of_plan=pedals.dead_slots),
    Rule("standard meaning misused", "hint", "pedals", of_plan=pedals.misused_standards),
    Rule("half of a pair", "hint", "pedals", of_plan=sweeps.split_pairs),
    Rule("low bits used elsewhere", "fault", "pedals", of_plan=sweeps.split_pairs),
    Rule(
        "above its ceiling",
        "caution",
        "pedals",
        of_plan=sweeps.above_ceiling,
        page="Levels",
        causes=("travel",),
    ),
    Rule(
        "more targets than slots", "fault", "pedals", of_plan=sweeps.too_many_targets, page="Table"
    ),
    Rule("held across a scene", "hint", "pedals", of_plan=sweeps.held_over_scenes),
    Rule("note without an end", "fault", "pads", of_plan=endings.notes_without_end),
    Rule("pedal holds at rest", "fault", "pedals", of_plan=endings.pedals_that_hold),
    Rule("too few pins", "fault", "console", of_plan=console.pins, page="Pins"),
    Rule("too many keyboards", "fault", "console", of_plan=console.pins, page="Pins"),
    Rule("pins not assigned", "caution", "console", of_plan=console.pins, page="Pins"),
    Rule("pin used twice", "fault", "console", of_plan=console.pins, page="Pins"),
    Rule("no diodes", "fault", "console", of_plan=console.diodes),
    Rule("mixed diode sense", "fault", "console", of_plan=console.diodes),
    Rule("wrong diode sense", "fault", "console", of_plan=console.diodes, causes=("wiring",)),
    Rule("lowest note outside", "fault", "console", of_plan=console.lowest_notes, page="Pins"),
    Rule(
        "declared from the wrong note",
        "fault",
        "console",
        of_plan=console.lowest_notes,
        page="Pins",
    ),
    Rule(
        "read otherwise than wired",
        "fault",
        "console",
        of_plan=console_schools.read_otherwise,
        page="Pins",
        causes=("shift",),
    ),
    Rule("keyboards on one channel", "caution", "console", of_plan=console.shared_channels),
    Rule("shoe track", "fault", "console", of_plan=console.shoes),
    Rule("shoe chatters", "caution", "console", of_plan=console.shoes),
    Rule("shoe without input", "caution", "console", of_plan=console.shoes),
    Rule("shoe range narrow", "caution", "console", of_plan=console.shoes),
    Rule("scan slow", "caution", "console", of_plan=console.scanning),
    Rule("toggle from a held tab", "caution", "console", of_plan=held_tabs.held_tabs),
    Rule("toggle from a held tab", "caution", "console", of_plan=held_tabs.tabs_that_flip),
    Rule("console fault", "fault", "console", of_plan=wiring.known_faults, causes=("wiring",)),
    Rule("seen otherwise", "fault", "console", of_plan=wiring.seen_otherwise, page="Faults"),
    Rule("layer hole", "fault", "pads", of_plan=pad_response.layer_holes),
    Rule("layers together", "hint", "pads", of_plan=pad_response.layers_meet),
    Rule("mute group one-sided", "caution", "pads", of_plan=pad_response.one_sided_mutes),
    Rule("zones linked", "hint", "pads", of_plan=pad_response.linked_zones, page="Inputs"),
    Rule(
        "hi-hat thresholds", "caution", "pads", of_plan=pad_response.hat_thresholds, page="Inputs"
    ),
    Rule("one for all", "fault", "keys", of_plan=scopes.one_for_all),
    Rule("kit moves sounds", "caution", "pads", of_plan=scopes.moved_sounds),
    Rule("more than 16 channels", "fault", "keys", of_plan=scopes.too_many_channels),
    Rule("far from its root", "hint", "keys", of_plan=repitching.far_from_root),
    Rule("part nobody reaches", "hint", "keys", of_plan=numbers.unreached_parts),
    # What causes are told as where no rule has found the same.
    Rule("zone off", "fault", "keys"),
    Rule("wrong channel", "fault", "keys"),
    Rule("velocity hole", "fault", "keys"),
    Rule("zone too wide", "fault", "keys"),
    Rule("plays unwished", "fault", "keys"),
    Rule("wrong pitch", "fault", "keys"),
    Rule("wrong note", "fault", "keys"),
    Rule("sends nothing", "fault", "keys"),
    Rule("sound not in kit", "fault", "pads"),
    Rule("wrong controller", "fault", "keys"),
    Rule("range not as wished", "fault", "pedals", page="Table"),
    Rule("modes that do not fit", "fault", "pads", page="Inputs"),
    Rule("stroke not heard", "fault", "pads", page="Inputs"),
    Rule("no way there", "fault", "rig"),
    Rule("falls short", "fault", "keys"),
)
BY_ID = MappingProxyType(lookup.by_ids(RULES))
SPOT_RULES = tuple(dict.fromkeys(rule.of_spot for rule in RULES if rule.of_spot is not None))
PLAN_RULES = tuple(dict.fromkeys(rule.of_plan for rule in RULES if rule.of_plan is not None))


def finding_of(remark: Remark) -> Finding:
    """What a rule says, as grave as the table has it where the rule does not say."""
    severity = remark.severity or BY_ID[remark.rule].severity
    return Finding(
        remark.rule,
        severity,
        remark.subjects,
        remark.sentence,
        remark.fixes,
        remark.scenes,
        remark.spans,
    )


def view_of(plan: Plan, finding: Finding) -> View:
    """The view in which a finding is seen best."""
    view = BY_ID[finding.rule].view
    if view not in ("keys", "pedals"):
        return view
    laid = _laid(plan).get(finding.subjects[0])
    if laid is None:
        return view
    return "pads" if laid else "pedals"


def page_of(plan: Plan, finding: Finding) -> str:
    """The page of that view on which it is seen best; the first when empty."""
    rule = BY_ID[finding.rule]
    return rule.page if view_of(plan, finding) == rule.view else ""


@derived(16)
def _laid(plan: Plan) -> MappingProxyType[str, bool]:
    """Whether each control ``device:control`` lies as a face, as a pad does."""
    return MappingProxyType(
        {
            ref_to(owner.id, control.id): control_ability(control).laid
            for owner in plan.devices
            for control in owner.controls
        }
    )
