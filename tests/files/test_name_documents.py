"""Names in the open XML: written and read again they are the same; what is damaged is told."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.describe.names import NamedControl, names_in, take_names
from vastzone.core.errors import DamagedFile
from vastzone.core.plan.model.plan import Plan
from vastzone.files.devices import shipped
from vastzone.files.name_documents import names_from, to_xml

DOCUMENT = """<?xml version="1.0" encoding="UTF-8"?>
<MIDINameDocument><MasterDeviceNames><ChannelNameSet Name="All">
<PatchBank Name="User"><MIDICommands><ControlChange Control="0" Value="0"/></MIDICommands>
<PatchNameList><Patch Number="A1" Name="Piano &amp; pad" ProgramChange="0"/>
<Patch Number="A2" Name="Organ" ProgramChange="1"/></PatchNameList></PatchBank></ChannelNameSet>
<NoteNameList Name="Brushes"><Note Number="36" Name="Kick"/><Note Number="38" Name="Snare"/>
</NoteNameList><ControlNameList><Control Type="7bit" Number="74" Name="Cutoff"/>
<Control Type="NRPN" Number="1025" Name="Drift"/></ControlNameList>
</MasterDeviceNames></MIDINameDocument>"""


def test_programs_kits_and_controllers_are_named():
    box = new_device(read_line("Box: module, 2 parts"))
    names = names_from(DOCUMENT, "names.midnam")
    after = take_names("box", names)(Plan(name="Plan", devices=(box,))).devices[0]
    assert [(p.number, p.name) for p in after.programs] == [(0, "Piano & pad"), (1, "Organ")]
    assert [(s.note, s.name) for s in after.kits[0].sounds] == [(36, "Kick"), (38, "Snare")]
    assert [(t.answers, t.wide) for t in after.targets] == [("controller", 74), ("nrpn", 1025)]
    assert names_in(after) == names


@pytest.mark.parametrize("device", shipped().values(), ids=lambda device: device.id)
def test_names_written_and_read_again_are_equal(device):
    names = names_in(device)
    if any(names):
        read = names_from(to_xml(device.name, names), "d")
        # Controllers of one number are one controller.
        assert read.programs == names.programs and read.kits == names.kits
        assert set(read.controls) == set(names.controls)
    assert take_names(device.id, names)(Plan(name="P", devices=(device,))).devices[0] == device


@given(st.text(max_size=40))
def test_any_name_can_be_written(name):
    written = to_xml(name, names_in(new_device(read_line("module, 3 sounds from 36"))))
    read = names_from(written, "d")
    assert read.kits[0].notes[0] == (36, "Sound 1")
    named = NamedControl("7bit", 20, name.strip()[:80] or "x")
    again = names_from(to_xml("Box", read._replace(controls=(named,))), "d")
    assert len(again.controls) == 1


@pytest.mark.parametrize(
    ("spoilt", "told"),
    [
        (DOCUMENT.replace("</MIDINameDocument>", ""), "line"),
        (DOCUMENT.replace("MIDINameDocument", "Other"), "no names"),
        (DOCUMENT.replace('Number="36"', 'Number="200"'), "200"),
        (DOCUMENT.replace('Type="7bit"', 'Type="9bit"'), "9bit"),
        ('<!DOCTYPE x [<!ENTITY a "b">]><MIDINameDocument/>', "entities"),
        ("<MIDINameDocument/>", "names nothing"),
    ],
)
def test_what_is_wrong_in_a_document_is_told(spoilt, told):
    with pytest.raises(DamagedFile, match=told):
        names_from(spoilt, "names.midnam")
