"""What the pages of the views are called; known before a view is built."""

from vastzone.core.say import noted

PAGE_NAMES: dict[str, tuple[str, ...]] = {
    "rig": (noted("Rig"), noted("Device")),
    "pads": (noted("Pads"), noted("Inputs"), noted("Strikes")),
    "pedals": (
        noted("Controls"),
        noted("Jacks"),
        noted("Travel"),
        noted("Motion"),
        noted("Velocity"),
        noted("Levels"),
        noted("Table"),
        noted("Compare"),
        noted("Numbers"),
    ),
    "console": (
        noted("Console"),
        noted("Pins"),
        noted("Wires"),
        noted("Faults"),
        noted("Continuity"),
        noted("Ways"),
        noted("Couplers"),
        noted("Pistons"),
    ),
    "scenes": (
        noted("Evening"),
        noted("Programs"),
        noted("Changes"),
        noted("Storing"),
        noted("Rehearse"),
    ),
    "outputs": (
        noted("Sounds"),
        noted("Desk"),
        noted("Delay"),
        noted("Power"),
        noted("Stage"),
        noted("Packing"),
        noted("Without"),
    ),
    "prove": (noted("What falls short"), noted("Walk-through"), noted("Log")),
    "cards": (noted("Card"), noted("Dial it"), noted("Differences"), noted("Sheets")),
}
"""By the id of the view; views that are one page only are left out.  They are said where shown."""
