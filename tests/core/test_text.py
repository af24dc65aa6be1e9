"""Words made safe and counted: at their very edges."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.text import (
    BREAK,
    amount,
    breakable,
    decimal,
    in_none,
    listed,
    one_line,
    printable,
    quoted,
    table_cell,
    whole_number,
)


def test_what_acts_is_shown_as_a_picture():
    assert printable("plain") == "plain" and printable("Ünï") == "Ünï"
    assert printable("a\x1b[31m") == "a␛[31m" and printable("\x7f") == "␡"
    assert printable("\x00\x1f") == "␀␟" and printable("a b") == "a b"
    assert printable("a\u202eb") == "ab" and printable("\x85") == "�"
    assert printable("a\nb", keep="\n") == "a\nb" and printable("a\nb") == "a␊b"


def test_a_single_line_has_spaces_for_breaks():
    assert one_line("a\nb\tc") == "a b c" and one_line("plain") == "plain"
    assert one_line("a\u2028b") == "a b"


def test_only_very_long_words_can_be_broken():
    short, long = "x" * 22, "x" * 23
    assert breakable(f"a {short}") == f"a {short}"
    assert breakable(long) == f"{'x' * 11}{BREAK}{'x' * 11}{BREAK}x"
    assert breakable("") == ""


def test_what_is_quoted_is_cut():
    assert quoted("x" * 200) == "x" * 200 and quoted("x" * 201) == "x" * 200 + "…"
    assert quoted("abcd", 3) == "abc…" and quoted(7) == "7"


@pytest.mark.parametrize(
    ("words", "number"),
    [
        ("7", 7),
        (" −7 ", -7),
        ("-7", -7),
        ("999999999", 999_999_999),
        ("1000000000", None),
        ("", None),
        ("-", None),
        ("7.5", None),
        ("٣", None),
        ("--7", None),
    ],
)
def test_whole_numbers_as_people_type_them(words, number):
    assert whole_number(words) == number


@pytest.mark.parametrize(
    ("words", "number"),
    [
        ("7", 7.0),
        ("7,5", 7.5),
        ("−7.5", -7.5),
        ("1e3", 1000.0),
        ("999999999999", 999_999_999_999.0),
        ("1e12", None),
        ("inf", None),
        ("nan", None),
        ("1_0", None),
        ("x", None),
        ("0" * 40, 0.0),
        ("0" * 41, None),
    ],
)
def test_decimals_as_people_type_them(words, number):
    assert decimal(words) == number


def test_cells_that_would_be_formulas_are_quoted_and_numbers_are_not():
    assert table_cell("=1") == "'=1" and table_cell("-x") == "'-x" and table_cell("@a") == "'@a"
    assert table_cell(-7) == "-7" and table_cell("a=1") == "a=1" and table_cell("") == ""


def test_lists_in_words():
    assert listed("") == "" and listed("a") == "a" and listed("ab") == "a and b"
    assert listed("abcd") == "a, b, c and d" and listed("abcde") == "a, b, c and 2 more"
    assert listed("aabb") == "a and b" and listed("abcd", 2) == "a, b and 2 more"
    assert in_none("a", "jack") == "a is in no jack"
    assert in_none("ab", "input") == "a and b are in no input"


CENTS = st.integers(0, 99_999_999)


@given(CENTS)
def test_an_amount_is_read_however_its_marks_are_written(cents):
    english = f"{cents / 100:,.2f}"
    swapped = english.translate(str.maketrans(",.", ".,"))
    for words in (english, swapped, english.replace(",", ""), swapped.replace(".", "")):
        assert amount(words) == pytest.approx(cents / 100)


@pytest.mark.parametrize(
    ("words", "value"),
    [
        ("2,5", 2.5),
        ("7,800", 7800),
        ("7.800", 7.8),
        ("0,500", 0.5),
        ("1.234.567", 1234567),
        ("7 800,5", 7800.5),
        ("1,2,3", None),
        ("", None),
        ("ten", None),
    ],
)
def test_amounts_at_their_edges(words, value):
    assert amount(words) == value
