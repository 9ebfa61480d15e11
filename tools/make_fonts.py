"""The text face as TrueType, for PDFs: the web's own files, Latin and extended Latin joined into one.

Run with fonttools and brotli at hand, once the web's packages are set up: python -m tools.make_fonts
"""

from __future__ import annotations

import io
from pathlib import Path

from fontTools.merge import Merger
from fontTools.ttLib import TTFont

SOURCE = Path("web/node_modules/@fontsource/atkinson-hyperlegible-next")
TARGET = Path("paleta/page/fonts")
WEIGHTS = {400: "regular", 700: "bold"}


def main() -> None:
    for weight, name in WEIGHTS.items():
        parts = []
        for subset in ("latin", "latin-ext"):
            font = TTFont(SOURCE / f"files/atkinson-hyperlegible-next-{subset}-{weight}-normal.woff2")
            font.flavor = None
            # Positioning is not read by the PDF writer, and tables of two files do not always join.
            for table in ("GPOS", "GSUB", "GDEF", "STAT", "DSIG"):
                if table in font:
                    del font[table]
            part = io.BytesIO()
            font.save(part)
            part.seek(0)
            parts.append(part)
        Merger().merge(parts).save(TARGET / f"{name}.ttf")
    (TARGET / "LICENSE").write_text((SOURCE / "LICENSE").read_text())


if __name__ == "__main__":
    main()
