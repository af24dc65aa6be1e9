"""Facts of consoles: a block of contacts, a shoe, the encoder."""

from vastzone.app.frame.sheet import Make, Press, Row, Sheet
from vastzone.core.console.built import needed, size_of
from vastzone.core.console.shoes import steps_of
from vastzone.core.midi import pitch
from vastzone.core.plan import consoles, edits, lookup
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import read_ref

BLOCK, ENCODER = "block ", "encoder "
SCHOOLS = (("its lowest key", "lowest key"), ("note names", "note names"))
FACINGS = (("from common to line", "common to line"), ("from line to common", "line to common"))


def _missing() -> Sheet:
    return Sheet("", "Console", "Console", (), remark="This has been removed.")


def block_sheet(plan: Plan, ref: str) -> Sheet:
    """A keyboard or the stops as they are wired."""
    device, ident = read_ref(ref.removeprefix(BLOCK))
    owner = lookup.find(plan.devices, device)
    console = owner.console if owner is not None else None
    block = lookup.find(console.blocks, ident) if console else None
    if owner is None or console is None or block is None:
        return _missing()

    def set_(field: str, words: str = "Change wiring", scale: float = 1.0) -> Make:
        return lambda v: consoles.set_block(
            owner.id, block.id, words, **{field: v / scale if scale != 1.0 else v}
        )

    rows = [
        Row("Name", "text", block.name, set_("name", "Rename")),
        Row("Contacts", "fixed", str(size_of(owner, block)[0])),
        Row("Commons needed", "fixed", str(needed(owner, block, console.encoder.lines))),
        Row("On pins", "fixed", ", ".join(f"C{p}" for p in block.commons) or "none yet"),
        Row("Soldered", "check", block.soldered, set_("soldered", "Keep pins")),
    ]
    if block.keybed:
        rows.append(
            Row("Lines count from", "choice", block.school, set_("school"), choices=SCHOOLS)
        )
    rows += [
        Row("Diodes", "check", block.diodes, set_("diodes")),
        Row("Diodes lead", "choice", block.facing, set_("facing"), choices=FACINGS),
        Row("Encoder is told", "choice", block.declared, set_("declared"), choices=FACINGS),
        Row(
            "To the encoder, cm",
            "number",
            round(block.distance * 100),
            set_("distance", "Change distance", 100.0),
            0,
            5000,
        ),
        Row(
            "Contacts apart, mm",
            "number",
            round(block.pitch * 1000),
            set_("pitch", "Change distance", 1000.0),
            0,
            500,
        ),
    ]
    return Sheet(ref, block.name, f"Wiring in {owner.name}", tuple(rows))


def encoder_sheet(plan: Plan, ref: str) -> Sheet:
    """What scans: its pins, its pace, its inputs."""
    device = ref.removeprefix(ENCODER)
    owner = lookup.find(plan.devices, device)
    if owner is None or owner.console is None:
        return _missing()
    held = owner.console.encoder

    def set_(field: str, scale: float = 1.0) -> Make:
        return lambda v: consoles.set_encoder(
            owner.id, "Change encoder", **{field: v / scale if scale != 1.0 else v}
        )

    rows = (
        Row("Note lines", "number", held.lines, set_("lines"), 1, 64),
        Row("Common pins", "number", held.commons, set_("commons"), 1, 256),
        Row("Analogue inputs", "number", held.analogue, set_("analogue"), 0, 64),
        Row("Keyboards at most", "number", held.keyboards, set_("keyboards"), 1, 32),
        Row(
            "Line settles in, µs",
            "number",
            round(held.settle_us),
            lambda v: set_("settle_us")(float(v)),
            0,
            10_000,
        ),
        Row(
            "Debounce, tenths of ms",
            "number",
            round(held.debounce_ms * 10),
            set_("debounce_ms", 10.0),
            0,
            1000,
        ),
        Row(
            "Inputs stand up to, tenths of V",
            "number",
            round(held.high * 10),
            set_("high", 10.0),
            0,
            480,
        ),
        Row(
            "Asks for lowest notes by",
            "choice",
            held.asks,
            set_("asks"),
            choices=tuple((a, a) for a in ("octave and index", "note number")),
        ),
        Row(
            "Its index for C",
            "choice",
            held.first_index,
            set_("first_index"),
            choices=(("0", 0), ("1", 1)),
        ),
        Row(
            "Octave of middle C",
            "choice",
            owner.octaves,
            lambda v: edits.set_device(owner.id, "Change octave naming", octaves=v),
            choices=tuple((f"C{n}", n) for n in pitch.NAMINGS),
        ),
        Row("Erased by setting up", "check", held.erases, set_("erases")),
        Row(
            "Spare commons a block",
            "number",
            owner.console.room,
            lambda v: consoles.set_console(owner.id, "Leave room", room=v),
            0,
            8,
        ),
        Row(
            "Wire colours",
            "text",
            ", ".join(owner.console.colours),
            lambda v: consoles.set_console(
                owner.id,
                "Change wire colours",
                colours=tuple(w.strip() for w in v.split(",") if w.strip()),
            ),
        ),
    )
    remark = ""
    if held.erases:
        remark = "Setting it up again erases everything it holds: keep every setting before."
    return Sheet(ref, f"Encoder of {owner.name}", "Encoder", rows, (), remark)


def shoe_rows(owner: Device, control: str) -> list[Row]:
    """A shoe’s voltages, its input and how steady it is; nothing for what is no shoe."""
    console = owner.console
    shoe = next((s for s in console.shoes if s.control == control), None) if console else None
    if console is None or shoe is None:
        return []

    def set_(field: str, scale: float = 1.0) -> Make:
        return lambda v: consoles.set_shoe(
            owner.id, control, "Change shoe", **{field: v / scale if scale != 1.0 else v}
        )

    inputs = [("none", None), *((f"input {n}", n) for n in range(1, console.encoder.analogue + 1))]
    return [
        Row("Analogue input", "choice", shoe.input, set_("input"), choices=tuple(inputs)),
        Row(
            "At the heel, tenths of V",
            "number",
            round(shoe.heel * 10),
            set_("heel", 10.0),
            -480,
            480,
        ),
        Row(
            "At the toe, tenths of V", "number", round(shoe.toe * 10), set_("toe", 10.0), -480, 480
        ),
        Row(
            "Track",
            "choice",
            shoe.track,
            set_("track"),
            choices=tuple((t, t) for t in ("whole", "reversed", "worn")),
        ),
        Row("Steps it moves over", "fixed", str(steps_of(shoe, console.encoder))),
        Row(
            "Jitters by tenths of steps",
            "number",
            round(shoe.noise * 10),
            set_("noise", 10.0),
            0,
            640,
        ),
        Row("Ignores moves up to", "number", shoe.hysteresis, set_("hysteresis"), 0, 127),
    ]


def begin_press(owner: Device) -> Press | None:
    """The button that wires a console behind a device with keys or stops that has none."""
    fits = owner.console is None and (owner.keybeds or owner.controls)
    if not fits or owner.kind not in ("encoder", "keyboard"):
        return None
    return Press("Wire a console", "plus", lambda: consoles.begin(owner))
