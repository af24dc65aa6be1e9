"""An organ with couplers, pistons and a crescendo, from an empty plan: told, held, played, proved."""

import pytest
from PySide6.QtCore import QPoint, Qt

from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove

from .hands import retype
from .test_describing_journeys import Describing

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def hands(window, qtbot, monkeypatch, tmp_path):
    from vastzone.desk.session import EMPTY

    window.desk.load(EMPTY, None)
    return Describing(window, qtbot, monkeypatch, tmp_path)


def small_organ(hands):
    """Two manuals and a pedalboard, four stops and three couplers; told in two lines, wished."""
    hands.tell(
        "Console: encoder, middle C is C5, 12 lines, 24 commons, 2 manuals of 61 keys from C3, "
        '30 pedal keys from C3, 4 stops called "Stop {n}", 3 stops called '
        "Swell to Great/Great to Pedal/Swell Octave, 2 pistons, 1 shoe, 4 analogue inputs, USB"
    )
    hands.tell(
        "Organ: computer that learns, 3 divisions called Great/Swell/Pedal, "
        '4 organ stops called "Rank {n}" channel 7, 1 levels called "Box" channel 7, USB'
    )
    desk = hands.desk
    console, organ = desk.planned.devices
    hands.join(f"console:{console.ports[0].id}", f"organ:{organ.ports[0].id}")
    page = hands.lay_open("console")
    for bed, part in zip(console.keybeds, organ.parts, strict=True):
        hands.press(page, bed.id)
        hands.wish_for(f"{part.name} organ")
    hands.lasso(page, "stop-1", "stop-4")
    hands.wish_for("rank")
    return hands.show("console")


def strike(hands, view, block, number):
    """Press a key of the drawn console; the names of what sounds."""
    made = view.bench.circuit
    index = made.contact(block, number)
    shape = next(s for s in view.canvas.picture.shapes if s.contact == index)
    pos = QPoint(round(shape.rect.center().x()), round(shape.rect.bottom() - 5))
    hands.qtbot.mousePress(view.canvas, LEFT, pos=pos)
    heard = sorted(reached.name for reached in hands.desk.stage.last.reached)
    hands.qtbot.mouseRelease(view.canvas, LEFT, pos=pos)
    return heard


def page(hands, view, name):
    hands.click(view._pages.button(view.page_names.index(name)))
    return {"Couplers": view.couplers, "Pistons": view.pistons}.get(name)


def draw(hands, view, control):
    index = view.bench.index_of(f"console:{control}", None)
    shape = next(s for s in view.canvas.picture.shapes if s.contact == index)
    hands.click(view.canvas, shape.rect.center().toPoint())


def test_couplers_are_read_held_played_and_proved(hands):
    view = small_organ(hands)
    couplers = page(hands, view, "Couplers")
    hands.click(couplers.named)
    desk = hands.desk
    assert [one.name for one in desk.planned.couplings] == [
        "Swell to Great",
        "Great to Pedal",
        "Swell Octave",
    ]
    hands.work_out()
    assert "coupler not as wished" in {f.rule for f in desk.findings}
    assert couplers.table.words(0, 5) == "nobody yet"
    hands.click(couplers.every)
    assert not {f.rule for f in desk.findings if "coupler" in f.rule}
    assert couplers.table.words(0, 5) == "Console"
    proof = prove(desk.planned, desk.memory)
    assert [mark for _, mark in proof.faults()] == []
    page(hands, view, "Console")
    assert strike(hands, view, 0, 12) == ["Great"]
    draw(hands, view, "swell-to-great")
    assert strike(hands, view, 0, 12) == ["Great", "Swell"]
    draw(hands, view, "swell-to-great")
    assert strike(hands, view, 0, 12) == ["Great"]
    # The organ may hold one instead: the stop is wished to move it, and a number is found.
    page(hands, view, "Couplers")
    couplers.table.selectRow(0)
    hands.click(couplers.organ)
    hands.work_out()
    assert couplers.table.words(0, 5) == "Organ"
    # Pedals that reach the great by the console are coupled on by the organ: all in one place.
    found = [f for f in desk.findings if f.rule == "coupler not as wished"]
    assert len(found) == 1 and len(found[0].fixes) == 2
    for row in (1, 2):
        couplers.table.selectRow(row)
        hands.click(couplers.organ)
    hands.work_out()
    assert not {f.rule for f in desk.findings if "coupler" in f.rule}
    couplers.table.selectRow(0)
    hands.click(couplers.remove)
    assert len(desk.planned.couplings) == 2
    assert hands.actions <= 45


def test_pistons_are_ticked_set_and_pressed(hands):
    view = small_organ(hands)
    hands.work_out()
    pistons, desk = page(hands, view, "Pistons"), hands.desk
    hands.actions += 2
    pistons.add.menu().actions()[0].trigger()
    box = pistons.table.visualRect(pistons.table.held.index(0, 1))
    hands.click(pistons.table.viewport(), QPoint(box.left() + 18, box.center().y()))
    console = lookup.device(desk.planned, "console")
    assert console.combinations[0].draws == ("stop-1",)
    page(hands, view, "Console")
    draw(hands, view, "stop-3")
    draw(hands, view, "stop-4")
    page(hands, view, "Pistons")
    hands.actions += 2
    pistons.add.menu().actions()[0].trigger()
    hands.click(pistons.set)
    console = lookup.device(desk.planned, "console")
    assert set(console.combinations[1].draws) == {"stop-3", "stop-4"}
    hands.click(pistons.press)
    drawn = desk.stage.performance.registration.drawn
    assert {"console:stop-3", "console:stop-4"} <= drawn
    hands.actions += 2
    pistons.add_shoe.menu().actions()[0].trigger()
    retype(pistons.table, 0, 3, "1")
    retype(pistons.table, 1, 3, "2")
    retype(pistons.table, 1, 3, "9")
    assert "stages" in pistons.words.text()
    console = lookup.device(desk.planned, "console")
    assert console.crescendos[0].stages == (("stop-1",), ("stop-2",))
    assert not {f.rule for f in desk.findings if "draws otherwise" in f.rule}
    page(hands, view, "Console")
    view.canvas.set_shoe(console.crescendos[0].by, 127)
    assert {"console:stop-1", "console:stop-2"} <= desk.stage.performance.registration.drawn
    # The organ may hold one too: what the console moves there sets its own ranks.
    pistons = page(hands, view, "Pistons")
    there = next(a for a in pistons.add.menu().actions() if "held by Organ" in a.text())
    there.trigger()
    organ = lookup.device(desk.planned, "organ")
    assert organ.combinations[0].by in {target.id for target in organ.targets}
