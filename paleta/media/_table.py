"""Swatches as tables and palettes that other programs read and write: CSV (or pasted cells) and GPL palettes."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from paleta.colour import WHITES, Lab, check_lab, hex_to_lab, lab_to_hex, srgb_to_lab, to_d65
from paleta.errors import PaletaError, TableError
from paleta.fields import unwanted_in
from paleta.media._swatch import FURTHER, LONGEST_CODE, code_fault

MOST_CELLS = 400
"""In one line; with commas in names and a decimal comma in each number a table of ours has fewer than a hundred."""
MOST_ROWS = 20_000
ENCODINGS = ("utf-8-sig", "cp1252")
COLUMNS: Mapping[str, tuple[str, ...]] = {
    "code": ("code", "no", "number", "nr", "id"),
    "name": ("name", "colour", "color", "colour name", "color name"),
    "family": ("family", "group"),
    "maker": ("maker", "brand"),
    "l": ("l", "l*", "lightness"),
    "a": ("a", "a*"),
    "b": ("b", "b*"),
    "hex": ("hex", "rgb", "#"),
    "measured": ("measured",),
    "two_coats": ("two coats", "2 coats"),
    "diluted": ("diluted",),
    "light_pressure": ("light pressure",),
    "firm_pressure": ("firm pressure",),
    "opacity": ("opacity",),
    "white": ("white", "white point", "illuminant"),
}
"""Words that head a column, lower case. Lab wins over hex where both are given, and stands under the white point that
is said, D65 unless it is D50."""
MEASURED = {"cap": "estimate from the cap", "chart": "photo of a swatch chart", "reader": "colour reader",
            "card": "own finished cards"}  # fmt: skip
LONGEST = {"code": LONGEST_CODE, "name": 80, "family": 40, "maker": 40}
GPL_HEAD = "GIMP Palette"  # the words by which this open format is told


@dataclass(frozen=True, slots=True)
class Row:
    """One line of a table. `problem` says what is wrong with it; such a row has no lab."""

    line: int
    code: str
    name: str
    lab: Lab | None
    family: str = ""
    maker: str = ""
    measured: str = "cap"
    two_coats: Lab | None = None
    diluted: Lab | None = None
    light_pressure: Lab | None = None
    firm_pressure: Lab | None = None
    opacity: float | None = None
    problem: str = ""


def read_table(data: bytes | str) -> list[Row]:
    """Rows of a CSV file, of pasted cells, or of a GPL palette.

    Comma, semicolon or tab between cells; decimal point or, where commas do not part cells, decimal comma; UTF-8,
    UTF-16 with its mark, or Windows' western encoding. The first line names the columns; without such a line the
    columns are code, name and hex, or code, name, L, a, b.

    Raises
    ------
    TableError
        If there is nothing to read, columns are missing, or there are more than MOST_ROWS rows or MOST_CELLS cells.
    """
    text = _decoded(data) if isinstance(data, bytes) else data
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if not any(line.strip() for line in lines):
        raise TableError("The table is empty.")
    if len(lines) > MOST_ROWS + 50:
        raise TableError(f"The table has about {len(lines):,} rows; {MOST_ROWS:,} are the most at once.")
    # Counted before any of it is parsed: a line of a million cells takes a minute to part.
    widest = max(max(line.count(sign) for sign in ",;\t") for line in lines)
    if widest > MOST_CELLS:
        raise TableError(f"A line of the table has about {widest:,} cells; {MOST_CELLS} are the most.")
    rows = _read_gpl(lines) if lines[0].strip() == GPL_HEAD else _read_cells(lines)
    if not rows:
        raise TableError("The table has a heading but no rows.")
    return _marking_duplicates(rows)


def write_csv(rows: Iterable[Row]) -> str:
    """The table with every column, read back by `read_table` without loss."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    further = [COLUMNS[field][0] for field in FURTHER]
    writer.writerow(["code", "name", "family", "maker", "L", "a", "b", "hex", "measured", *further, "opacity"])
    for row in rows:
        lab = row.lab or (0.0, 0.0, 0.0)
        text = (_harmless(one) for one in (row.code, row.name, row.family, row.maker))
        more = (" ".join(f"{value:g}" for value in getattr(row, field) or ()) for field in FURTHER)
        opacity = "" if row.opacity is None else f"{row.opacity:g}"
        writer.writerow([*text, *(f"{value:g}" for value in lab), lab_to_hex(lab), row.measured, *more, opacity])
    return out.getvalue()


def write_gpl(name: str, rows: Iterable[Row]) -> str:
    """A GPL palette of eight-bit sRGB; the code follows the name in brackets.

    Parameters
    ----------
    name
        Of the palette.
    rows
        Swatches with code, name and Lab.
    """
    lines = [GPL_HEAD, f"Name: {name}", "Columns: 8", "#"]
    for row in rows:
        if row.lab:
            shown = lab_to_hex(row.lab)
            red, green, blue = (int(shown[k : k + 2], 16) for k in (1, 3, 5))
            lines.append(f"{red:3d} {green:3d} {blue:3d}\t{row.name} [{row.code}]")
    return "\n".join(lines) + "\n"


def _decoded(data: bytes) -> str:
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", errors="replace")
    for encoding in ENCODINGS:
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise TableError("The file is no text in UTF-8, UTF-16 or Windows' western encoding. Save it as UTF-8.")


def _read_cells(lines: Sequence[str]) -> list[Row]:
    first = next(line for line in lines if line.strip())
    mark = max("\t;,", key=first.count)
    try:
        grid = list(csv.reader(lines, delimiter=mark))
    except csv.Error as error:
        raise TableError("The table cannot be read: a cell is far too long or never closed.") from error
    start = next((k for k, cells in enumerate(grid) if any(cell.strip() for cell in cells)), None)
    if start is None:
        raise TableError("The table is empty.")
    places = _places(grid[start])
    if places:
        missing = [] if {"name"} <= places.keys() or {"code"} <= places.keys() else ["name or code"]
        if "hex" not in places and not {"l", "a", "b"} <= places.keys():
            missing.append("L, a and b (or hex)")
        if missing:
            raise TableError(f"The table has no column for {' and '.join(missing)}.")
        start += 1
    else:
        width = len(grid[start])
        if width < 3:
            raise TableError("A table without headings needs code, name and hex, or code, name, L, a and b.")
        order = ("code", "name", "l", "a", "b", "family") if width >= 5 else ("code", "name", "hex", "family")
        places = dict(zip(order, range(width), strict=False))
    return [
        _row(number, {key: cells[place].strip() for key, place in places.items() if place < len(cells)}, mark)
        for number, cells in enumerate(grid[start:], start=start + 1)
        if any(cell.strip() for cell in cells)
    ]


def _places(cells: Sequence[str]) -> dict[str, int]:
    places: dict[str, int] = {}
    for place, cell in enumerate(cells):
        word = cell.strip().lower()
        for key, words in COLUMNS.items():
            if word in words:
                places.setdefault(key, place)
    colours = any(re.fullmatch(r"#?[0-9a-fA-F]{6}|-?[0-9]+([.,][0-9]+)?", cell.strip()) for cell in cells)
    return places if len(places) >= 2 or (places and not colours) else {}


def _row(line: int, cells: Mapping[str, str], mark: str) -> Row:
    code, name = cells.get("code", ""), cells.get("name", "")
    code, name = code or _coded(name), name or code
    texts = {"code": code, "name": name, "family": cells.get("family", ""), "maker": cells.get("maker", "")}
    try:
        if not code:
            raise TableError("It has neither a code nor a name.")
        for key, text in texts.items():
            if len(text) > LONGEST[key]:
                raise TableError(f"The {key} has more than {LONGEST[key]} characters.")
            if unwanted_in(text):
                raise TableError(f"The {key} holds characters that cannot be written down.")
        if code_fault(code):
            raise TableError(code_fault(code))
        measured = cells.get("measured", "") or "cap"
        if measured not in MEASURED:
            raise TableError(f"measured is one of {', '.join(MEASURED)}, not {measured!r}.")
        white = cells.get("white", "").upper() or WHITES[0]
        lab = _lab(cells, mark, white)
        check_lab(lab, name)
        further: dict[str, Any] = {}
        for field in FURTHER:
            if cells.get(field):
                further[field] = to_d65(_triple(cells[field].split(), mark), white)
                check_lab(further[field], f"{name}, {COLUMNS[field][0]}")
        opacity = _number(cells["opacity"], mark) if cells.get("opacity") else None
        if opacity is not None and not 0 <= opacity <= 1:
            raise TableError("The opacity lies in 0..1.")
    except PaletaError as error:
        return Row(line, _shown(code, "code"), _shown(name, "name"), None, problem=str(error))
    return Row(line, code, name, lab, texts["family"], texts["maker"], measured, opacity=opacity, **further)


def _shown(text: str, key: str) -> str:
    """As much of a bad cell as can be shown."""
    return "" if unwanted_in(text) else text[: LONGEST[key]]


def _lab(cells: Mapping[str, str], mark: str, white: str) -> Lab:
    if any(cells.get(key) for key in "lab"):
        return to_d65(_triple([cells.get(key, "") for key in "lab"], mark), white)
    text = cells.get("hex", "").lower()
    if not re.fullmatch(r"#?[0-9a-f]{6}", text):
        raise TableError(f"{text or 'Nothing'} is no colour like #a0b1c2.")
    lab = hex_to_lab(f"#{text.lstrip('#')}")
    return round(float(lab[0]), 2), round(float(lab[1]), 2), round(float(lab[2]), 2)


def _number(text: str, mark: str) -> float:
    plain = text.replace(",", ".") if mark != "," or "." not in text else text
    try:
        return float(plain.replace("\N{MINUS SIGN}", "-"))
    except ValueError as error:
        raise TableError(f"{text or 'An empty cell'} is no number.") from error


def _triple(texts: Sequence[str], mark: str) -> Lab:
    values = [_number(text, mark) for text in texts]
    if len(values) != 3:
        raise TableError("A colour is three numbers L*, a*, b*.")
    return values[0], values[1], values[2]


def _read_gpl(lines: Sequence[str]) -> list[Row]:
    rows = []
    for number, line in enumerate(lines[1:], start=2):
        if not line.strip() or line.startswith("#") or re.match(r"^(Name|Columns):", line):
            continue
        found = re.match(r"^\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})\s*(.*)$", line)
        if not found or max(int(found[k]) for k in (1, 2, 3)) > 255:
            rows.append(Row(number, "", line.strip()[:80], None, problem="It is no line of red, green, blue and name."))
            continue
        lab = srgb_to_lab([int(found[k]) / 255 for k in (1, 2, 3)])
        title = found[4].strip() or f"Colour {number}"
        coded = re.match(r"^(.*)\s\[([^\]]{1,40})\]$", title)
        name, code = (coded[1], coded[2]) if coded else (title, _coded(title) or f"colour-{number}")
        name, code = name[: LONGEST["name"]], code[: LONGEST["code"]]
        if code_fault(code) or unwanted_in(name):
            problem = code_fault(code) or "The name holds characters that cannot be written down."
            rows.append(Row(number, "", "", None, problem=problem))
            continue
        measured = (round(float(lab[0]), 2), round(float(lab[1]), 2), round(float(lab[2]), 2))
        rows.append(Row(number, code, name, measured))
    return rows


def _marking_duplicates(rows: Sequence[Row]) -> list[Row]:
    seen: dict[str, int] = {}
    result = []
    for row in rows:
        if not row.problem and row.code in seen:
            words = f"The code stands in line {seen[row.code]} already."
            result.append(Row(row.line, row.code, row.name, None, problem=words))
            continue
        if not row.problem:
            seen[row.code] = row.line
        result.append(row)
    return result


def _coded(name: str) -> str:
    """A code made from a name."""
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40]


def _harmless(text: str) -> str:
    """Table programs run cells that begin like a formula; a leading apostrophe keeps them text."""
    return f"'{text}" if text[:1] in ("=", "+", "@") else text
