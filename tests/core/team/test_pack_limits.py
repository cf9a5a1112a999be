"""Packs that unpack to more than a library holds, from a folder and from a server."""

import io
import os
import random
import subprocess
import zlib
from contextlib import closing

import pytest
from dulwich.repo import Repo

from outgrowth.core.team.connection import connect, make_library
from outgrowth.core.team.git_store import open_folder
from outgrowth.core.team.pack_limits import LARGEST_FOLDER, LARGEST_PART, check_pack
from outgrowth.core.team.store import LibraryRefusal, Signature, untold
from outgrowth.core.team.versions import version_numbers

TWO_GB = 2 * 1024**3
MAREN = Signature("Maren Skerry <maren@ferries.example>", 1_790_000_000)
TREE, BLOB, OFFSET_DELTA, REFERENCE_DELTA = 2, 3, 6, 7


def number(value):
    """A size as deltas write it."""
    out = bytearray()
    while value > 0x7F:
        out.append(value & 0x7F | 0x80)
        value >>= 7
    return bytes([*out, value])


def item(kind, size, data, between=b""):
    """One object of a pack; `size` is what it says of itself."""
    first, rest = kind << 4 | size & 15, size >> 4
    head = bytes([first | 0x80]) + number(rest) if rest else bytes([first])
    return head + between + zlib.compress(data)


def pack_of(*items, count=None):
    start = b"PACK" + (2).to_bytes(4, "big") + (count or len(items)).to_bytes(4, "big")
    return io.BytesIO(start + b"".join(items) + b"\0" * 20)


REFUSED = {
    "a file of 2 GB": (pack_of(item(BLOB, TWO_GB, b"x")), "2,147,483,648 bytes"),
    "one that says it is small": (
        pack_of(item(BLOB, 10, b"\0" * 40_000_000)),
        "larger than it says",
    ),
    "a delta that makes 2 GB": (
        pack_of(item(OFFSET_DELTA, 12, number(5) + number(TWO_GB) + b"\x80" * 6, b"\x05")),
        "2,147,483,648 bytes",
    ),
    "a delta on 2 GB": (
        pack_of(item(REFERENCE_DELTA, 12, number(TWO_GB) + number(5) + b"\x80" * 6, b"\0" * 20)),
        "2,147,483,648 bytes",
    ),
    "a folder of 100,000 names": (
        pack_of(item(TREE, 100_000 * 60, b"x")),
        "the list of a folder",
    ),
    "more things than there are": (pack_of(count=2**31), "2,147,483,648 things"),
    "a size without end": (io.BytesIO(pack_of(b"\xff" * 90, count=1).getvalue()), "never ends"),
    "a cut": (io.BytesIO(pack_of(item(BLOB, 9, b"something"), count=2).getvalue()[:30]), "cut off"),
    "no pack": (io.BytesIO(b"<html>"), "no pack"),
}


@pytest.mark.parametrize("what", REFUSED)
def test_packs_with_more_than_a_library_holds_are_refused_before_they_are_unpacked(what):
    pack, sentence = REFUSED[what]
    pack.seek(0)
    with pytest.raises(LibraryRefusal, match=sentence):
        check_pack(pack)


@pytest.mark.parametrize("seed", range(40))
def test_a_damaged_pack_is_a_sentence(seed):
    rng = random.Random(seed)
    data = bytearray(pack_of(*(item(BLOB, 300, rng.randbytes(300)) for _ in range(20))).getvalue())
    for _ in range(rng.choice((1, 2, 8))):
        data[rng.randrange(8, len(data))] = rng.randrange(256)
    try:
        check_pack(io.BytesIO(bytes(data)))
    except LibraryRefusal as problem:
        assert str(problem).endswith(".")


def test_gits_own_packs_pass(tmp_path, demo):
    """Source: the packs that git makes of a library with a long history."""
    folder = tmp_path / "parts.git"
    with closing(make_library(str(folder), "Holm parts", MAREN, tmp_path / "copies")) as made:
        for n in range(30):
            files = {f"assets/a{n % 4}": random.Random(n // 8).randbytes(20_000) + bytes([n]) * 400}
            assert made.store.append(made.store.head(), files, f"step {n}", MAREN)
        head = made.store.head()
    subprocess.run(["git", "-C", folder, "repack", "-adfq", "--depth=50"], check=True)
    (pack,) = folder.glob("objects/pack/*.pack")
    with pack.open("rb") as file:
        check_pack(file)
    with closing(connect(str(folder), tmp_path / "copies")) as again:
        files = again.store.files(head)
        assert len(again.store.read(files["assets/a1"].blob)) == 20_400
        assert again.refreshed(untold).library.name == "Holm parts"


@pytest.mark.parametrize(
    ("kind", "size", "sentence"),
    [(BLOB, LARGEST_PART + 1, "a file of"), (TREE, LARGEST_FOLDER + 1, "the list of a folder")],
)
def test_what_lies_packed_in_a_folder_is_asked_for_its_size_first(tmp_path, kind, size, sentence):
    folder = tmp_path / "parts.git"
    repo = Repo.init_bare(str(folder), mkdir=True)
    data = b"\0" * size
    name = subprocess.run(
        ["git", "-C", folder, "hash-object", "-w", "--literally", "-t",
         "blob" if kind == BLOB else "tree", "--stdin"],
        input=data, capture_output=True, check=True,
    ).stdout.decode().strip()  # fmt: skip
    packed = subprocess.run(
        ["git", "-C", folder, "pack-objects", "-q", str(folder / "objects" / "pack" / "pack")],
        input=name.encode(), capture_output=True, check=True,
    )  # fmt: skip
    assert packed.stdout
    subprocess.run(["git", "-C", folder, "prune-packed"], check=True)
    repo.close()
    with closing(open_folder(folder)) as store, pytest.raises(LibraryRefusal, match=sentence):
        store.read(name)


ODD = ("HEAD", "config", "packed-refs", "objects/info/alternates", "refs/heads/main", "commondir")


@pytest.fixture
def library(tmp_path):
    folder = tmp_path / "parts.git"
    make_library(str(folder), "Holm parts", MAREN, tmp_path / "copies").close()
    return folder


@pytest.mark.parametrize("name", ODD)
def test_a_pipe_in_a_library_holds_nobody_up(library, tmp_path, name):
    path = library / name
    path.parent.mkdir(exist_ok=True)
    path.unlink(missing_ok=True)
    os.mkfifo(path)
    with pytest.raises(LibraryRefusal, match="no ordinary file"):
        connect(str(library), tmp_path / "copies")


def test_objects_that_are_pipes_hold_nobody_up(library, tmp_path):
    for path in list(library.glob("objects/??/*")):
        path.unlink()
        os.mkfifo(path)
    with (
        closing(connect(str(library), tmp_path / "copies")) as held,
        pytest.raises(LibraryRefusal, match="no ordinary file"),
    ):
        held.newest()


@pytest.mark.parametrize("how", ["include", 'includeIf "gitdir:/"', 'includeIf "onbranch:main"'])
def test_what_a_librarys_settings_include_is_not_read(library, tmp_path, how):
    os.mkfifo(tmp_path / "pipe")
    with (library / "config").open("a") as config:
        config.write(f"[{how}]\n\tpath = {tmp_path / 'pipe'}\n")
    with closing(connect(str(library), tmp_path / "copies")) as held:
        assert held.newest().library.name == "Holm parts"


@pytest.mark.parametrize("version", ["9" * 6_000 + ".0.0", "1.0." + "1" * 10, "1.0", "-1.0.0", ""])
def test_a_version_that_is_none_counts_as_none(version):
    assert version_numbers(version) == (0, 0, 0)
