"""Coverage-guided fuzzing of the readers, where atheris installs: ``python -m tests.atheris_files``.

All of atheris' own options can follow, for example ``-runs=100000`` or a corpus folder.
"""

import sys
import tempfile
from pathlib import Path

import atheris

with atheris.instrument_imports(include=["vastzone.files", "vastzone.core.plan"]):
    from vastzone.core.errors import PlanError
    from vastzone.files import native
    from vastzone.files.devices import read_device
    from vastzone.files.midi_file import read_song
    from vastzone.files.strikes import read_strikes
    from vastzone.files.tables import read_sweep

FOLDER = Path(tempfile.mkdtemp())
READERS = (native.read, read_device, read_song, read_strikes, read_sweep)


def one_input(data: bytes) -> None:
    """The first byte chooses the reader, the rest is the file."""
    path = FOLDER / "file.csv"
    path.write_bytes(data[1:])
    try:
        READERS[data[0] % len(READERS) if data else 0](path)
    except PlanError:
        return


atheris.Setup(sys.argv, one_input)
atheris.Fuzz()
