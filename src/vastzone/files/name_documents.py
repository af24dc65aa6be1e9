"""The open XML for names: of programs (patches), of the sounds on notes, and of controllers.

Source: the published MIDI name document format, version 1.0 (elements MIDINameDocument,
MasterDeviceNames, PatchBank, NoteNameList, ControlNameList).
"""

import xml.etree.ElementTree as ET
from collections.abc import Iterator
from pathlib import Path

from vastzone.core.describe.names import (
    ANSWERS,
    ControlType,
    NamedControl,
    NamedKit,
    NamedProgram,
    Names,
)
from vastzone.core.errors import DamagedFile
from vastzone.core.say import say
from vastzone.core.text import printable, quoted, whole_number
from vastzone.files.reading import TABLE_LIMIT, read_whole, text_of
from vastzone.files.whole import write_whole

LONGEST = 80
HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'
BANK_HIGH, BANK_LOW = 0, 32


def read_names(path: Path) -> Names:
    """Read a name document.  Raises ReadError when it cannot be opened, DamagedFile when it is
    none."""
    return names_from(text_of(read_whole(path, TABLE_LIMIT), path.name), quoted(path.name))


def names_from(text: str, name: str) -> Names:
    """The names in a document.  Raises DamagedFile, with the line where that is known."""
    if "<!ENTITY" in text:
        raise DamagedFile(
            say("{name} declares entities, which such a document has not: remove them.", name=name)
        )
    try:
        root = ET.fromstring(text)
    except ET.ParseError as error:
        line = error.position[0]
        raise DamagedFile(
            say("{name} is no XML at line {line}: correct it there.", name=name, line=line)
        ) from None
    if root.tag != "MIDINameDocument":
        raise DamagedFile(
            say("{name} holds no names of programs, notes or controllers.", name=name)
        )
    names = Names(
        tuple(_kits(root, name)), tuple(_programs(root, name)), tuple(_controls(root, name))
    )
    if not any(names):
        raise DamagedFile(say("{name} names nothing: choose another document.", name=name))
    return names


def _kits(root: ET.Element, name: str) -> Iterator[NamedKit]:
    for place, listed in enumerate(root.iter("NoteNameList"), 1):
        notes: dict[int, str] = {}
        for note in listed.iter("Note"):
            notes[_number(note, "Number", 127, name)] = _name(note, "")
        if notes:
            yield NamedKit(_name(listed, say("Kit {place}", place=place)), tuple(notes.items()))


def _programs(root: ET.Element, name: str) -> Iterator[NamedProgram]:
    seen = set()
    for bank in root.iter("PatchBank"):
        number = _bank(bank, name)
        for patch in bank.iter("Patch"):
            program = _number(patch, "ProgramChange", 127, name)
            if (number, program) not in seen:
                seen.add((number, program))
                yield NamedProgram(
                    number, program, _name(patch, say("Program {program}", program=program + 1))
                )


def _bank(bank: ET.Element, name: str) -> int:
    """The bank 0–16383 that is selected before its programs: controllers 0 and 32."""
    number = 0
    commands = bank.find("MIDICommands")
    for change in commands.iter("ControlChange") if commands is not None else ():
        control = _number(change, "Control", 127, name)
        value = _number(change, "Value", 127, name)
        if control == BANK_HIGH:
            number |= value << 7
        elif control == BANK_LOW:
            number |= value
    return number


def _controls(root: ET.Element, name: str) -> Iterator[NamedControl]:
    seen = set()
    for control in root.iter("Control"):
        kind = control.get("Type", "7bit")
        known = next((each for each in ANSWERS if each.lower() == kind.lower()), None)
        if known is None:
            raise DamagedFile(
                say(
                    "{name} has a controller of type “{kind}”: write 7bit.",
                    name=name,
                    kind=quoted(kind),
                )
            )
        most = 16383 if known in ("RPN", "NRPN") else 127
        number = _number(control, "Number", most, name)
        if (known, number) not in seen:
            seen.add((known, number))
            yield NamedControl(
                known, number, _name(control, say("Controller {number}", number=number))
            )


def _number(element: ET.Element, attribute: str, most: int, name: str) -> int:
    text = element.get(attribute, "")
    number = whole_number(text)
    if number is None or not 0 <= number <= most:
        raise DamagedFile(
            say(
                "{name}: “{text}” is no {attribute} of a {tag}: write 0 to {most}.",
                name=name,
                text=quoted(text),
                attribute=attribute,
                tag=element.tag,
                most=most,
            )
        )
    return number


def _name(element: ET.Element, otherwise: str) -> str:
    words = printable(element.get("Name", "").strip())[:LONGEST]
    return words or otherwise or say("Note {element}", element=element.get("Number", ""))


def to_xml(device: str, names: Names) -> str:
    """Names as such a document, of the device so called."""
    root = ET.Element("MIDINameDocument")
    ET.SubElement(root, "Author")
    master = ET.SubElement(root, "MasterDeviceNames")
    ET.SubElement(master, "Manufacturer")
    ET.SubElement(master, "Model").text = _writable(device)
    channels = ET.SubElement(master, "ChannelNameSet", Name="Names")
    available = ET.SubElement(channels, "AvailableForChannels")
    for channel in range(1, 17):
        ET.SubElement(available, "AvailableChannel", Channel=str(channel), Available="true")
    for bank in sorted({program.bank for program in names.programs}):
        _write_bank(channels, bank, names)
    for kit in names.kits:
        listed = ET.SubElement(master, "NoteNameList", Name=_writable(kit.name))
        for note, words in kit.notes:
            ET.SubElement(listed, "Note", Number=str(note), Name=_writable(words))
    if names.controls:
        listed = ET.SubElement(master, "ControlNameList", Name="Controllers")
        for control in names.controls:
            kind: ControlType = control.type
            number = str(control.number)
            ET.SubElement(listed, "Control", Type=kind, Number=number, Name=_writable(control.name))
    ET.indent(root)
    return HEAD + ET.tostring(root, encoding="unicode") + "\n"


def _write_bank(channels: ET.Element, bank: int, names: Names) -> None:
    element = ET.SubElement(channels, "PatchBank", Name=f"Bank {bank}")
    commands = ET.SubElement(element, "MIDICommands")
    for control, value in ((BANK_HIGH, bank >> 7), (BANK_LOW, bank & 0x7F)):
        ET.SubElement(commands, "ControlChange", Control=str(control), Value=str(value))
    patches = ET.SubElement(element, "PatchNameList", Name=f"Bank {bank}")
    for program in names.programs:
        if program.bank == bank:
            ET.SubElement(
                patches,
                "Patch",
                Number=str(program.number + 1),
                Name=_writable(program.name),
                ProgramChange=str(program.number),
            )


def _writable(words: str) -> str:
    """Words without what XML cannot hold."""
    return printable(words)


def write_names(device: str, names: Names, path: Path, *, replace: bool = True) -> None:
    """Write a name document.  Raises WriteError."""
    write_whole(to_xml(device, names).encode(), path, say("The document of names"), replace=replace)
