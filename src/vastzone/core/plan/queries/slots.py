"""Slots and programs as the display of their device counts them."""

from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device


def slot_words(device: Device, slot: Slot) -> str:
    """A slot as its device shows it: a number after the bank where that is not the first, or
    «A-1»."""
    letters = device.storage.letters
    if letters:
        group, place = divmod(slot.number, letters)
        shown = f"{_letter(group)}-{place + 1}"
    else:
        shown = str(slot.number + device.first_program)
    return f"{slot.bank + device.first_program}-{shown}" if slot.bank else shown


def _letter(number: int) -> str:
    """A, B … Z, AA, AB …"""
    before, place = divmod(number, 26)
    last = chr(ord("A") + place)
    return (_letter(before - 1) if before else "") + last


def program_words(device: Device, number: int) -> str:
    """A program of the first bank by its number on the wire, as its device shows it."""
    return slot_words(device, Slot(number=number))
