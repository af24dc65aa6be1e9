from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from tests.trial_rigs import RIGS
from vastzone.core.cards.card import card, cards, count, effort
from vastzone.core.cards.cautions import cautions
from vastzone.core.cards.diff import differences, undialled
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.model import Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.edits.cables import remove_cable
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send, Slot
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Storage, Switch
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.solve.clash import work_out

TODAY = Known(on="2026-11-25", how="dialled", by="ab")


def solved():
    board = keyboard(zone("low", 36, 59, 9), zone("high", 60, 96, 2), octaves=3, first_program=0)
    plan = joined(
        board,
        module(part("one", 1), part("two", 2)),
        wishes=(
            wish("low", "box:one", 36, 59),
            wish("high", "box:two", 60, 96),
        ),
    )
    return plan, work_out(plan).plan


def tick(memory, plan, line, device="board"):
    held = next(one for one in memory.devices if one.device == device)
    owner = next(one for one in plan.devices if one.id == device)
    return with_memory(memory, perform(held, owner, line.operation, TODAY))


def words(made):
    return [line.words for line in made.lines]


def test_a_card_lists_only_what_differs_in_the_devices_own_terms():
    old, plan = solved()
    (made,) = cards(plan, of_plan(old))
    (section,) = made.sections
    assert (made.device, section.title) == ("board", "Program 0, First")
    assert words(made) == [
        "Select slot 0.",
        "Zone Low → channel 1 (was: 9)",
        "Store to slot 0.",
    ]
    everything = card(plan, of_plan(plan), plan.devices[0], everything=True)
    told = " ".join(words(everything))
    assert "lowest C1 (36)" in told and "highest B2 (59)" in told, "middle C is C3 here"


def test_lines_go_from_planned_to_sent_to_stored_with_day_and_initials():
    old, plan = solved()
    memory = of_plan(old)
    board = plan.devices[0]
    select, dial, store = card(plan, memory, board).lines
    assert (select.state, dial.state, store.state) == ("stored", "planned", "planned")
    memory = tick(memory, plan, dial)
    also = frozenset(dial.operation.refs)
    sent = card(plan, memory, board, also=also).lines[1]
    assert sent.state == "sent" and (sent.known.on, sent.known.by) == ("2026-11-25", "ab")
    memory = tick(memory, plan, store)
    assert not cards(plan, memory)
    kept = card(plan, memory, board, also=also).lines
    assert [line.state for line in kept] == ["stored"] * 3 and kept[1].known.by == "ab"
    again = changed(
        plan, devices=(changed(board, programs=old.devices[0].programs), *plan.devices[1:])
    )
    assert [line.state for line in card(again, memory, again.devices[0]).lines][1] == "planned"


def test_a_store_before_anything_was_sent_says_what_it_would_do_and_does_that():
    old, plan = solved()
    memory, board = of_plan(old), plan.devices[0]
    made = card(plan, memory, board)
    held = memory_of(memory, board)
    store = made.lines[-1]
    assert "Nothing has been sent" in cautions(board, held, made)[store.operation]
    after = tick(memory, plan, store)
    assert words(card(plan, after, board)) == words(made), "the old values were stored"


def test_selecting_another_slot_says_that_what_is_not_stored_is_lost():
    old, plan = solved()
    board = plan.devices[0]
    memory = tick(of_plan(old), plan, card(plan, of_plan(old), board).lines[1])
    held = perform(memory_of(memory, board), board, Operation("none"), TODAY)
    made = card(plan, memory, board)
    other = Operation("select", slot=Slot(number=3))
    line = made.lines[0]._replace(operation=other, state="planned")
    section = made.sections[0]._replace(lines=(line, *made.lines[1:]))
    made = made._replace(sections=(section,))
    assert "would be lost" in cautions(board, held, made)[other]
    lost = tick(memory, plan, line)
    assert "planned" in {one.state for one in card(plan, lost, board).lines}


def test_settings_that_are_one_in_the_device_are_dialled_once():
    limits = (ScopeLimit(setting="send-channel", scope="program"),)
    before = joined(pads(4, limits=limits), module(part("p0", 5)))
    plan = edit_sends("pads", "Move", lambda send: changed(send, channel=5))(before)
    made = {one.device: one for one in cards(plan, of_plan(before))}["pads"]
    channels = [line for line in made.lines if line.after.startswith("channel")]
    assert [line.thing for line in channels] == ["Pad 1 and 3 more"]
    assert len(channels[0].operation.refs) == 4 and len(made.lines) == 3


def fader(**more):
    send = Send(control="fader", message=more.pop("message", "controller"), channel=1, **more)
    return Program(number=0, name="One", sends=(send,))


def faders(program, receives="set"):
    control = Control(id="fader", name="Fader 1", kind="fader")
    target = Target(id="volume", name="Layer 1 volume", channel=1, controller=28, receives=receives)
    board = keyboard(controls=(control,), programs=(program,))
    host = module(part(), targets=(target,))
    moved = Wish(id="w", name="W", sources=("board:fader",), moves="box:volume")
    return joined(board, host, wishes=(moved,))


def test_a_control_is_told_in_one_line_in_the_words_of_a_musician():
    before = faders(fader(message="note", number=21))
    plan = faders(fader(number=28))
    dial = card(plan, of_plan(before), plan.devices[0]).lines[1]
    assert dial.words == (
        "Fader 1 → controller 28 on channel 1, for Layer 1 volume (was: note A0 (21) on channel 1)"
    )
    silent = faders(fader(message="none"))
    dial = card(plan, of_plan(silent), plan.devices[0]).lines[1]
    assert dial.before == "sends nothing"


def test_what_learns_comes_after_all_that_it_learns_from():
    before = faders(fader(number=21), "learns")
    box = before.devices[1]
    changes = changed(box, targets=(changed(box.targets[0], controller=30),))
    plan = changed(before, devices=(faders(fader(number=30)).devices[0], changes))
    plan = changed(plan, devices=(plan.devices[1], plan.devices[0]))
    made = cards(plan, of_plan(before))
    assert [one.device for one in made] == ["board", "box"]
    line = made[-1].lines[-1]
    assert line.kind == "learn"
    assert line.words == "Learn Layer 1 volume: press it, then move Fader 1"


def test_a_device_without_a_buffer_has_no_store_and_one_without_slots_no_select():
    old, plan = solved()
    for storage, kinds in (
        (Storage(buffer=False), ["select", "dial"]),
        (Storage(slots=0), ["dial"]),
        (Storage(editor="slots"), ["dial"]),
        (Storage(editor="buffer", close_editor=True), ["select", "dial", "store", "close"]),
    ):
        board = changed(plan.devices[0], storage=storage)
        rig = changed(plan, devices=(board, *plan.devices[1:]))
        made = card(rig, of_plan(old), board)
        assert [line.kind for line in made.lines] == kinds, storage


def test_effort_compares_two_solutions():
    old, plan = solved()
    memory = of_plan(old)
    assert effort(cards(old, memory)) == (0, 0)
    assert effort(cards(plan, memory)) == (3, 3 + 8 + 3), "three to reach, eight steps, a store"
    told = count(plan, memory, plan.devices[0])
    assert (told.steps, told.done, told.presses) == (2, 1, 14)


def test_what_differs_is_told_in_words():
    old, plan = solved()

    def sentences(one, other):
        return [each.whole for each in differences(one, other)]

    assert sentences(old, plan) == ["Board, program 0: Zone Low, channel from 9 to 1."]
    left = [each.whole for each in undialled(plan, of_plan(old))]
    assert left == ["Board, program 0: Zone Low, channel from 9 to 1."]
    assert sentences(plan, plan) == [] and not undialled(old, of_plan(old))
    renamed = set_device("board", "Rename", name="Big board")(plan)
    assert "The device Board is now called Big board." in sentences(plan, renamed)
    gone = "Cable from merge:out to box:in is gone."
    assert gone in sentences(plan, remove_cable(plan.cables[-1])(plan))
    later = changed(plan, wishes=(changed(plan.wishes[0], shift=12), *plan.wishes[1:]))
    assert sentences(plan, later) == ["The wish Low: shift is 12, not 0."]


def test_an_encoder_is_told_keyboard_by_keyboard_in_the_order_of_its_questions():
    before = RIGS["d"]()
    coot = before.devices[0]
    zones = tuple(changed(zone, channel=zone.channel % 16 + 1) for zone in coot.programs[0].zones)
    program = changed(coot.programs[0], zones=zones[::-1])
    plan = changed(before, devices=(changed(coot, programs=(program,)), *before.devices[1:]))
    lines = card(plan, of_plan(before), plan.devices[0]).lines
    told = [line.thing for line in lines if line.thing.startswith("Zone")]
    names = {zone.keybed: f"Zone {zone.name}" for zone in zones}
    asked = [names[block.keybed] for block in coot.console.blocks if block.keybed in names]
    assert told == asked and len(told) > 1


def test_what_is_only_set_until_it_is_written_is_told_with_its_day():
    switch = Switch(id="clock", name="Clock", choices=("inside", "outside"), kept="on write")
    old = rig(keyboard(zone(), switches=(switch,)), module(part()))
    board = changed(old.devices[0], switches=(changed(switch, choice=1),))
    plan = changed(old, devices=(board, old.devices[1]))
    made = card(plan, of_plan(old), board)
    assert [line.kind for line in made.lines] == ["dial", "write"]
    told = cautions(board, memory_of(of_plan(old), board), made)
    assert "not set yet" in told[made.lines[1].operation]
    memory = tick(of_plan(old), plan, made.lines[0])
    sent, write = card(plan, memory, board).lines
    assert (sent.state, sent.known.by, write.state) == ("sent", "ab", "planned")
    memory = tick(memory, plan, write)
    assert not card(plan, memory, board).lines


def test_scenes_programs_and_plugs_that_differ_are_told():
    programs = tuple(Program(number=n, name=f"P{n}", zones=(zone(),)) for n in range(2))
    one = rig(keyboard(programs=programs), module(part()), scenes=(scene("dusk", board=0),))
    other = changed(one, scenes=(scene("dusk", board=1),))
    assert [each.whole for each in differences(one, other)] == [
        "In Dusk, Board is on program 2, P1."
    ]
    gone = changed(other, devices=(other.devices[1],), cables=(), scenes=(scene("dusk"),))
    told = [each.whole for each in differences(one, gone)]
    assert "The device Board is gone." in told and len(told) == 2
