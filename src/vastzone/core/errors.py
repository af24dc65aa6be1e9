"""The errors that a person can cause.

    PlanError                     anything a person can put right
    ├── PitchError                a note name that cannot be read
    ├── EditError                 an edit that the plan cannot take
    ├── ReadError                 a file that cannot be read
    │   ├── DamagedFile           not what its name says it is
    │   └── NewerFile             written by a later version of the program
    ├── WriteError                a place that cannot be written
    │   └── ChangedElsewhere      a file that somebody else has changed since it was opened
    └── PortError                 a MIDI port that cannot be opened

Each carries one sentence: what is wrong, where, and what to do.  Anything else that is raised
is a defect of the program.
"""


class PlanError(Exception):
    """One sentence for the person: what is wrong, where, what to do."""


class PitchError(PlanError):
    """A note name that cannot be read."""


class EditError(PlanError):
    """An edit that the plan cannot take."""


class ReadError(PlanError):
    """A file that cannot be read."""


class DamagedFile(ReadError):
    """A file that is not what its name says it is."""


class NewerFile(ReadError):
    """A file written by a later version of the program."""


class WriteError(PlanError):
    """A place that cannot be written."""


class ChangedElsewhere(WriteError):
    """A file that somebody else has changed since it was opened."""


class PortError(PlanError):
    """A MIDI port that cannot be opened."""
