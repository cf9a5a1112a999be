"""What a pack of git's objects may unpack to: two megabytes of somebody's pack can be two
gigabytes of memory. Sizes are read where git says them, before anything is unpacked.

Source: gitformat-pack(5).
"""

from __future__ import annotations

import zlib
from collections.abc import Callable
from mmap import mmap
from typing import IO, Protocol

from dulwich.objects import ObjectID
from dulwich.pack import Pack

from outgrowth.core.team.store import LibraryRefusal

LARGEST_PART = 32 * 1024 * 1024
"""Bytes of one file of a library. Pictures are the largest; a component has some kB."""
LARGEST_FOLDER = 4 * 1024 * 1024
"""Bytes of the list of one folder of a library: some 50,000 names."""
LARGEST_PACK = 1024 * 1024 * 1024
"""Bytes that a server may send in one answer."""
MOST_UNPACKED = 16 * LARGEST_PACK
"""Bytes of all that is in them."""
MOST_OBJECTS = 2_000_000
_TREE, _OFFSET_DELTA, _REFERENCE_DELTA = 2, 6, 7
_LONGEST_CHAIN = 4_096
_CHUNK = 64 * 1024
_DIGEST = 20
_FED = 4 * 1024
"""Bytes that are unpacked at once: most objects have fewer."""
# A size or an offset of this many bytes is beyond all of them.
_LONGEST_NUMBER = 10
_CUT_OFF = "The library is damaged: a part of it is cut off."
_ENDLESS = "The library is damaged: a size in it never ends."


class _Bytes(Protocol):
    """What headers are read from."""

    def byte(self) -> int: ...


def refuse_large(size: int, is_folder: bool = False) -> None:
    """Raises LibraryRefusal for a file, or the list of a folder, that is larger than ours are."""
    most = LARGEST_FOLDER if is_folder else LARGEST_PART
    if size > most:
        what = "the list of a folder" if is_folder else "a file"
        raise LibraryRefusal(
            f"The library holds {what} of {size:,} bytes; {most:,} is the most. Nothing was read."
        )


def refuse_large_object(pack: Pack, digest: ObjectID) -> None:
    """Raises LibraryRefusal where an object of a pack, or one that it is said by, is too large."""
    stored = _Stored(pack.data._buffer())  # the mapped file: nothing public gives a header
    offset = pack.index.object_offset(digest)
    for _ in range(_LONGEST_CHAIN):
        stored.at = offset
        kind, size = _kind_and_size(stored)
        if kind not in (_OFFSET_DELTA, _REFERENCE_DELTA):
            refuse_large(size, kind == _TREE)
            return
        if kind == _OFFSET_DELTA:
            offset -= _distance(stored)
        else:
            name = bytes(stored.byte() for _ in range(_DIGEST))
            offset = pack.index.object_offset(ObjectID(name.hex().encode()))
        _refuse_large_delta(stored.unpacked_start())
        if offset <= 0:
            break
    raise LibraryRefusal("The library is damaged: a part is said by others without end.")


def check_pack(file: IO[bytes]) -> None:
    """Reads a pack through, a piece of it in memory at a time. Raises LibraryRefusal where it
    holds more than a library may, or is none."""
    start = file.read(12)
    count = int.from_bytes(start[8:12], "big")
    if start[:4] != b"PACK" or len(start) < 12:
        raise LibraryRefusal("What the library sent is no pack of git's. Nothing was read.")
    if count > MOST_OBJECTS:
        raise LibraryRefusal(
            f"The library sent {count:,} things; {MOST_OBJECTS:,} is the most. Nothing was read."
        )
    reader, total = _PackStream(file), 0
    for _ in range(count):
        total += reader.skip_object()
        if total > MOST_UNPACKED:
            raise LibraryRefusal(
                f"The library sent more than {MOST_UNPACKED:,} bytes. Nothing was read."
            )


class _Stored:
    """A pack in memory or of a file, read from any place of it."""

    def __init__(self, data: bytes | mmap) -> None:
        self._data = data
        self.at = 0

    def byte(self) -> int:
        if self.at >= len(self._data):
            raise LibraryRefusal(_CUT_OFF)
        self.at += 1
        return self._data[self.at - 1]

    def unpacked_start(self) -> bytes:
        """The first bytes of what is packed here."""
        packed = self._data[self.at : self.at + 256]
        return zlib.decompressobj().decompress(packed, 2 * _LONGEST_NUMBER)


class _PackStream:
    """A pack from its beginning to its end, a piece of it in memory at a time."""

    def __init__(self, file: IO[bytes]) -> None:
        self._file = file
        self._piece = b""
        self._at = 0

    def byte(self) -> int:
        return self._next(1)[0]

    def _next(self, most: int) -> bytes:
        """What comes next: so many bytes at most, one at least. Raises LibraryRefusal."""
        if self._at >= len(self._piece):
            self._piece, self._at = self._file.read(_CHUNK), 0
        taken = self._piece[self._at : self._at + most]
        if not taken:
            raise LibraryRefusal(_CUT_OFF)
        self._at += len(taken)
        return taken

    def skip_object(self) -> int:
        """The size of the next object, which is unpacked and forgotten. Raises LibraryRefusal."""
        kind, size = _kind_and_size(self)
        if kind == _OFFSET_DELTA:
            _distance(self)
        elif kind == _REFERENCE_DELTA:
            for _ in range(_DIGEST):
                self.byte()
        refuse_large(size, kind == _TREE)
        is_delta = kind in (_OFFSET_DELTA, _REFERENCE_DELTA)
        self._unpack(size, _refuse_large_delta if is_delta else None)
        return size

    def _unpack(self, size: int, look: Callable[[bytes], None] | None) -> None:
        """Unpacks one stream, of which `look` sees the beginning."""
        unpacker, done = zlib.decompressobj(), 0
        while not unpacker.eof:
            packed = unpacker.unconsumed_tail or self._next(_FED)
            try:
                piece = unpacker.decompress(packed, _CHUNK)
            except zlib.error as problem:
                raise LibraryRefusal("What the library sent is damaged.") from problem
            if look is not None and piece:
                look(piece)
                look = None
            done += len(piece)
            if done > size:
                raise LibraryRefusal("What the library sent is larger than it says.")
        self._at -= len(unpacker.unused_data)


# --- what stands before a part ----------------------------------------------------------------


def _kind_and_size(source: _Bytes) -> tuple[int, int]:
    first = source.byte()
    size = _more(source, first & 15, 4) if first & 0x80 else first & 15
    return first >> 4 & 7, size


def _more(source: _Bytes, number: int, shift: int) -> int:
    """A number of which the lowest bits are known, the rest by sevens."""
    for _ in range(_LONGEST_NUMBER):
        byte = source.byte()
        number |= (byte & 0x7F) << shift
        shift += 7
        if not byte & 0x80:
            return number
    raise LibraryRefusal(_ENDLESS)


def _distance(source: _Bytes) -> int:
    """How far back the base of a delta lies."""
    byte = source.byte()
    back = byte & 0x7F
    for _ in range(_LONGEST_NUMBER):
        if not byte & 0x80:
            return back
        byte = source.byte()
        back = (back + 1) << 7 | byte & 0x7F
    raise LibraryRefusal(_ENDLESS)


def _refuse_large_delta(start: bytes) -> None:
    """Raises LibraryRefusal where what a delta begins with, or makes, is too large, as its first
    bytes say."""
    said = _Stored(start)
    for _ in range(2):
        refuse_large(_more(said, 0, 0))
