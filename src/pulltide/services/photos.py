"""Photos of a machine as it stands: made smaller, and without what a camera writes beside the picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from io import BytesIO
from typing import Protocol

from pulltide.core.errors import InputError, InputErrors, PulltideError
from pulltide.words import say

#: The longest side of a photo that is kept [px], and how finely it is kept.
LONGEST_PX, QUALITY = 1600, 82
#: The most that is opened: a small file may claim to be a huge picture.
MAX_PIXELS = 60_000_000
FORMATS = ("JPEG", "PNG", "WEBP")
#: So many photos of one machine are kept, and so long is what is written below one.
MAX_PHOTOS, MAX_LETTERS = 60, 200


class NoSuchPhoto(PulltideError, LookupError):
    """No photo has this number."""


@dataclass(frozen=True, slots=True)
class Photo:
    """One photo: what is written below it, who took it in, and when."""

    id: int
    caption: str
    author: str
    at: datetime
    removed: bool


class Photos(Protocol):
    """Where photos are kept."""

    def of(self, machine_id: str) -> Sequence[Photo]:
        """Those of a machine, the latest first, taken away ones too."""

    def content(self, machine_id: str, number: int) -> bytes:
        """One of them as JPEG. Raises NoSuchPhoto."""

    def keep(self, machine_id: str, content: bytes, caption: str, author: str, at: datetime | None = None) -> None:
        """Keep one, taken in now or at a moment. Raises InputErrors where there are too many."""

    def set_removed(self, machine_id: str, number: int, removed: bool) -> None:
        """Take one away, or put it back."""


def cleaned(content: bytes, name: str) -> bytes:
    """A photo as JPEG: upright, no larger than it need be, without place, camera or time. Raises InputErrors."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    accepted = say("JPEG, PNG or WebP")
    try:
        with Image.open(BytesIO(content), formats=FORMATS) as opened:
            if opened.width * opened.height > MAX_PIXELS:
                most = say("up to {max_pixels} million pixels", max_pixels=MAX_PIXELS // 1_000_000)
                raise InputErrors([InputError(say("Photo"), name, say("is too large a picture"), accepted=most)])
            upright = ImageOps.exif_transpose(opened)
            upright.thumbnail((LONGEST_PX, LONGEST_PX))
            bare = Image.new("RGB", upright.size, "white")
            clear = upright.convert("RGBA")
            bare.paste(clear, mask=clear.getchannel("A"))
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InputErrors(
            [InputError(say("Photo"), name, say("is no picture that can be read"), accepted=accepted)]
        ) from error
    made = BytesIO()
    bare.save(made, "JPEG", quality=QUALITY, optimize=True)
    return made.getvalue()
