"""The time that one message takes over one kind of cable, in milliseconds.

DIN figures follow from the MIDI 1.0 specification: 31 250 baud, ten bits a byte.  USB and
Bluetooth are the usual polling intervals of those links; for Bluetooth the longest is used,
because a plan has to work on a bad evening too.
"""

from typing import Literal

Link = Literal["din", "usb", "bluetooth", "internal"]

BAUD, BITS_A_BYTE = 31_250, 10
BYTE_MS = BITS_A_BYTE / BAUD * 1000
USB_MS = 1.0
BLUETOOTH_MS = 15.0
GOOD_MS, PLAYABLE_MS = 5.0, 10.0


def din_ms(size: int, running_status: bool = False) -> float:
    """Time of a message of ``size`` bytes on DIN: 0.96 ms for three, 0.64 with running status."""
    return (size - 1 if running_status else size) * BYTE_MS


def link_ms(link: Link, size: int = 3) -> float:
    """Time of ``size`` bytes over a link on which nothing else is under way."""
    if link == "din":
        return din_ms(size)
    return {"usb": USB_MS, "bluetooth": BLUETOOTH_MS, "internal": 0.0}[link]
