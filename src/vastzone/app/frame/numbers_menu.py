"""What can be said of chosen numbers: left as they are, or chosen in another way."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from vastzone.app.frame.text import add_action
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.locks import Locking, lock_all, lockings
from vastzone.core.plan.edits.schools import choose_school, controls_behind
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.core.solve.holds import locked

FIRST, LAST = 1, 119
"""Where a run of controllers can begin."""
Perform = Callable[[Edit], object]


def add_locks(menu: QMenu, plan: Plan, refs: Sequence[str], by: str, perform: Perform) -> None:
    """Lock or free the chosen numbers, those of their things, kinds and devices."""
    for locking in (Locking(say("what is chosen"), tuple(refs)), *lockings(plan, refs[0])):
        held = locked(plan).issuperset(locking.refs)
        edit = lock_all(locking.refs, "free" if held else "locked", by)
        name = (
            say("Free {locking}", locking=locking.name)
            if held
            else say("Lock {locking}", locking=locking.name)
        )
        add_action(menu, name, partial(perform, edit))


def add_schools(
    menu: QMenu, parent: QWidget, plan: Plan, refs: Sequence[str], perform: Perform
) -> None:
    """Other ways to choose the controllers of the chosen controls, where there are any."""
    controls: dict[str, None] = {}
    for ref in refs:
        controls.update(dict.fromkeys(controls_behind(plan, ref)))
    if not controls:
        return
    menu.addSeparator()
    chosen = tuple(controls)

    def run() -> None:
        first, given = QInputDialog.getInt(
            parent,
            say("A run"),
            say("Controllers in the order of the controls, from:"),
            plan.schools.run_from,
            FIRST,
            LAST,
        )
        if given:
            perform(choose_school(chosen, "run", first))

    add_action(menu, say("Number in a run from …"), run)
    add_action(
        menu, say("Number by standard roles"), partial(perform, choose_school(chosen, "standard"))
    )
    add_action(
        menu, say("Number by undefined ones"), partial(perform, choose_school(chosen, "undefined"))
    )
    add_action(menu, say("Number as the plan likes"), partial(perform, choose_school(chosen, None)))
