"""A walk-through under way: what is asked, what has come of it, and its record."""

from typing import NamedTuple

from vastzone.core.engine.report import Report
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import UNNUMBERED
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.log import Result, record
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import LogEntry
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref
from vastzone.core.proof.walk import Ask
from vastzone.core.proof.words import place_words
from vastzone.core.say import say
from vastzone.desk.signal import Signal


class WalkAnswer(NamedTuple):
    """What came of one thing asked: the result and what was got, in words."""

    result: Result
    got: str
    real: bool = False


UNTESTED = WalkAnswer("untested", "")


class Walk:
    """Asks for one thing after another; a strike answers it."""

    def __init__(self, asks: tuple[Ask, ...], by_ear: bool = False) -> None:
        self.asks, self.by_ear = asks, by_ear
        self.answers = [UNTESTED] * len(asks)
        self.at = 0
        self.waiting = ""
        self._real = False
        self.changed = Signal("walk changed")

    @property
    def ask(self) -> Ask | None:
        """What is asked now; None at the end."""
        return self.asks[self.at] if self.at < len(self.asks) else None

    def hear(
        self, plan: Plan, report: Report, verdict: str, message: Message | None = None
    ) -> None:
        """Take a strike for the answer: pass and go on, or show what was got instead.

        ``message`` is what truly came from a device; without it the strike was simulated, and what
        passes is said to be.  Another message than the plan expects is a failure.
        """
        self._real = message is not None
        ask = self.ask
        if ask is None:
            return
        got = "; ".join(f"{reached.name} {reached.what}" for reached in report.reached) or say(
            "nothing"
        )
        if not _is_asked(ask, report):
            struck = WishPlace(report.subject, report.bank, report.key or 0, report.key or 0)
            self._put(
                "fail", say("{place} was struck: {got}", place=place_words(plan, struck), got=got)
            )
        elif message is not None and not _is_expected(report, message):
            self._put(
                "fail", say("{message} came instead of what is planned", message=message.text())
            )
        elif verdict != "as meant":
            self._put("fail", got if not verdict else f"{got} ({verdict})")
        elif self.by_ear:
            self.waiting = got
            self.changed.emit()
        else:
            self._put("pass", got)
            self.go(1)

    def confirm(self, heard: bool) -> None:
        """The ear's answer to a strike that the plan says is right."""
        if self.waiting:
            got, self.waiting = self.waiting, ""
            if heard:
                self._put("pass", say("{got}, heard", got=got))
                self.go(1)
            else:
                self._put("fail", say("the ear heard something else, or nothing"))

    def _put(self, result: Result, got: str) -> None:
        self.answers[self.at] = WalkAnswer(result, got, self._real)
        self.changed.emit()

    def go(self, steps: int) -> None:
        """On or back, leaving the answer as it is."""
        self.waiting = ""
        self.at = max(0, min(len(self.asks), self.at + steps))
        self.changed.emit()

    def follow(self, plan: Plan) -> None:
        """Ask no more for what has been taken out of the plan; what came of the rest stays."""
        here = []
        for number, ask in enumerate(self.asks):
            if _is_there(plan, ask):
                here.append(number)
        if len(here) == len(self.asks):
            return
        self.at = sum(number < self.at for number in here)
        self.asks = tuple(self.asks[number] for number in here)
        self.answers = [self.answers[number] for number in here]
        self.waiting = ""
        self.changed.emit()

    def count(self, result: Result) -> int:
        """How many answers are of a kind."""
        return sum(a.result == result for a in self.answers)

    def entries(self, when: str) -> tuple[LogEntry, ...]:
        """All of it as entries for the log."""
        entries = []
        for ask, answer in zip(self.asks, self.answers, strict=True):
            entries.append(
                LogEntry(
                    on=when,
                    scene=ask.scene,
                    source=ask.place.source,
                    bank=ask.place.bank,
                    low=ask.place.low,
                    high=ask.place.high,
                    result=answer.result,
                    expected=ask.expected,
                    got=answer.got,
                    real=answer.real,
                )
            )
        return tuple(entries)

    def edit(self, when: str) -> Edit:
        """The record as one step."""
        return record(self.entries(when))


def _is_there(plan: Plan, ask: Ask) -> bool:
    """Whether the plan still has the keys or control that is asked for, and the scene."""
    device, thing = read_ref(ask.place.source)
    owner = lookup.find(plan.devices, device)
    if owner is None or (ask.scene and all(scene.id != ask.scene for scene in plan.scenes)):
        return False
    keybeds, controls = (
        (bed.id for bed in owner.keybeds),
        (control.id for control in owner.controls),
    )
    return thing in keybeds or thing in controls


def _is_expected(report: Report, message: Message) -> bool:
    """Whether a message is one of those that the plan expects, but for how hard it was struck."""
    for expected in report.messages:
        same = (expected.kind, expected.channel) == (message.kind, message.channel)
        if same and (expected.kind in UNNUMBERED or expected.first == message.first):
            return True
    return False


def _is_asked(ask: Ask, report: Report) -> bool:
    if (report.subject, report.bank) != (ask.place.source, ask.place.bank):
        return False
    if report.key is None:
        return True
    return ask.place.low <= report.key <= ask.place.high
