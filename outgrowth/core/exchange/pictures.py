"""Pictures from outside: PNG, JPEG, GIF and WebP files, checked before the file holds them.

The size is read from the head before anything is unpacked, so that a small file cannot ask
for a large amount of memory; then the whole is unpacked once, so that one that is cut off
is refused now and not when it is drawn.
"""

from __future__ import annotations

import io
import warnings

from PIL import Image, UnidentifiedImageError

from outgrowth.core.document.records import Asset
from outgrowth.core.document.types import LARGEST_PICTURE, MOST_PIXELS
from outgrowth.core.document.values import Picture
from outgrowth.core.refusal import LONGEST_SENTENCE, Refusal, quoted

_LARGEST_FILE = 64 * 1024 * 1024
_MEDIA = {"PNG": "image/png", "JPEG": "image/jpeg", "GIF": "image/gif", "WEBP": "image/webp"}
_LONGEST_NAME = 200
_ORIENTATION = 0x0112
_TURNED = (5, 6, 7, 8)


class PictureRefusal(Refusal):
    """A picture cannot be used; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


def read_picture(data: bytes, name: str) -> tuple[Picture, Asset]:
    """The picture in a file's bytes, with its size in px as it is meant to be seen (a
    camera's turn included), and what the document is to hold. `name` is the file's.

    Raises PictureRefusal for what is no such picture, damaged, or too large.
    """
    file, name = name, quoted(name, 60)
    if len(data) > _LARGEST_FILE:
        raise PictureRefusal(f"“{name}” is larger than 64 MB; a smaller copy can be placed.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=tuple(_MEDIA)) as image:
                width, height = image.size
                _limited(width, height, name)
                media = _MEDIA[str(image.format)]
                image.load()
                turned = image.getexif().get(_ORIENTATION) in _TURNED
    except UnidentifiedImageError as problem:
        raise PictureRefusal(
            f"“{name}” is no picture that can be read; PNG, JPEG, GIF and WebP can."
        ) from problem
    except Image.DecompressionBombError as problem:
        raise PictureRefusal(_too_large(name, "far too many pixels")) from problem
    except (OSError, SyntaxError, ValueError, EOFError) as problem:
        if isinstance(problem, PictureRefusal):
            raise
        raise PictureRefusal(f"“{name}” is damaged or cut off, so it was not placed.") from problem
    if turned:
        width, height = height, width
    asset = Asset(file[:_LONGEST_NAME], media, data)
    return Picture(asset.digest, float(width), float(height)), asset


def _limited(width: int, height: int, name: str) -> None:
    if max(width, height) > LARGEST_PICTURE or width * height > MOST_PIXELS:
        raise PictureRefusal(_too_large(name, f"{width:,} × {height:,} px"))


def _too_large(name: str, size: str) -> str:
    return (
        f"“{name}” has {size}; {MOST_PIXELS // 1_000_000} million pixels and "
        f"{LARGEST_PICTURE:,.0f} px a side are the most. A smaller copy can be placed."
    )
