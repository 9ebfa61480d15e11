"""Altered backups by chance: each restored, every route of what came read, and all of it backed up again.

`PALETA_ALTERED=1000 ./test tests.server.test_backup_fuzz` does so for as many as are wished.
"""

from __future__ import annotations

import hashlib
import json
import random
import zipfile
from collections.abc import Iterator
from io import BytesIO
from pathlib import Path
from typing import Any

from tools.odd_values import ODD, leaves, with_value

READ = {
    "pieces": (
        "",
        "plan/",
        "value-warnings/",
        "light-check/",
        "picture/?view=coloured&live=true",
        "labels/",
        "recipes/",
    ),
    "drawers": ("", "export.csv/", "charts/"),
    "runs": ("", "map/"),
    "photo-checks": ("",),
}
"""What is read of everything that a restore brought."""
LISTS = ("pieces/", "drawers/", "runs/", "gotos/", "schools/", "papers/", "storage/")


def packed(held: dict[str, bytes], *, compression: int = zipfile.ZIP_STORED, keep_hashes: bool = False) -> bytes:
    """A backup of these members, with a manifest that says so unless `keep_hashes`."""
    held = dict(held)
    if "manifest.json" in held and not keep_hashes:
        manifest = json.loads(held.pop("manifest.json"))
        manifest["members"] = {
            name: {"sha256": hashlib.sha256(data).hexdigest(), "bytes": len(data)} for name, data in held.items()
        }
        held["manifest.json"] = json.dumps(manifest).encode()
    out = BytesIO()
    with zipfile.ZipFile(out, "w", compression) as archive:
        for name, data in held.items():
            archive.writestr(name, data)
    return out.getvalue()


def altered(base: bytes, count: int, seed: int) -> Iterator[tuple[str, bytes]]:
    """So many backups, each with one to three places of its lines changed, and in words what was changed."""
    chance = random.Random(seed)
    with zipfile.ZipFile(BytesIO(base)) as archive:
        held = {name: archive.read(name) for name in archive.namelist()}
    sections = {
        name: [json.loads(line) for line in data.splitlines()]
        for name, data in held.items()
        if name.endswith(".jsonl") and data
    }
    for _ in range(count):
        changed, words = {name: list(lines) for name, lines in sections.items()}, []
        for _ in range(chance.choice((1, 1, 1, 2, 3))):
            name = chance.choice(sorted(changed))
            place = chance.randrange(len(changed[name]))
            line = changed[name][place]
            path = _path(line, chance)
            if not path:
                continue
            kind = chance.choice(("odd", "odd", "odd", "drop", "swap"))
            if kind == "drop":
                new = _without(line, path)
            else:
                other = chance.choice(list(leaves(line)))
                value = chance.choice(ODD) if kind == "odd" else _at(line, other)
                new = with_value(line, path, value)
            changed[name][place] = new
            words.append(f"{kind} {name}[{place}] {'/'.join(map(str, path))}")
        try:
            lines = {name: b"".join(_text(one) for one in ones) for name, ones in changed.items()}
        except (ValueError, UnicodeEncodeError):
            continue
        yield "; ".join(words), packed({**held, **lines})


def _path(line: Any, chance: random.Random) -> tuple[Any, ...]:
    """A place in a line; deep ones are many, so a way down is walked."""
    path: tuple[Any, ...] = ()
    while True:
        inner = list(line.keys() if isinstance(line, dict) else range(len(line)) if isinstance(line, list) else ())
        if not inner or (path and chance.random() < 0.25):
            return path
        key = chance.choice(inner)
        path, line = (*path, key), line[key]


def _at(line: Any, path: tuple[Any, ...]) -> Any:
    for key in path:
        line = line[key]
    return line


def _without(line: Any, path: tuple[Any, ...]) -> Any:
    parent = json.loads(json.dumps(_at(line, path[:-1])))
    del parent[path[-1]]
    return with_value(line, path[:-1], parent)


def _text(line: Any) -> bytes:
    return json.dumps(line).encode() + b"\n"


def tried(data: bytes, folder: Path) -> tuple[str, list[str]]:
    """What came of a backup, "refused" or "restored", and what should not have happened."""
    from django.contrib.auth import get_user_model
    from django.test import Client

    from server.backup.services import restore_backup, write_backup
    from server.problems import Refused

    user = get_user_model().objects.create_user("fuzz")
    place, wrong = folder / "in.zip", []
    place.write_bytes(data)
    try:
        try:
            restore_backup(owner=user, path=place)
        except Refused as refused:
            words = str(refused.detail)
            return "refused", [f"no sentence: {words}"] if "Something went wrong" in words or len(words) < 20 else []
        client = Client(raise_request_exception=False)
        client.force_login(user)
        for address in addresses(client):
            status = client.get(f"/api/v1/{address}").status_code
            if status >= 500:
                wrong.append(f"{status} {address}")
        again = b"".join(write_backup(user))
        zipfile.ZipFile(BytesIO(again)).testzip()
        return "restored", wrong
    except Exception as error:  # whatever it is, it is what is looked for
        return "broken", [f"{type(error).__name__}: {error}"[:300]]
    finally:
        user.delete()


def addresses(client: Any) -> Iterator[str]:
    """Every list, and every route of everything in it."""
    yield from LISTS
    for kind, routes in READ.items():
        found = client.get(f"/api/v1/{kind}/") if kind != "photo-checks" else None
        keys = [one["id"] for one in found.json()["results"]] if found is not None and found.status_code == 200 else []
        for key in keys:
            yield from (f"{kind}/{key}/{route}" for route in routes)
            if kind == "pieces":
                answer = client.get(f"/api/v1/pieces/{key}/photo-checks/")
                checks = answer.json() if answer.status_code == 200 else ()
                yield from (f"photo-checks/{one['id']}/" for one in checks)
