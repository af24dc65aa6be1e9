"""Sentences and numbers in the language spoken."""

from gettext import NullTranslations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core import say as speech
from vastzone.core.plan.fields.part_fields import louder_words, read_louder
from vastzone.core.plan.fields.values import (
    Measure,
    Typed,
    optional_text,
    optional_words,
    read_optional,
    read_volts,
    volts_text,
    volts_words,
)
from vastzone.core.say import number, say, say_many
from vastzone.core.text import amount, decimal, listed, listed_numbers, listed_pairs

WORDS = {
    "{part} is late by {ms:.1f} ms": "{ms:.1f} ms zu spät: {part}",
    "broken {place}": "kaputt {elsewhere}",
    "{names} and {last}": "{names} und {last}",
}


class Foreign(NullTranslations):
    """A language with three plural forms, as Polish has them."""

    def gettext(self, message):
        return WORDS.get(message, message)

    def ngettext(self, one, more, count):
        if one != "{count} key":
            return super().ngettext(one, more, count)
        few = count % 10 in (2, 3, 4) and count % 100 not in (12, 13, 14)
        return (
            "{count} klawisz" if count == 1 else "{count} klawisze" if few else "{count} klawiszy"
        )


@pytest.fixture(params=[".", ","])
def mark(request):
    speech.speak(Foreign(), request.param)
    yield request.param
    speech.speak(NullTranslations())


def test_places_go_where_the_language_wants_them(mark):
    said = say("{part} is late by {ms:.1f} ms", part="Bass {ms}", ms=12.25)
    assert said == f"12{mark}2 ms zu spät: Bass {{ms}}"
    assert say("{ms:.1f} ms, {count} keys", ms=0.5, count=3) == f"0{mark}5 ms, 3 keys"
    assert say("no {place} is filled") == "no {place} is filled" and say("") == ""
    assert listed(["a", "b", "c"]) == "a, b und c"


def test_a_translation_that_names_another_place_is_not_used(mark):
    assert say("broken {place}", place="x") == "broken x"


def test_plural_forms_are_those_of_the_language(mark):
    forms = [say_many("{count} key", "{count} keys", count) for count in (1, 2, 5, 12, 22, 112)]
    assert [form.split()[1] for form in forms] == [
        "klawisz",
        "klawisze",
        "klawiszy",
        "klawiszy",
        "klawisze",
        "klawiszy",
    ]
    assert say_many("{count} pad of {a}", "{count} pads of {a}", 1, a="B") == "1 pad of B"


@given(
    st.sampled_from([".", ","]),
    st.floats(-1e6, 1e6, allow_nan=False),
    st.sampled_from(["g", ".2f", ".0f", ".4g", ".10g", ",.2f"]),
)
def test_a_number_as_it_is_shown_is_read_as_the_same(kind, value, specification):
    """Whatever mark a locale has, what stands in a field can be typed there again."""
    speech.speak(NullTranslations(), kind)
    try:
        shown = number(value, specification)
        plain = float(format(value, specification).replace(",", ""))
        assert amount(shown) == plain
        if "," not in specification:
            assert decimal(shown) == plain
    finally:
        speech.speak(NullTranslations())


@given(
    st.sampled_from([".", ","]),
    st.lists(st.tuples(st.integers(0, 127), st.floats(-60, 60)), min_size=1, max_size=4),
)
def test_a_list_of_numbers_as_it_is_shown_is_read_as_the_same(kind, pairs):
    speech.speak(NullTranslations(), kind)
    try:
        rounded = tuple(sorted({value: round(decibels, 2) for value, decibels in pairs}.items()))
        assert read_louder(louder_words(rounded)) == rounded
    finally:
        speech.speak(NullTranslations())


def test_commas_part_numbers_and_lists():
    assert listed_pairs("0 0,100 9") == listed_pairs("0 0, 100 9; ") == ["0 0", "100 9"]
    assert listed_pairs("50 4,5, 100 9") == ["50 4,5", "100 9"]
    assert listed_numbers("Volume 80,5, Reverb 0") == ["Volume 80,5", "Reverb 0"]


@given(st.floats(0, 40))
def test_what_is_kept_is_the_same_in_every_language_and_shown_in_its_own(value):
    fields = (
        Measure(0, 100),
        Typed(optional_text, read_optional, optional_words),
        Typed(volts_text, read_volts, volts_words),
    )
    for field in fields:
        english, told = field.stored(None, value), field.words(None, field.stored(None, value))
        speech.speak(NullTranslations(), ",")
        try:
            assert field.stored(None, value) == english
            assert field.words(None, english) == told.replace(".", ",")
            assert field.held(None, english) == float(english)
        finally:
            speech.speak(NullTranslations())
