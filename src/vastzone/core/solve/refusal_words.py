"""Why wishes cannot all hold, in a sentence that names what stands in the way."""

from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.solve.numbers import Attempt
from vastzone.core.solve.problem import Variable
from vastzone.core.solve.reasons import in_words

NOTHING_HOLDS = say(
    "What these devices cannot change leaves no numbers that hold, even with wishes left out: "
    "unlock or free some of what they keep."
)
MOST_NAMED, MOST_FIXED = 20, 3


def refusal_sentence(
    plan: Plan, wishes: tuple[str, ...], locks: tuple[str, ...], tried: Attempt
) -> str:
    """Why some wishes and locks cannot hold together; ``tried`` had just these to work out."""
    if tried.obstacles:
        return tried.obstacles[0].sentence
    names = lookup.names_of(plan.wishes)
    named = ", ".join(names[ident] for ident in wishes[:MOST_NAMED])
    locked = ", ".join(in_words(plan, ref) for ref in locks)
    alone = sum(wish.alone for wish in plan.wishes if wish.id in wishes)
    if alone > 16:
        return say(
            "{count} channels of their own are wanted on one port, which has 16: {named}.",
            count=len(wishes),
            named=named,
        )
    if not wishes:
        return (
            say("The locks {locked} cannot all hold.", locked=locked) if locked else NOTHING_HOLDS
        )
    wished = (
        say("The wishes {named} cannot", named=named)
        if len(wishes) > 1
        else say("The wish {named} cannot", named=named)
    )
    both = say(" hold with the locks {locked}", locked=locked) if locked else say(" hold")
    return (
        say(
            "{wished} all{both}{in_the_way}.",
            wished=wished,
            both=both,
            in_the_way=_in_the_way(tried),
        )
        if len(wishes) > 1
        else say(
            "{wished}{both}{in_the_way}.", wished=wished, both=both, in_the_way=_in_the_way(tried)
        )
    )


def _in_the_way(tried: Attempt) -> str:
    """The numbers that have to be equal and cannot: «: P0 in Box, channel stays 3, …»."""
    if tried.problem is None or tried.groups is None:
        return ""
    if tried.groups.clash is None:
        return say(
            ": something else would sound or move as well, and nothing here keeps the two apart"
        )
    told = []
    for index, variable in enumerate(tried.problem.variables):
        tied = tried.groups.of[index] == tried.groups.clash
        if tied and len(variable.domain) < 2 and variable.refs:
            told.append(_stays(tried.shaped.plan, variable))
    return f": {', and '.join(dict.fromkeys(told[:MOST_FIXED]))}" if len(told) > 1 else ""


def _stays(plan: Plan, variable: Variable) -> str:
    ref = variable.refs[0]
    what = in_words(plan, ref)
    if not variable.domain:
        return say("{what} has no number left", what=what)
    (value,) = variable.domain
    dial = dials(plan)[ref]
    said = dial.field.values.words(dial.owner, value)
    return (
        say("{what} is locked at {said}", what=what, said=said)
        if variable.locked
        else say("{what} can only be {said}", what=what, said=said)
    )
