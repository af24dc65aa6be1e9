"""How views apply edits: errors become one sentence in the window."""

from collections.abc import Callable

from vastzone.core.plan.edits.edit import Edit

Performer = Callable[[Edit], None]
