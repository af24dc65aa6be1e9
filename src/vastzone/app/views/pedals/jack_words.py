"""What the page Jacks says: the best plugging, the next best, what cannot be, the floorboard."""

from collections.abc import Iterator

from vastzone.core.cards.floorboards import FloorboardPrice, by_floorboard
from vastzone.core.plan.edits.pedals import pedal_jack
from vastzone.core.plan.model.pedals import FootWish, Pedal
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say, say_many
from vastzone.core.solve.pedal_fit import PedalFit
from vastzone.core.solve.pedals import hopeless, sockets_of
from vastzone.core.text import listed

SHOWN = 4


def fit_words(plan: Plan, found: PedalFit) -> str:
    """A plugging in a sentence: how much works, what half works and how that feels, who is out."""
    names = lookup.names_of(plan.pedals)
    full = sum(done.meeting.works == "works" for done in found.done)
    wanted = len(found.done) + len(found.undone)
    said = [
        say(
            "{full} of {wishes} as wanted",
            full=full,
            wishes=say_many("{count} wish", "{count} wishes", wanted),
        )
    ]
    half = []
    for done in found.done:
        if done.meeting.works == "half":
            half.append(
                say(
                    "{names} for {function} ({feel})",
                    names=names[done.pedal],
                    function=say(done.wish.function),
                    feel=done.meeting.feel,
                )
            )
    if half:
        said.append(say("half: {half}", half=listed(half)))
    if found.undone:
        out = [
            say("{names} for {function}", names=names[pedal], function=say(wish.function))
            for pedal, wish in found.undone
        ]
        said.append(say("left out: {out}", out=listed(out)))
    said.append(
        say("{plugs} to move", plugs=say_many("{count} plug", "{count} plugs", found.moves))
        if found.moves
        else say("no plug moves")
    )
    return "; ".join(said) + "."


def swap_words(plan: Plan, found: PedalFit) -> str:
    """Which pedal gets which wish of another; nothing where each keeps its own."""
    names = lookup.names_of(plan.pedals)
    said = []
    for ident, wishes in found.given.items():
        functions = listed(say(wish.function) for wish in wishes)
        said.append(say("{names} for {functions}", names=names[ident], functions=functions))
    return (
        say("What pedals are for is exchanged: {said}.", said=listed(said, SHOWN)) if said else ""
    )


def other_words(plan: Plan, best: PedalFit, other: PedalFit) -> str:
    """How the next best differs: what it does worse, better, and where."""
    names = lookup.names_of(plan.pedals)
    before = {(done.owner, done.wish): done for done in best.done}
    after = {(done.owner, done.wish): done for done in other.done}
    said = []
    for key, done in before.items():
        new = after.get(key)
        what = say("{names} for {function}", names=names[key[0]], function=say(key[1].function))
        if new is None:
            said.append(say("{what} left out", what=what))
        elif new.meeting.works != done.meeting.works:
            half = new.meeting.works == "half"
            said.append(
                say("{what} half ({feel})", what=what, feel=new.meeting.feel)
                if half
                else say("{what} as wanted", what=what)
            )
        elif device_of(new.jack) != device_of(done.jack):
            owner, jack = pedal_jack(plan, new.jack)
            said.append(
                say("{what} in {jack} of {owner}", what=what, jack=jack.name, owner=owner.name)
            )
    for key in after:
        if key not in before:
            said.append(
                say(
                    "{names} for {function} is in",
                    names=names[key[0]],
                    function=say(key[1].function),
                )
            )
    moves = (
        say("{plugs} to move", plugs=say_many("{count} plug", "{count} plugs", other.moves))
        if other.moves
        else say("no plug moves")
    )
    return f"{listed(said, SHOWN)}; {moves}." if said else fit_words(plan, other)


def hopeless_words(plan: Plan) -> Iterator[str]:
    """What no jack here can give, whatever is plugged where."""
    found = hopeless(plan.pedals, sockets_of(plan))
    names = lookup.names_of(plan.pedals)
    never: list[str] = []
    half: list[str] = []
    for one in found:
        told = say(
            "{names} for {wish} ({feel})",
            names=names[one.pedal],
            wish=wish_words(plan, one.wish),
            feel=one.best.feel,
        )
        (half if one.best.works == "half" else never).append(told)
    if never:
        yield say("No jack here can give: {never}.", never=listed(never, SHOWN))
    if half:
        yield say("Only half, whatever the plugging: {half}.", half=listed(half, SHOWN))


def wish_words(plan: Plan, wish: FootWish) -> str:
    """A wish in words: its function, and the device that it is wanted on."""
    if wish.device is None:
        return say(wish.function)
    return say(
        "{function} on {device}",
        function=say(wish.function),
        device=lookup.device(plan, wish.device).name,
    )


def floorboard_words(plan: Plan, pedals: tuple[Pedal, ...]) -> Iterator[str]:
    """What some pedals would cost by a floorboard, said to be a purchase where there is none."""
    for price in by_floorboard(plan, pedals):
        yield _bought(price, len(pedals)) if price.board is None else _owned(price, len(pedals))


def _bought(price: FloorboardPrice, pedals: int) -> str:
    return say(
        "There is no floorboard here. One to buy, with {feet}, would do {pedals} by "
        "MIDI{freed}: {cost}.",
        feet=_feet(*price.needs),
        pedals=say_many("{count} pedal", "{count} pedals", pedals),
        freed=_freed(price),
        cost=_cost(price),
    )


def _owned(price: FloorboardPrice, pedals: int) -> str:
    name = price.board.name if price.board is not None else ""
    if price.suffices:
        return say(
            "{name} can do {pedals} by MIDI{freed}: {cost}.",
            name=name,
            pedals=say_many("{count} pedal", "{count} pedals", pedals),
            freed=_freed(price),
            cost=_cost(price),
        )
    missing = []
    if price.short != (0, 0):
        missing.append(say("it is short of {feet}", feet=_feet(*price.short)))
    if price.cannot:
        missing.append(
            say("it does not send what is wanted of {cannot}", cannot=listed(price.cannot))
        )
    return say(
        "{name} cannot do {pedals} by MIDI: {missing}.",
        name=name,
        pedals=say_many("{count} pedal", "{count} pedals", pedals),
        missing=listed(missing),
    )


def _feet(switches: int, treadles: int) -> str:
    said = []
    if switches:
        said.append(say_many("{count} switch", "{count} switches", switches))
    if treadles:
        said.append(say_many("{count} treadle", "{count} treadles", treadles))
    return listed(said) if said else say("nothing")


def _freed(price: FloorboardPrice) -> str:
    return (
        say(", and free {jacks}", jacks=say_many("{count} jack", "{count} jacks", price.jacks))
        if price.jacks
        else ""
    )


def _cost(price: FloorboardPrice) -> str:
    numbers = say_many("{count} number", "{count} numbers", price.numbers)
    presses = say_many("{count} press", "{count} presses", price.presses)
    return say(
        "{numbers} to program, about {presses}, {ms:.1f} ms later than by a jack",
        numbers=numbers,
        presses=presses,
        ms=price.ms,
    )
