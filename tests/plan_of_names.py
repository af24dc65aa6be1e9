"""Plans in which every word that a person can write is a nasty one."""

from itertools import cycle

import msgspec

from tests.nasty import NAMES

SKIPPED = {"id", "tag", "kind", "message", "control", "rule", "source", "dest"}


def renamed(plan, names=NAMES):
    """The plan with all names and notes replaced, in turn, by those given."""
    following = cycle(names)

    def walk(value):
        if isinstance(value, msgspec.Struct):
            changes = {}
            for field in value.__struct_fields__:
                held = getattr(value, field)
                if (
                    field in ("name", "notes")
                    and isinstance(held, str)
                    and (held or field == "name")
                ):
                    changes[field] = next(following)[:80]
                elif isinstance(held, (msgspec.Struct, tuple)):
                    changes[field] = walk(held)
            return msgspec.structs.replace(value, **changes)
        if isinstance(value, tuple):
            return tuple(walk(item) for item in value)
        return value

    return walk(plan)
