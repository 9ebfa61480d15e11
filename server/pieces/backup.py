"""Schools, go-tos and pieces with their steps, as lines of a backup.

Sheets name drawers and own schools by numbers of this database. In a backup they are named by the numbers of their
lines, so that they find them again wherever it is restored.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Model

from paleta.order import OWN_PREFIX, school_from_plain, school_to_plain
from paleta.recipe import (
    FORMAT_VERSION,
    PARTS,
    sheet_from_plain,
    sheet_schema_fault,
    sheet_to_newest,
    swatch_from_plain,
)
from server.backup_registry import JsonRow, Restoring, Section, check
from server.drawers.backup import drawers_of
from server.pieces.colours.gotos import MOST_GOTOS
from server.pieces.colours.value_warnings import MOST_LEFT
from server.pieces.models import GoTo, OwnSchool, Piece, Step
from server.pieces.schools import MOST_SCHOOLS
from server.pieces.steps import fill
from server.problems import Refused

FIRST_IN_PARTS = 2
"""The first format whose sheets stand in parts, as backups hold them."""
OWN = re.compile(f"{OWN_PREFIX}([0-9]+)")
Rename = Callable[[str, str], str]
"""(kind, number) to the number it has on the other side; kind is "drawer" or "school"."""


def renamed_sheet(plain: Mapping[str, Any], rename: Rename) -> dict[str, Any]:
    """A plain sheet with its drawers and its own schools named otherwise; all else is the same, not a copy."""
    colours, order = plain["colours"], plain["order"]
    return {
        **plain,
        "colours": {**colours, "drawers": _drawers(colours["drawers"], rename)},
        "order": {**order, **{name: _schools(order[name], rename) for name in ("schools", "own_schools")}},
    }


def _renamed_patches(patches: Mapping[str, Any], rename: Rename) -> dict[str, Any]:
    renamed = dict(patches)
    for part, words, named in (("colours", ("drawers",), _drawers), ("order", ("schools", "own_schools"), _schools)):
        if part in renamed:
            renamed[part] = [
                {**one, "value": named(one["value"], rename)}
                if one["path"].strip("/").split("/")[0] in words and "value" in one
                else one
                for one in renamed[part]
            ]
    return renamed


def _drawers(value: Any, rename: Rename) -> Any:
    """A drawer's number, or a list of them without those that are gone."""
    if isinstance(value, list):
        return [new for new in (rename("drawer", one) for one in value) if new]
    return rename("drawer", value) or value


def _schools(value: Any, rename: Rename) -> Any:
    """A school's code, a school written out, or a list of either."""
    if isinstance(value, list):
        return [_schools(one, rename) for one in value]
    if isinstance(value, dict):
        return {**value, "code": _school(value["code"], rename)}
    return _school(value, rename)


def _school(code: str, rename: Rename) -> str:
    own = OWN.fullmatch(code)
    return f"{OWN_PREFIX}{rename('school', own[1])}" if own else code


def to_lines(owner: User) -> Rename:
    """Numbers of this database to numbers of lines; what is no longer there keeps none."""
    numbers = {"drawer": drawers_of(owner), "school": _numbers(OwnSchool, owner)}
    return lambda kind, number: str(numbers[kind].get(int(number or 0), "" if kind == "drawer" else 0))


def from_lines(restoring: Restoring) -> Rename:
    """Numbers of lines to numbers of this database."""
    sections = {"drawer": "drawers", "school": "schools"}

    def rename(kind: str, number: str) -> str:
        key = restoring.homes.get((sections[kind], int(number or 0)))
        return str(key) if key is not None else ("" if kind == "drawer" else "0")

    return rename


def _numbers(model: Any, owner: User) -> dict[int, int]:
    keys = model.objects.owned_by(owner).order_by("pk").values_list("pk", flat=True)
    return {pk: number for number, pk in enumerate(keys, start=1)}


def pieces_of(owner: User) -> dict[int, int]:
    """The line's number of every piece of the owner."""
    return _numbers(Piece, owner)


def _dump_schools(owner: User) -> Iterator[JsonRow]:
    for number, record in enumerate(OwnSchool.objects.owned_by(owner).order_by("pk"), start=1):
        yield {"number": number, "school": record.body}


def _restore_school(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    body = school_to_plain(school_from_plain(line["school"], code=OWN_PREFIX))
    body.pop("code")
    for record in OwnSchool.objects.owned_by(restoring.owner):
        if record.body == body:
            return record, False
    return OwnSchool.objects.create(owner=restoring.holder, body=body), True


def _dump_gotos(owner: User) -> Iterator[JsonRow]:
    for number, goto in enumerate(GoTo.objects.owned_by(owner).order_by("pk"), start=1):
        names = ("name", "medium", "tags", "swatches")
        yield {"number": number, **{name: getattr(goto, name) for name in names}}


def _restore_goto(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    values = {name: line[name] for name in ("name", "medium", "tags", "swatches")}
    if not all(isinstance(tag, str) for tag in values["tags"]):
        raise Refused("A go-to in the backup is not a possible one.", "backup_unreadable")
    for one in values["swatches"]:
        swatch_from_plain(one)
    found = [one for one in GoTo.objects.owned_by(restoring.owner).filter(name=values["name"])
             if all(getattr(one, name) == value for name, value in values.items())]  # fmt: skip
    if found:
        return found[0], False
    goto = GoTo(owner=restoring.holder, **values)
    check(goto)
    goto.save()
    return goto, True


PLAIN = ("impression_sha256", "regions_sha256", "width_px", "height_px", "dpi", "warnings", "version", "position")


def _dump_pieces(owner: User) -> Iterator[JsonRow]:
    rename = to_lines(owner)
    pieces = Piece.objects.owned_by(owner).order_by("pk").iterator(chunk_size=50)
    for number, piece in enumerate(pieces, start=1):
        steps = [
            {
                "number": step.number,
                "what": step.what,
                "forward": _renamed_patches(step.forward, rename),
                "back": _renamed_patches(step.back, rename),
            }
            for step in piece.steps.all()
        ]
        maps = {piece.regions_sha256, piece.current_sheet["regions"]["map_sha256"], *_maps_in(steps)} - {""}
        yield {
            "number": number,
            **{name: getattr(piece, name) for name in PLAIN},
            "created_at": piece.created_at.isoformat(),
            "changed_at": piece.changed_at.isoformat(),
            "left_as_is": piece.left_as_is,
            "sheet_format": FORMAT_VERSION,
            "sheet": renamed_sheet(piece.current_sheet, rename),
            "steps": steps,
            "files": sorted({piece.impression_sha256, *maps}),
        }


def _maps_in(steps: list[JsonRow]) -> Iterator[str]:
    """Region maps that an undone or earlier step stands on."""
    for step in steps:
        for patches in (step["forward"], step["back"]):
            for one in patches.get("regions", ()):
                if one["path"] == "/map_sha256":
                    yield one.get("value", "")


def _restore_piece(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    rename = from_lines(restoring)
    try:
        if line["sheet_format"] not in range(FIRST_IN_PARTS, FORMAT_VERSION + 1):
            raise Refused("A sheet in the backup has a format this Paleta does not know.", "backup_unreadable")
        upgraded = sheet_to_newest(line["sheet"], line["sheet_format"])
    except (KeyError, TypeError) as error:
        raise Refused("A sheet in the backup cannot be read.", "backup_unreadable") from error
    fault = sheet_schema_fault(upgraded)
    if fault:
        raise Refused(f"A sheet in the backup cannot be read. {fault}", "backup_unreadable")
    plain = renamed_sheet(upgraded, rename)
    stands_on = {line["impression_sha256"], line["regions_sha256"], plain["regions"]["map_sha256"]} - {""}
    if not stands_on <= set(line["files"]):
        raise Refused("A piece in the backup speaks of a picture that is not in it.", "backup_unreadable")
    _check_steps(line["steps"])
    # Steps were taken on the sheet as its format was; they do not fit one that was upgraded.
    steps = [
        {**step, "forward": _renamed_patches(step["forward"], rename), "back": _renamed_patches(step["back"], rename)}
        for step in line["steps"]
        if line["sheet_format"] == FORMAT_VERSION
    ]
    # Backups made before lines could be left know of none.
    left = line.get("left_as_is", [])
    if not all(isinstance(words, str) for words in (*line["warnings"], *left)) or len(left) > MOST_LEFT:
        raise Refused("A piece in the backup is not a possible one.", "backup_unreadable")
    piece = Piece(owner=restoring.holder, left_as_is=left, **{name: line[name] for name in PLAIN})
    same = Piece.objects.owned_by(restoring.owner).filter(
        impression_sha256=piece.impression_sha256, regions_sha256=piece.regions_sha256
    )
    for other in same:
        if other.current_sheet == plain and _steps_of(other) == steps:
            return other, False
    fill(piece, sheet_from_plain(plain), plain)
    check(piece)
    piece.save()
    Step.objects.bulk_create(Step(piece=piece, **step) for step in steps)
    # Both times set themselves when a row is saved.
    times = {name: datetime.fromisoformat(line[name]) for name in ("created_at", "changed_at")}
    Piece.objects.filter(pk=piece.pk).update(**times)
    return piece, True


def _steps_of(piece: Piece) -> list[JsonRow]:
    return [dict(one) for one in piece.steps.values("number", "what", "forward", "back")]


def _check_steps(steps: Any) -> None:
    """Steps are only tried when they are taken; here they must look like steps."""
    for step in steps:
        for patches in (step["forward"], step["back"]):
            known = isinstance(patches, dict) and patches.keys() <= set(PARTS)
            if not known or not all(isinstance(one, dict) and "path" in one for ops in patches.values() for one in ops):
                raise Refused("A step in the backup is not a possible one.", "backup_unreadable")


SCHOOLS = Section("schools", (OwnSchool,), _dump_schools, _restore_school, most=MOST_SCHOOLS)
GOTOS = Section("gotos", (GoTo,), _dump_gotos, _restore_goto, most=MOST_GOTOS)
PIECES = Section("pieces", (Piece, Step), _dump_pieces, _restore_piece, after=("drawers", "schools"))
SECTIONS = (SCHOOLS, GOTOS, PIECES)
