"""What the page Jacks says: the best plugging, the next best, what cannot be, the floorboard."""

from collections.abc import Iterator

from vastzone.core.cards.floorboards import FloorboardPrice, by_floorboard
from vastzone.core.plan.edits.pedals import pedal_jack
from vastzone.core.plan.model.pedals import FootWish, Pedal
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.solve.pedal_fit import PedalFit
from vastzone.core.solve.pedals import hopeless, sockets_of
from vastzone.core.text import listed, many

SHOWN = 4


def fit_words(plan: Plan, found: PedalFit) -> str:
    """A plugging in a sentence: how much works, what half works and how that feels, who is out."""
    names = lookup.names_of(plan.pedals)
    full = sum(done.meeting.works == "works" for done in found.done)
    wanted = len(found.done) + len(found.undone)
    said = [f"{full} of {many(wanted, 'wish', 'wishes')} as wanted"]
    half = []
    for done in found.done:
        if done.meeting.works == "half":
            half.append(f"{names[done.pedal]} for {done.wish.function} ({done.meeting.feel})")
    if half:
        said.append(f"half: {listed(half)}")
    if found.undone:
        out = [f"{names[pedal]} for {wish.function}" for pedal, wish in found.undone]
        said.append(f"left out: {listed(out)}")
    said.append(f"{many(found.moves, 'plug')} to move" if found.moves else "no plug moves")
    return "; ".join(said) + "."


def swap_words(plan: Plan, found: PedalFit) -> str:
    """Which pedal gets which wish of another; nothing where each keeps its own."""
    names = lookup.names_of(plan.pedals)
    said = []
    for ident, wishes in found.given.items():
        functions = listed(wish.function for wish in wishes)
        said.append(f"{names[ident]} for {functions}")
    return f"What pedals are for is exchanged: {listed(said, SHOWN)}." if said else ""


def other_words(plan: Plan, best: PedalFit, other: PedalFit) -> str:
    """How the next best differs: what it does worse, better, and where."""
    names = lookup.names_of(plan.pedals)
    before = {(done.owner, done.wish): done for done in best.done}
    after = {(done.owner, done.wish): done for done in other.done}
    said = []
    for key, done in before.items():
        new = after.get(key)
        what = f"{names[key[0]]} for {key[1].function}"
        if new is None:
            said.append(f"{what} left out")
        elif new.meeting.works != done.meeting.works:
            half = new.meeting.works == "half"
            said.append(f"{what} half ({new.meeting.feel})" if half else f"{what} as wanted")
        elif device_of(new.jack) != device_of(done.jack):
            owner, jack = pedal_jack(plan, new.jack)
            said.append(f"{what} in {jack.name} of {owner.name}")
    for key in after:
        if key not in before:
            said.append(f"{names[key[0]]} for {key[1].function} is in")
    moves = f"{many(other.moves, 'plug')} to move" if other.moves else "no plug moves"
    return f"{listed(said, SHOWN)}; {moves}." if said else fit_words(plan, other)


def hopeless_words(plan: Plan) -> Iterator[str]:
    """What no jack here can give, whatever is plugged where."""
    found = hopeless(plan.pedals, sockets_of(plan))
    names = lookup.names_of(plan.pedals)
    never: list[str] = []
    half: list[str] = []
    for one in found:
        told = f"{names[one.pedal]} for {wish_words(plan, one.wish)} ({one.best.feel})"
        (half if one.best.works == "half" else never).append(told)
    if never:
        yield f"No jack here can give: {listed(never, SHOWN)}."
    if half:
        yield f"Only half, whatever the plugging: {listed(half, SHOWN)}."


def wish_words(plan: Plan, wish: FootWish) -> str:
    """A wish in words: its function, and the device that it is wanted on."""
    if wish.device is None:
        return wish.function
    return f"{wish.function} on {lookup.device(plan, wish.device).name}"


def floorboard_words(plan: Plan, pedals: tuple[Pedal, ...]) -> Iterator[str]:
    """What some pedals would cost by a floorboard, said to be a purchase where there is none."""
    for price in by_floorboard(plan, pedals):
        yield _bought(price, len(pedals)) if price.board is None else _owned(price, len(pedals))


def _bought(price: FloorboardPrice, pedals: int) -> str:
    return (
        f"There is no floorboard here. One to buy, with {_feet(*price.needs)}, would do "
        f"{many(pedals, 'pedal')} by MIDI{_freed(price)}: {_cost(price)}."
    )


def _owned(price: FloorboardPrice, pedals: int) -> str:
    name = price.board.name if price.board is not None else ""
    if price.suffices:
        return f"{name} can do {many(pedals, 'pedal')} by MIDI{_freed(price)}: {_cost(price)}."
    missing = []
    if price.short != (0, 0):
        missing.append(f"it is short of {_feet(*price.short)}")
    if price.cannot:
        missing.append(f"it does not send what is wanted of {listed(price.cannot)}")
    return f"{name} cannot do {many(pedals, 'pedal')} by MIDI: {listed(missing)}."


def _feet(switches: int, treadles: int) -> str:
    said = []
    if switches:
        said.append(many(switches, "switch", "switches"))
    if treadles:
        said.append(many(treadles, "treadle"))
    return listed(said) if said else "nothing"


def _freed(price: FloorboardPrice) -> str:
    return f", and free {many(price.jacks, 'jack')}" if price.jacks else ""


def _cost(price: FloorboardPrice) -> str:
    numbers = many(price.numbers, "number")
    presses = many(price.presses, "press", "presses")
    return f"{numbers} to program, about {presses}, {price.ms:.1f} ms later than by a jack"
