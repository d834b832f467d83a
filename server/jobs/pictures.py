"""Photos: what may be uploaded, and what is kept of it. Pictures are decoded and written again, so only pixels are kept."""

from __future__ import annotations

import hashlib
import os
from io import BytesIO
from pathlib import Path

import pillow_heif
from django.conf import settings
from PIL import Image, ImageOps

from temper_core.basis.errors import CoreError

pillow_heif.register_heif_opener()

MOST_BYTES = 8 * 1024 * 1024
MOST_PIXELS = 60_000_000
LONGEST_SIDE = 2000
FORMATS = ("JPEG", "PNG", "HEIF")


def check_size(size: int) -> None:
    """Refuse a file beyond 8 MB; raises CoreError."""
    if size > MOST_BYTES:
        raise CoreError("file", f"{size / 1024 / 1024:.1f} MB: a photo may have 8 MB. Take it smaller.", "too_large")


def reencoded(data: bytes) -> bytes:
    """A photo as it is kept: JPEG of its pixels, upright, at most 2000 px, without any of its metadata.

    Takes JPEG, PNG and HEIC. Raises CoreError for anything else, whatever its name or declared type.
    """
    check_size(len(data))
    try:
        with Image.open(BytesIO(data), formats=FORMATS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                message = f"{opened.width} × {opened.height} is more than a camera takes: send the photo itself."
                raise CoreError("file", message, "too_many_pixels")
            upright = ImageOps.exif_transpose(opened)
            shown = _flattened(upright)
    except CoreError:
        raise
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError, RuntimeError, EOFError) as error:
        raise CoreError("file", "This is no photo: JPEG, PNG and HEIC are allowed.", "not_a_photo") from error
    shown.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    out = BytesIO()
    shown.save(out, "JPEG", quality=86, optimize=True)
    return out.getvalue()


def _flattened(picture: Image.Image) -> Image.Image:
    """Pixels only, on white where it is see-through; a new image, so that nothing else comes along."""
    rgba = picture.convert("RGBA")
    plain = Image.new("RGB", rgba.size, "white")
    plain.paste(rgba, mask=rgba.getchannel("A"))
    return plain


def path_of(sha256: str) -> Path:
    """Where a kept photo lies: named by its hash."""
    return Path(settings.DATA) / "photos" / sha256[:2] / f"{sha256}.jpg"


def keep(picture: bytes) -> str:
    """Write a re-encoded photo, whole or not at all; its hash."""
    sha256 = hashlib.sha256(picture).hexdigest()
    path = path_of(sha256)
    if not path.is_file():
        path.parent.mkdir(parents=True, exist_ok=True)
        part = path.with_suffix(f".{os.getpid()}.part")
        part.write_bytes(picture)
        part.replace(path)
    return sha256
