"""Recorded strikes in files: there and back, and what is said of bad ones."""

import pytest

from vastzone.core.errors import DamagedFile, ReadError
from vastzone.core.response.drummer import play
from vastzone.files.strikes import read_strikes, to_csv


def test_there_and_back(tmp_path):
    path = tmp_path / "take.csv"
    take = play(2, bars=2)
    path.write_text(to_csv(take.hits))
    back = read_strikes(path)
    assert [h.pad for h in back] == [h.pad for h in sorted(take.hits)]
    assert all(abs(a.at_ms - b.at_ms) < 0.01 for a, b in zip(back, sorted(take.hits), strict=True))


@pytest.mark.parametrize(
    ("text", "kind", "words"),
    [
        ("a,b\n1,2\n", DamagedFile, "no columns"),
        ("", DamagedFile, "no columns"),
        ("time_ms,pad,peak\n-1,snare,90\n", DamagedFile, "line 2"),
        ("time_ms,pad,peak\n1,snare,90\n2,snare,300\n", DamagedFile, "line 3"),
        ("time_ms,pad,peak\n1,,90\n", DamagedFile, "line 2"),
        ("time_ms,pad,peak\n1\n", DamagedFile, "line 2"),
    ],
)
def test_what_is_wrong_is_said_with_its_line(tmp_path, text, kind, words):
    path = tmp_path / "bad.csv"
    path.write_text(text)
    with pytest.raises(kind, match=words):
        read_strikes(path)


def test_a_file_that_is_not_there_or_no_text(tmp_path):
    with pytest.raises(ReadError):
        read_strikes(tmp_path / "nothing.csv")
    path = tmp_path / "noise.csv"
    path.write_bytes(b"time_ms,pad,peak\n\xff\x80")
    with pytest.raises(ReadError, match="line 2"):
        read_strikes(path)
