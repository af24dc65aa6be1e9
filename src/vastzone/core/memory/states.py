"""How far a setting has come on its way into a device."""

from typing import Literal

State = Literal["planned", "sent", "stored", "checked"]
STATES: tuple[State, ...] = ("planned", "sent", "stored", "checked")
