"""Wishes that hold for only some of their sources."""

from collections.abc import Sequence

import msgspec

from vastzone.core.plan.model.wishes import Wish


def with_sources(wish: Wish, places: Sequence[int]) -> Wish:
    """A wish for some of its sources, by their places, with the sounds that belong to them."""
    if len(places) == len(wish.sources):
        return wish
    sources = tuple(wish.sources[place] for place in places)
    sounds = tuple(wish.sounds[place] for place in places if place < len(wish.sounds))
    return msgspec.structs.replace(wish, sources=sources, sounds=sounds)
