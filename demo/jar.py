"""A picture of a sample jar, drawn: the demo has no camera."""

from __future__ import annotations

from io import BytesIO

from PIL import Image, ImageDraw, ImageFilter

BENCH, GLASS, FLUID, RUST = (212, 214, 208), (236, 240, 240), (176, 112, 58), (112, 58, 24)


def rusty_jar() -> bytes:
    """A jar of rusty coolant with sediment, on a bench; PNG."""
    picture = Image.new("RGB", (900, 1200), BENCH)
    pen = ImageDraw.Draw(picture)
    pen.rectangle((0, 940, 900, 1200), fill=(150, 150, 144))
    pen.rounded_rectangle((250, 160, 650, 1020), 60, fill=GLASS, outline=(120, 128, 130), width=10)
    pen.rounded_rectangle((270, 380, 630, 1000), 46, fill=FLUID)
    pen.rounded_rectangle((270, 930, 630, 1000), 40, fill=RUST)
    for i in range(140):
        x, y = 280 + (i * 97) % 340, 400 + (i * 53) % 540
        pen.ellipse((x, y, x + 5 + i % 4, y + 4 + i % 3), fill=RUST)
    pen.rectangle((290, 180, 320, 980), fill=(246, 248, 248))
    pen.rectangle((230, 110, 670, 180), fill=(70, 74, 76))
    out = BytesIO()
    picture.filter(ImageFilter.GaussianBlur(2)).save(out, "PNG")
    return out.getvalue()
