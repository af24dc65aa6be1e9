"""A slow and obvious simulator: gestures one by one, every message walked along every cable.

Nothing is shared with the engine: it reads the plan's own words.  After each gesture ``sounding``
has what sounds then: («device:thing» struck, «device:part», note), as often as it is heard.
"""

from collections import Counter

from tests.core.engine.oracle import heard as heard_at
from vastzone.core.plan.queries import lookup

STRUCK = ("pad", "button", "switch", "stop")
MS = {"usb": 1.0, "bluetooth": 15.0}


class Voice:
    def __init__(self, origin, part, owner, note, message, place, muted_by):
        self.origin, self.part, self.owner, self.note = origin, part, owner, note
        self.message, self.place, self.muted_by = message, place, muted_by

    @property
    def ref(self):
        return f"{self.owner}:{self.part.id}"


class Simulator:
    def __init__(self, plan, scene):
        self.plan, self.scene = plan, scene
        self.voices, self.sustained, self.loops = [], [], {}
        self.held = {}
        self.flipped, self.down, self.past = {}, {}, set()
        self.pedals = {}
        self.sent = []

    def sounding(self):
        return Counter((v.origin, v.ref, v.note) for v in self.voices)

    # cables

    def way(self, owner, ports):
        """Every cable that a message takes: (source, dest, link, parent, delay before)."""
        steps = []

        def follow(port, parent, taken, before):
            for line, cable in enumerate(self.plan.cables):
                if cable.source != port or cable in taken:
                    continue
                _, source = lookup.endpoint(self.plan, cable.source)
                steps.append((line, cable.dest, source.link, parent, before))
                here = len(steps) - 1
                other = lookup.device(self.plan, cable.dest.partition(":")[0])
                for thru in other.thrus:
                    if f"{other.id}:{thru.source}" == cable.dest:
                        follow(f"{other.id}:{thru.dest}", here, [*taken, cable], other.delay_ms)

        for port in (p for p in owner.ports if p.flow != "in" and p.id in (ports or p.id)):
            follow(f"{owner.id}:{port.id}", -1, [], 0.0)
        return steps

    def send(self, owner, ports, at):
        """Put a message on its way; its number."""
        self.sent.append((self.way(owner, ports), at))
        return len(self.sent) - 1

    def arrivals(self):
        """When each message is through each cable, all of them run anew from the beginning."""
        free, done = {}, {}
        waiting = [
            (at + step[4], number, place)
            for number, (steps, at) in enumerate(self.sent)
            for place, step in enumerate(steps)
            if step[3] < 0
        ]
        while waiting:
            arrives, number, place = min(waiting)
            waiting.remove((arrives, number, place))
            line, _, link, _, _ = self.sent[number][0][place]
            if link == "din":
                free[line] = max(arrives, free.get(line, 0.0)) + 0.96
                done[number, place] = free[line]
            else:
                done[number, place] = arrives + MS[link]
            for child, step in enumerate(self.sent[number][0]):
                if step[3] == place:
                    waiting.append((done[number, place] + step[4], number, child))
        return done

    # strikes

    def strike(self, origin, owner, notes, velocity, at, muted_by=None):
        """A key or pad goes down: each note is (ports, channel, number)."""
        self.let_go(origin, at)
        for voice in [v for v in self.sustained if v.origin == origin]:
            self.sustained.remove(voice)
            self.end(voice)
        begun = []
        for ports, channel, number in notes:
            message = self.send(owner, ports, at)
            places = [(-1, owner, "")] if owner.local else []
            for place, step in enumerate(self.sent[message][0]):
                device, _, port = step[1].partition(":")
                places.append((place, lookup.device(self.plan, device), port))
            for place, device, port in places:
                for (ref, note), times in heard_at(
                    self.scene, device, port, channel, number, velocity
                ).items():
                    part = lookup.part(device, ref.partition(":")[2])
                    voice = (origin, part, device.id, note, message, place, muted_by)
                    begun.extend(Voice(*voice) for _ in range(times))
        done = self.arrivals()

        def when(voice):
            sent_at = self.sent[voice.message][1]
            return done[voice.message, voice.place] if voice.place >= 0 else sent_at

        stay = []
        for voice in sorted(begun, key=when):
            if self.begins(voice, when):
                self.voices.append(voice)
                stay.append(voice)
        self.held[origin] = (owner, [ports for ports, _, _ in notes], stay)

    def begins(self, voice, when):
        part, loop = voice.part, (voice.ref, voice.note)
        if part.trigger == "toggle":
            running = self.loops.pop(loop, None)
            if running is not None:
                self.end(running)
                return False
        rivals = [
            other
            for other in self.voices
            if (part.mono and other.ref == voice.ref)
            or (
                part.mute_group is not None
                and other.owner == voice.owner
                and other.part.mute_group == part.mute_group
            )
        ]
        if any(when(other) > when(voice) for other in rivals):
            return False
        for other in rivals:
            self.end(other)
        if part.trigger == "toggle":
            self.loops[loop] = voice
        return True

    def end(self, voice):
        if voice in self.voices:
            self.voices.remove(voice)
        if self.loops.get((voice.ref, voice.note)) is voice:
            del self.loops[voice.ref, voice.note]

    def let_go(self, origin, at):
        """A key or pad comes up: what its own strike began ends, unless it holds by itself."""
        owner, sent, voices = self.held.pop(origin, (None, [], []))
        for ports in sent:
            self.send(owner, ports, at)
        for voice in voices:
            if voice not in self.voices or voice.part.trigger == "toggle":
                continue
            if voice.part.trigger == "gate" and voice.part.sustains and self.pedalled(voice.ref):
                self.sustained.append(voice)
            else:
                self.end(voice)

    def pedalled(self, ref):
        return any(ref in parts for parts, _ in self.pedals.values())

    # gestures

    def key(self, owner, bed, key, velocity, at):
        program = lookup.program_in(self.scene, owner)
        notes = [
            (z.ports, z.channel, key + z.shift)
            for z in (program.zones if program else ())
            if z.on
            and z.keybed == bed
            and z.low <= key <= z.high
            and z.vel_low <= velocity <= z.vel_high
            and 0 <= key + z.shift <= 127
        ]
        self.strike((f"{owner.id}:{bed}", key), owner, notes, velocity, at)

    def control(self, owner, control, value, at):
        program = lookup.program_in(self.scene, owner)
        sends = [s for s in (program.sends if program else ()) if s.control == control.id]
        name = f"{owner.id}:{control.id}"
        press, release = self.phase(name, control, sends, value)
        addressed = set()
        if press:
            self.choke(name, sends, max(1, value))
        for index, send in enumerate(sends):
            own = (f"{name}#{index}", 1)
            if send.message == "note":
                self.note_pad(name, own, owner, send, value, press, at)
            elif (sent := self.value_of(own, send, value, press)) is not None:
                addressed.add(own)
                self.sustain(own, owner, send, sent, at)
        if release:
            self.come_up(name, addressed, at)

    def come_up(self, name, addressed, at):
        """The hand lets go of a control."""
        for voice in list(self.voices):
            own = str(voice.origin[0]).startswith(f"{name}#")
            if own and voice.part.trigger == "one-shot":
                self.end(voice)
        for own in self.down.pop(name, []):
            self.let_go(own, at)
        for own in [o for o, (_, by_hand) in self.pedals.items() if by_hand]:
            if own not in addressed and own[0].startswith(f"{name}#"):
                self.lift(own)

    def phase(self, name, control, sends, value):
        """Whether a value presses the control or lets it go."""
        if sends and control.kind in STRUCK:
            return value > 0, value <= 0
        was, now = name in self.past, value >= 64
        self.past = self.past | {name} if now else self.past - {name}
        return now and not was, not now and (was or value <= 0)

    def choke(self, name, sends, velocity):
        """Other pads of the device that a struck group mutes end."""
        groups = {s.mutes for s in sends if s.vel_low <= velocity <= s.vel_high} - {None}
        for voice in list(self.voices):
            own = str(voice.origin[0]).startswith(f"{name}#")
            if voice.muted_by in groups and not own:
                self.end(voice)

    def note_pad(self, name, own, owner, send, value, press, at):
        if not press or not send.vel_low <= max(1, value) <= send.vel_high:
            return
        if send.mode == "toggle":
            self.flipped[own] = not self.flipped.get(own, False)
            if not self.flipped[own]:
                self.let_go(own, at)
                return
        note = (send.ports, send.channel, send.number)
        self.strike(own, owner, [note], max(1, value), at, send.muted_by)
        if send.mode == "momentary" and own not in self.down.setdefault(name, []):
            self.down[name].append(own)

    def value_of(self, own, send, value, press):
        if send.mode == "momentary":
            return round(send.low + (send.high - send.low) * value / 127)
        if not press:
            return None
        if send.mode == "trigger":
            return send.high
        self.flipped[own] = not self.flipped.get(own, False)
        return send.high if self.flipped[own] else send.low

    def sustain(self, own, owner, send, sent, at):
        self.send(owner, send.ports, at)
        parts = set()
        for device in self.plan.devices:
            for part in device.parts:
                reached = device.id == owner.id and owner.local
                for step in self.sent[-1][0]:
                    other, _, port = step[1].partition(":")
                    reached |= other == device.id and port in (part.ports or (port,))
                if reached and part.channel in (None, send.channel):
                    parts.add(f"{device.id}:{part.id}")
        if sent >= 64:
            known, _ = self.pedals.get(own, (set(), False))
            self.pedals[own] = (known | parts, send.mode == "momentary")
        else:
            self.lift(own)

    def lift(self, own):
        parts, _ = self.pedals.pop(own, (set(), False))
        for voice in list(self.sustained):
            if voice.ref in parts and not self.pedalled(voice.ref):
                self.sustained.remove(voice)
                self.end(voice)
