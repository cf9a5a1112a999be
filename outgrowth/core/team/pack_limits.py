"""What a pack of git's objects may unpack to: two megabytes of somebody's pack can be two
gigabytes of memory. Sizes are read where git says them, before anything is unpacked.

Source: gitformat-pack(5).
"""

from __future__ import annotations

import zlib
from collections.abc import Callable
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
# A size or an offset of this many bytes is beyond all of them.
_LONGEST_NUMBER = 10


class _Buffer(Protocol):
    """Bytes in memory or of a file."""

    def __getitem__(self, at: slice, /) -> bytes: ...


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
    buffer: _Buffer = pack.data._buffer()  # the mapped file: nothing public gives a header
    offset = pack.index.object_offset(digest)
    for _ in range(_LONGEST_CHAIN):
        kind, size, at = _header(buffer, offset)
        if kind == _OFFSET_DELTA:
            back, start = _distance(buffer, at)
            refuse_large(_delta_result(buffer, start))
            offset -= back
        elif kind == _REFERENCE_DELTA:
            refuse_large(_delta_result(buffer, at + _DIGEST))
            offset = pack.index.object_offset(ObjectID(buffer[at : at + _DIGEST].hex().encode()))
        else:
            refuse_large(size, kind == _TREE)
            return
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


class _PackStream:
    """Goes through the objects of a pack in their order."""

    def __init__(self, file: IO[bytes]) -> None:
        self._file = file
        self._ahead = b""

    def skip_object(self) -> int:
        """The size of the next object, which is unpacked and forgotten. Raises LibraryRefusal."""
        first = self._byte()
        kind, size, shift = first >> 4 & 7, first & 15, 4
        while first & 0x80:
            first = self._byte()
            size |= (first & 0x7F) << shift
            shift += 7
            _refuse_endless(shift // 7)
        if kind == _OFFSET_DELTA:
            self._skip_number()
        elif kind == _REFERENCE_DELTA:
            for _ in range(_DIGEST):
                self._byte()
        refuse_large(size, kind == _TREE)
        is_delta = kind in (_OFFSET_DELTA, _REFERENCE_DELTA)
        self._unpack(size, _refuse_delta if is_delta else None)
        return size

    def _unpack(self, size: int, look: Callable[[bytes], None] | None) -> None:
        """Unpacks one stream, of which `look` sees the beginning."""
        unpacker, done = zlib.decompressobj(), 0
        while not unpacker.eof:
            data = unpacker.unconsumed_tail
            if not data:
                data, self._ahead = self._ahead or self._file.read(_CHUNK), b""
            if not data:
                raise LibraryRefusal("What the library sent is cut off. Nothing was read.")
            try:
                piece = unpacker.decompress(data, _CHUNK)
            except zlib.error as problem:
                raise LibraryRefusal("What the library sent is damaged. Nothing was read.") from (
                    problem
                )
            if look is not None and piece:
                look(piece)
                look = None
            done += len(piece)
            if done > size:
                raise LibraryRefusal(
                    "What the library sent is larger than it says. Nothing was read."
                )
        self._ahead = unpacker.unused_data

    def _byte(self) -> int:
        if not self._ahead:
            self._ahead = self._file.read(_CHUNK)
        if not self._ahead:
            raise LibraryRefusal("What the library sent is cut off. Nothing was read.")
        first, self._ahead = self._ahead[0], self._ahead[1:]
        return first

    def _skip_number(self) -> None:
        count = 1
        while self._byte() & 0x80:
            count += 1
            _refuse_endless(count)


# --- what stands before a part ----------------------------------------------------------------


def _header(buffer: _Buffer, offset: int) -> tuple[int, int, int]:
    """Kind and size of the object at an offset, and where it goes on."""
    data = buffer[offset : offset + _LONGEST_NUMBER + 1]
    kind, size, shift, at = data[0] >> 4 & 7, data[0] & 15, 4, 0
    while data[at] & 0x80:
        at += 1
        _refuse_endless(at)
        size |= (data[at] & 0x7F) << shift
        shift += 7
    return kind, size, offset + at + 1


def _distance(buffer: _Buffer, offset: int) -> tuple[int, int]:
    """How far back the base of a delta lies, and where the delta begins."""
    data = buffer[offset : offset + _LONGEST_NUMBER + 1]
    at, back = 0, data[0] & 0x7F
    while data[at] & 0x80:
        at += 1
        _refuse_endless(at)
        back = (back + 1) << 7 | data[at] & 0x7F
    return back, offset + at + 1


def _delta_result(buffer: _Buffer, offset: int) -> int:
    """How large what a delta makes is."""
    start = zlib.decompressobj().decompress(buffer[offset : offset + 256], 2 * _LONGEST_NUMBER)
    return _delta_sizes(start)[1]


def _refuse_delta(start: bytes) -> None:
    for size in _delta_sizes(start):
        refuse_large(size)


def _delta_sizes(start: bytes) -> tuple[int, int]:
    """Sizes of what a delta begins with and of what it makes, as its first bytes say."""
    sizes, at = [], 0
    for _ in range(2):
        size = shift = 0
        while True:
            if at >= len(start):
                raise LibraryRefusal("The library is damaged: a part is cut off.")
            byte, at = start[at], at + 1
            size |= (byte & 0x7F) << shift
            shift += 7
            if not byte & 0x80:
                break
            _refuse_endless(shift // 7)
        sizes.append(size)
    return sizes[0], sizes[1]


def _refuse_endless(count: int) -> None:
    if count > _LONGEST_NUMBER:
        raise LibraryRefusal("The library is damaged: a size in it never ends.")
