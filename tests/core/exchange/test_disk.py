"""Files that a person chose: each reason why one is not read is the reason that is said."""

import os

import pytest

from outgrowth.core.exchange.native import FileRefusal
from outgrowth.core.exchange.native.disk import read_chosen

REASONS = {
    "missing": (lambda path: None, "No such file"),
    "a pipe": (os.mkfifo, "no ordinary file"),
    "a folder": (lambda path: path.mkdir(), "Is a directory"),
    "too large": (lambda path: path.write_bytes(b"12345"), "5 bytes; 4 is the most"),
    "a circle of links": (lambda path: path.symlink_to(path), "Too many levels"),
}


@pytest.mark.parametrize("make, said", REASONS.values(), ids=REASONS.keys())
def test_what_cannot_be_read_says_why(tmp_path, make, said):
    path = tmp_path / "chosen"
    make(path)
    with pytest.raises(FileRefusal, match=said):
        read_chosen(path, largest=4)


def test_a_name_that_is_none_says_so(tmp_path):
    with pytest.raises(FileRefusal, match="no name for a file"):
        read_chosen(tmp_path / "a\0b")


def test_what_fits_to_the_byte_is_read(tmp_path):
    (tmp_path / "chosen").write_bytes(b"1234")
    assert read_chosen(tmp_path / "chosen", largest=4) == b"1234"
