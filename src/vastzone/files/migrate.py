"""Older files brought up to date: each version is made into the next, as plain values.

A file of an older version is read as it was written then; what was written is never changed, only
what is read.  Whoever changes the format raises ``VERSION`` and adds a step.
"""

from collections.abc import Callable
from typing import Any

from vastzone.core.plan.queries.lookup import free_id

VERSION = 6
"""The version that is written: of plans and of devices alike."""
Raw = dict[str, Any]


def brought_up(raw: Raw, version: int) -> Raw:
    """A file's values as today's version has them; ``raw`` may be changed.

    Values that are not as they should be are left: reading them says what is wrong.
    """
    for step in STEPS[version - 1 :]:
        step(raw)
    raw["version"] = VERSION
    return raw


def _from_1(raw: Raw) -> None:
    """Wishes were called intents; a program was known by its number alone."""
    plan = raw.get("plan")
    if isinstance(plan, dict):
        if "intents" in plan:
            plan["wishes"] = plan.pop("intents")
        for device in _dicts(plan.get("devices")):
            _name_programs(device)
    if isinstance(raw.get("device"), dict):
        _name_programs(raw["device"])


def _name_programs(device: Raw) -> None:
    for program in _dicts(device.get("programs")):
        if isinstance(program.get("number"), int):
            program.setdefault("id", str(program["number"]))


def _dicts(values: object) -> list[Raw]:
    return [each for each in values if isinstance(each, dict)] if isinstance(values, list) else []


def _from_2(raw: Raw) -> None:
    """What devices hold stood beside each number; it is taken out, to become their memory."""
    plan = raw.get("plan")
    if not isinstance(plan, dict):
        return
    records = []
    kept = []
    for setting in _dicts(plan.get("settings")):
        told = [name for name in ("state", "held", "on") if name in setting]
        record: Raw = {name: setting.pop(name) for name in told}
        if record:
            records.append({"ref": setting.get("ref"), **record})
        if set(setting) - {"ref"}:
            kept.append(setting)
    if isinstance(plan.get("settings"), list) and len(_dicts(plan["settings"])) == len(
        plan["settings"]
    ):
        plan["settings"] = kept
    if records:
        raw[RECORDS] = records


def _from_3(raw: Raw) -> None:
    """An encoder that said nothing counted its notes from 1 for C; now that is 0."""
    devices = _dicts(raw["plan"].get("devices")) if isinstance(raw.get("plan"), dict) else []
    if isinstance(raw.get("device"), dict):
        devices.append(raw["device"])
    for device in devices:
        console = device.get("console")
        if isinstance(console, dict):
            encoder = console.setdefault("encoder", {})
            if isinstance(encoder, dict):
                encoder.setdefault("first_index", 1)


def _from_4(_raw: Raw) -> None:
    """Functions, couplers and set lists came; what was there means what it meant."""


def _from_5(raw: Raw) -> None:
    """A part said its output in words; now outputs are things of their device."""
    devices = _dicts(raw["plan"].get("devices")) if isinstance(raw.get("plan"), dict) else []
    if isinstance(raw.get("device"), dict):
        devices.append(raw["device"])
    for device in devices:
        outputs = _dicts(device.get("outputs"))
        for part in _dicts(device.get("parts")):
            said = part.get("output")
            if isinstance(said, str) and said.strip():
                part["output"] = _output_named(outputs, said.strip())
        if outputs:
            device["outputs"] = outputs


def _output_named(outputs: list[Raw], said: str) -> str:
    """The id of an output by what a part called it; one that is not there is added."""
    for output in outputs:
        if said in (output.get("id"), output.get("name")):
            return str(output["id"])
    taken = {str(output.get("id")) for output in outputs}
    ident = free_id(taken, said)
    outputs.append({"id": ident, "name": said[:80], "kind": "mono"})
    return ident


RECORDS = "records"
"""Where the records of files before version 3 are put aside."""
STEPS: tuple[Callable[[Raw], None], ...] = (_from_1, _from_2, _from_3, _from_4, _from_5)
"""What makes a file of version 1 one of version 2, and so on."""
