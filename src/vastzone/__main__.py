"""``python -m vastzone`` is the same as the ``vastzone`` command."""

import sys

from vastzone.cli import main

sys.exit(main())
