"""Bytes of a picture file to an upright sRGB impression of known size."""

from __future__ import annotations

import io
import warnings

import numpy as np
from PIL import Image, ImageOps, UnidentifiedImageError

from paleta.errors import ImageTooLarge, NotAnImage, ResolutionMissing
from paleta.impression.reading._impression import MM_PER_INCH, Impression
from paleta.impression.reading._svg import is_svg, read_svg

FORMATS = ("PNG", "JPEG", "WEBP", "TIFF")
LARGEST_PIXELS = 60_000_000
"""Files above this are refused before a single pixel is decoded. A 600 dpi letter sheet has 34 million."""
LARGEST_SIDE_PX = 2600
"""Larger pictures are scaled down to this: 300 dpi on the long side of a letter-sized card is 2,550 px."""
BAND_ROWS = 256
DPI_RANGE = (40.0, 2400.0)
WIDTH_RANGE_MM = (10.0, 450.0)
BELIEVABLE_WIDTH_MM = 310.0
"""Cameras write 72 dpi into everything. A stamped sheet wider than A3 is more likely such a claim."""


def read(data: bytes, *, dpi: float | None = None, width_mm: float | None = None) -> Impression:
    """Read a scan or photo.

    Parameters
    ----------
    data : bytes
        A PNG, JPEG, WebP or TIFF file, or line art in SVG.
    dpi, width_mm : float, optional
        What the user says about the size; `width_mm` wins over `dpi`, both win over the file. Line art is drawn to
        `width_mm`; `dpi` only matters where neither that nor the file says a size.

    Raises
    ------
    NotAnImage
        Empty, damaged, truncated, or another kind of file.
    ImageTooLarge
        More than LARGEST_PIXELS.
    ResolutionMissing
        No believable size in the file and none given, or the given one is out of range.
    """
    if not data:
        raise NotAnImage("The file is empty. Choose the scan or photo again.")
    if width_mm is not None and not WIDTH_RANGE_MM[0] <= width_mm <= WIDTH_RANGE_MM[1]:
        raise ResolutionMissing(
            f"The width must lie between {WIDTH_RANGE_MM[0] / 10:.0f} and {WIDTH_RANGE_MM[1] / 10:.0f} cm, "
            f"got {width_mm / 10:.1f} cm."
        )
    if is_svg(data):
        return read_svg(data, width_mm=width_mm, dpi=dpi)
    notes: list[str] = []
    image, full = _open(data, notes)
    file_dpi = _dpi_of(image)
    image = _to_upright_srgb(image, notes)
    turned = (full[0] > full[1]) != (image.width > image.height) and full[0] != full[1]
    width, height = full[::-1] if turned else full
    pixel_dpi = _choose_dpi(width, file_dpi, dpi, width_mm)

    longest = max(width, height)
    if longest > LARGEST_SIDE_PX:
        scale = LARGEST_SIDE_PX / longest
        size = (max(1, round(width * scale)), max(1, round(height * scale)))
        notes.append(
            f"Scaled from {width} x {height} to {size[0]} x {size[1]} pixels, which is enough to find every region."
        )
        image = image.resize(size, Image.Resampling.HAMMING, reducing_gap=3.0)
        pixel_dpi *= scale
    if min(image.size) < 40:
        raise NotAnImage(f"The picture is only {image.width} x {image.height} pixels. Scan it at 200 dpi or more.")
    if pixel_dpi < 120:
        notes.append(f"Only {pixel_dpi:.0f} dpi: small regions may be missed. 200 dpi or more is better.")
    pixels = np.asarray(image, dtype=np.float32) / 255.0
    return Impression(pixels=pixels, dpi=float(pixel_dpi), warnings=tuple(notes))


def _open(data: bytes, notes: list[str]) -> tuple[Image.Image, tuple[int, int]]:
    """The picture, and its size in the file. Far larger ones are made smaller while, or as soon as, they are decoded,
    so that no copy of all their pixels is ever worked on."""
    try:
        with warnings.catch_warnings():
            # Pillow's own bomb warning comes at 89 megapixels; our limit is lower and is checked below.
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image: Image.Image = Image.open(io.BytesIO(data), formats=FORMATS)
            if image.width * image.height > LARGEST_PIXELS:
                raise ImageTooLarge(
                    f"The picture has {image.width * image.height / 1e6:.0f} million pixels; Paleta opens up to "
                    f"{LARGEST_PIXELS / 1e6:.0f} million. Scan at 300 dpi or crop it first."
                )
            frames = getattr(image, "n_frames", 1)
            if frames > 1:
                notes.append(f"The file holds {frames} pictures; the first one is used.")
                image.seek(0)
            full = image.size
            most = 2 * LARGEST_SIDE_PX
            if image.format == "JPEG":
                image.draft(None, (LARGEST_SIDE_PX, LARGEST_SIDE_PX))
            image.load()
            if max(image.size) > most:
                info, exif = dict(image.info), image.getexif()
                image = _eight_bit(image, notes).reduce(max(image.size) // most + 1)
                image.info.update(info)
                image.getexif().update(exif)
    except Image.DecompressionBombError as error:
        raise ImageTooLarge(
            "The picture has far more pixels than Paleta opens. Scan at 300 dpi or crop it first."
        ) from error
    except UnidentifiedImageError as error:
        raise NotAnImage(
            "This is not a PNG, JPEG, WebP or TIFF picture or an SVG drawing. Save the scan as one of these."
        ) from error
    except (
        OSError,
        SyntaxError,
        ValueError,
        EOFError,
        TypeError,
        OverflowError,
        ArithmeticError,
        LookupError,
    ) as error:
        if isinstance(error, ImageTooLarge):
            raise
        raise NotAnImage("The picture is damaged or cut short. Scan or copy it again.") from error
    return image, full


def _dpi_of(image: Image.Image) -> float | None:
    claimed = image.info.get("dpi")
    if not claimed:
        return None
    try:
        value = float(claimed[0])
    except (TypeError, ValueError, ZeroDivisionError):
        return None
    return value if np.isfinite(value) and DPI_RANGE[0] <= value <= DPI_RANGE[1] else None


def _to_upright_srgb(image: Image.Image, notes: list[str]) -> Image.Image:
    try:
        upright = ImageOps.exif_transpose(image)
    except Exception:  # a broken EXIF block is the maker's fault, the picture is still good
        upright = image
        notes.append("The file's camera data is damaged and was ignored; check that the picture is upright.")
    image = upright if upright is not None else image
    image = _eight_bit(image, notes)
    if image.mode == "CMYK":
        notes.append("A print (CMYK) picture; its colours were turned into screen colours and may be off.")
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        image = image.convert("RGBA")
        white = Image.new("RGBA", image.size, (255, 255, 255, 255))
        image = Image.alpha_composite(white, image)
        notes.append("See-through parts were filled with white paper.")
    return image.convert("RGB")


def _eight_bit(image: Image.Image, notes: list[str]) -> Image.Image:
    """A picture of more than 8 bits a channel with 8; bands of it at a time, so that no wide copy of all is made."""
    if not image.mode.startswith(("I", "F")):
        return image
    values = np.asarray(image)
    top = 65535.0 if values.max(initial=0) > 255 else 255.0
    bytes_ = np.empty(values.shape, np.uint8)
    for start in range(0, len(values), BAND_ROWS):
        band = values[start : start + BAND_ROWS].astype(np.float32) * np.float32(255.0 / top)
        bytes_[start : start + BAND_ROWS] = np.clip(band, 0, 255)
    notes.append("A 16-bit picture; 8 bits a channel are kept.")
    return Image.fromarray(bytes_)


def _choose_dpi(width_px: int, file_dpi: float | None, dpi: float | None, width_mm: float | None) -> float:
    if width_mm is not None:
        dpi = width_px / width_mm * MM_PER_INCH
    if dpi is not None:
        if not DPI_RANGE[0] <= dpi <= DPI_RANGE[1]:
            raise ResolutionMissing(
                f"The resolution must lie between {DPI_RANGE[0]:.0f} and {DPI_RANGE[1]:.0f} dpi, "
                f"but comes to {dpi:.0f}. Check the width."
            )
        return dpi
    if file_dpi is None:
        raise ResolutionMissing(
            "The file does not say how large the picture is. Give the width of the scanned "
            "paper in inches or centimetres."
        )
    width = width_px / file_dpi * MM_PER_INCH
    if width > BELIEVABLE_WIDTH_MM:
        raise ResolutionMissing(
            f"The file claims {file_dpi:.0f} dpi, which would make a picture {width / 10:.0f} cm "
            "wide. Give the real width in inches or centimetres."
        )
    return file_dpi
