"""What controls must not move: targets that they are not meant for."""

from collections.abc import Iterator

from vastzone.core.midi.wide import MOVING, SHARED, heard_as
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to, setting_in
from vastzone.core.solve.demands import Demands
from vastzone.core.solve.problem import Apart
from vastzone.core.solve.runs import FREE
from vastzone.core.solve.senders import Sender


class ControllersApart(Demands):
    """Keeps movements and targets apart by their numbers, or by their channels."""

    def _keep_controllers_apart(self) -> None:
        """A control moves only the targets that it is meant for."""
        moved = set()
        for sender in self._senders:
            for binding in sender.bindings:
                if binding.bond != "free":
                    moved.add(binding.wish.moves)
        for sender in self._senders:
            if sender.send is None or sender.send.message not in MOVING:
                continue
            meant = set()
            for binding in sender.bindings:
                meant.add(binding.wish.moves)
            for device, target in self._targets_reached(sender):
                ref = ref_to(device.id, target.id)
                # A target without a number listens to nothing until a wish gives it one.
                # What is left out while causes are sought may move as it likes.
                listens = ref in moved or (target.wide is not None and ref not in self._exempt)
                if listens and ref not in meant and target.receives != "takes all":
                    self._apart_from_target(sender, sender.send, device, target)

    def _targets_reached(self, sender: Sender) -> Iterator[tuple[Device, Target]]:
        """The targets in the devices that a sender reaches."""
        devices = {device for device, _ in sender.reach}
        for device in self.plan.devices:
            for target in device.targets if device.id in devices else ():
                yield device, target

    def _apart_from_target(
        self, sender: Sender, send: Send, device: Device, target: Target
    ) -> None:
        """A control does not move a target that it is not meant for."""
        if target.answers in SHARED and send.message in SHARED:
            self._apart_by_number(sender, send, device, target)
        elif heard_as(send.message, self._sent(sender, send), target.answers, target.wide or 0):
            heard = self._heard_on(device, target)
            for channel in self._channels_of(sender):
                there = channel if heard is None else heard
                self._apart[Apart(channel, there, True)] = None

    def _sent(self, sender: Sender, send: Send) -> int:
        """The parameter or program that a control will send: that of the target it is for."""
        for binding in sender.bindings:
            if binding.wish.moves and binding.bond != "free":
                device, thing = read_ref(binding.wish.moves)
                target = lookup.by_id(self._owners[device].targets, thing, "target")
                if target.answers == send.message and target.wide is not None:
                    return target.wide
        return send.wide

    def _apart_by_number(self, sender: Sender, send: Send, device: Device, target: Target) -> None:
        """A control and a target go by different controllers, or on different channels."""
        ref = setting_in(sender.base, "number")
        # What no wish needs stays where it is, or goes where nothing has a meaning.
        number = self._variable(ref, "controller", frozenset((*FREE, send.number)))
        listening = self._controller(device.id, target)
        heard = self._heard_on(device, target)
        for channel in self._channels_of(sender):
            # A target that listens everywhere hears every channel that is sent on.
            there = channel if heard is None else heard
            self._apart[Apart(channel, there, False, unlike=((number, listening),))] = None

    def _heard_on(self, device: Device, target: Target) -> int | None:
        """The channel variable of a target; None where it listens on all channels."""
        if target.part is not None:
            return self._part(self._receiver(ref_to(device.id, target.part)))
        return None if target.channel is None else self._constant(target.channel)

    def _channels_of(self, sender: Sender) -> list[int]:
        """The channel variables on which a control sends: its own, or those of the zones."""
        own = self._channel(sender)
        if own is not None:
            return [own]
        channels = []
        for other in self._senders:
            beside = (other.device, other.program) == (sender.device, sender.program)
            channel = self._channel(other) if beside and other.zone is not None else None
            if channel is not None:
                channels.append(channel)
        return channels
