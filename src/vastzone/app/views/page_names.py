"""What the pages of the views are called; known before a view is built."""

PAGE_NAMES: dict[str, tuple[str, ...]] = {
    "rig": ("Rig", "Device"),
    "pads": ("Pads", "Inputs", "Strikes"),
    "pedals": (
        "Controls",
        "Jacks",
        "Travel",
        "Motion",
        "Velocity",
        "Levels",
        "Table",
        "Compare",
        "Numbers",
    ),
    "console": ("Console", "Pins", "Wires", "Faults", "Continuity", "Ways", "Couplers", "Pistons"),
    "scenes": ("Evening", "Programs", "Changes", "Storing", "Rehearse"),
    "outputs": ("Sounds", "Desk", "Delay", "Power", "Stage", "Packing", "Without"),
    "prove": ("What falls short", "Walk-through", "Log"),
    "cards": ("Card", "Dial it", "Differences", "Sheets"),
}
"""By the id of the view; views that are one page only are left out."""
