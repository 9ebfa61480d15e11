"""The backup file: a ZIP of stored members, so that any program can open it and none of it has to be unpacked.

drawers.jsonl, pieces.jsonl, ...   lines of JSON, one file a section (server/backup_registry.py)
files/<SHA-256>                    pictures and region maps
manifest.json                      what it is, when it was made, and the SHA-256 and size of every member
"""

from __future__ import annotations

import contextlib
import hashlib
import io
import json
import re
import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

from paleta.fields import unwanted_in
from server.backup_registry import JsonRow
from server.strict_json import loads

FORMAT, FORMAT_VERSION = "paleta-backup", 1
CHUNK = 1 << 20
LONGEST_LINE = 16_000_000
"""Bytes of one line. A piece of ten thousand regions with all its steps takes less."""
MOST_MEMBERS = 60_000
MOST_LINES = 500_000
LARGEST_MEMBER = 60_000_000
LARGEST_LIST = 2_000_000_000
MEMBER = re.compile(r"[a-z]{3,20}\.jsonl|files/[0-9a-f]{64}|manifest\.json")
THEN = (1980, 1, 1, 0, 0, 0)
"""Members carry no times, so that two backups of the same things are the same but for the manifest."""


class BackupUnreadable(Exception):
    """The file is not a backup, or not whole; the message says why."""


class _Drain(io.RawIOBase):
    """Takes what the ZIP writer writes and gives it away again."""

    def __init__(self) -> None:
        self._held, self._at = bytearray(), 0

    def writable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return False

    def tell(self) -> int:
        return self._at

    def write(self, data: Any) -> int:
        self._held += data
        self._at += len(data)
        return len(data)

    def taken(self) -> bytes:
        data, self._held = bytes(self._held), bytearray()
        return data


def write_archive(
    sections: Iterable[tuple[str, Iterator[JsonRow]]], open_file: Any, *, username: str, made_at: str
) -> Iterator[bytes]:
    """The bytes of a backup, piece by piece; never more than one member's chunk is held.

    `open_file(name)` opens a content-named file for reading; one that is no longer there is left out, and the manifest
    says so.
    """
    drain = _Drain()
    members: dict[str, Any] = {}
    needed: dict[str, None] = {}
    with zipfile.ZipFile(drain, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        for section, lines in sections:
            yield from _write(archive, drain, members, f"{section}.jsonl", _encoded(lines, needed))
        missing = []
        for name in sorted(needed):
            try:
                file = open_file(name)
            except FileNotFoundError:
                missing.append(name)
                continue
            with file:
                yield from _write(archive, drain, members, f"files/{name}", _chunks_of(file))
        manifest = {
            "format": FORMAT,
            "format_version": FORMAT_VERSION,
            "username": username,
            "made_at": made_at,
            "members": members,
            "missing": missing,
        }
        text = json.dumps(manifest, sort_keys=True, indent=1).encode()
        yield from _write(archive, drain, {}, "manifest.json", iter([text]))
    yield drain.taken()


def _chunks_of(file: IO[bytes]) -> Iterator[bytes]:
    while chunk := file.read(CHUNK):
        yield chunk


def _encoded(lines: Iterator[JsonRow], needed: dict[str, None]) -> Iterator[bytes]:
    for line in lines:
        needed.update(dict.fromkeys(line.get("files", ())))
        yield json.dumps(line, sort_keys=True, ensure_ascii=False, separators=(",", ":")).encode() + b"\n"


def _write(
    archive: zipfile.ZipFile, drain: _Drain, members: dict[str, Any], name: str, chunks: Iterator[bytes]
) -> Iterator[bytes]:
    digest, size = hashlib.sha256(), 0
    info = zipfile.ZipInfo(name, THEN)
    info.external_attr = 0o600 << 16
    with archive.open(info, "w", force_zip64=True) as member:
        for chunk in chunks:
            member.write(chunk)
            digest.update(chunk)
            size += len(chunk)
            yield drain.taken()
    members[name] = {"sha256": digest.hexdigest(), "bytes": size}
    yield drain.taken()


@dataclass(frozen=True)
class Archive:
    """An opened backup that has been looked through: every member is there, whole, and what it says it is.

    missing  files that were gone already when it was made.
    """

    opened: zipfile.ZipFile
    members: dict[str, Any]
    missing: frozenset[str]
    username: str

    def lines(self, section: str) -> Iterator[JsonRow]:
        """The lines of a section, one at a time; none if the backup has no such section."""
        if f"{section}.jsonl" not in self.members:
            return
        with self.opened.open(f"{section}.jsonl") as member:
            yield from _decoded(member, section)

    def file(self, name: str) -> bytes:
        """The bytes of a picture or map."""
        if f"files/{name}" not in self.members:
            raise BackupUnreadable("A picture that the backup speaks of is not in it.")
        return self.opened.read(f"files/{name}")

    def lacks(self, line: JsonRow) -> bool:
        """Whether a file that a line needs was gone already when the backup was made.

        Raises
        ------
        BackupUnreadable
            If one is not in it though it should be.
        """
        names = line.get("files", [])
        if not isinstance(names, list) or not all(isinstance(name, str) for name in names):
            raise BackupUnreadable(f"Line {line['number']} in the backup does not say which files it needs.")
        absent = {name for name in names if f"files/{name}" not in self.members}
        if absent - self.missing:
            raise BackupUnreadable("A picture that the backup speaks of is not in it.")
        return bool(absent)

    def files(self) -> list[str]:
        return [name.removeprefix("files/") for name in self.members if name.startswith("files/")]

    def count(self, section: str) -> int:
        """How many lines a section has, by their ends alone."""
        if f"{section}.jsonl" not in self.members:
            return 0
        with self.opened.open(f"{section}.jsonl") as member:
            return sum(chunk.count(b"\n") for chunk in _chunks_of(member))


@contextlib.contextmanager
def open_archive(path: Path, known: Iterable[str]) -> Iterator[Archive]:
    """Look a file through before anything in it is believed, and keep it open: to open it again for each of many
    members would take longer than all else.

    Raises
    ------
    BackupUnreadable
        It is no ZIP or cut off, no backup of Paleta, of a newer format, holds what does not belong in it, or a member
        is damaged.
    """
    with contextlib.ExitStack() as opened:
        try:
            archive = opened.enter_context(zipfile.ZipFile(path))
            infos = archive.infolist()
            _check_members(infos, set(known))
            manifest = _manifest(archive)
            members = manifest["members"]
            named = {info.filename for info in infos} - {"manifest.json"}
            if named != set(members):
                raise BackupUnreadable("The backup does not hold what its manifest says. It may be cut off.")
            for info in infos:
                if info.filename != "manifest.json":
                    _check_member(archive, info, members[info.filename])
        except (zipfile.BadZipFile, EOFError, OSError, RuntimeError, NotImplementedError, ValueError) as error:
            raise BackupUnreadable("This is not a backup of Paleta, or it is cut off or damaged.") from error
        missing = manifest.get("missing", [])
        if not isinstance(missing, list) or not all(isinstance(name, str) for name in missing):
            raise BackupUnreadable("This is not a backup of Paleta: its manifest cannot be read.")
        yield Archive(archive, members, frozenset(missing), str(manifest.get("username", ""))[:150])


def _check_members(infos: list[zipfile.ZipInfo], known: set[str]) -> None:
    if len(infos) > MOST_MEMBERS:
        raise BackupUnreadable(f"The backup holds more than {MOST_MEMBERS:,} files.")
    names = [info.filename for info in infos]
    if len(set(names)) != len(names):
        raise BackupUnreadable("The backup holds the same file twice.")
    for info in infos:
        name = info.filename
        section = name.removesuffix(".jsonl") if name.endswith(".jsonl") else None
        if not MEMBER.fullmatch(name) or (section is not None and section not in known):
            raise BackupUnreadable(f"The backup holds {name[:60]!r}, which does not belong in one.")
        if info.compress_type != zipfile.ZIP_STORED or info.file_size != info.compress_size or info.flag_bits & 0x1:
            raise BackupUnreadable("The backup is packed in a way that Paleta does not pack.")
        most = LARGEST_LIST if section else LONGEST_LINE if name == "manifest.json" else LARGEST_MEMBER
        if info.file_size > most:
            raise BackupUnreadable(f"The backup's {name[:60]} is larger than any that Paleta makes.")


def _manifest(archive: zipfile.ZipFile) -> dict[str, Any]:
    try:
        manifest = loads(archive.read("manifest.json"))
        fine = manifest["format"] == FORMAT and isinstance(manifest["members"], dict)
        version = int(manifest["format_version"])
    except (KeyError, TypeError, ValueError) as error:
        raise BackupUnreadable("This is not a backup of Paleta: it has no manifest, or one cut off.") from error
    if not fine:
        raise BackupUnreadable("This is not a backup of Paleta.")
    if version != FORMAT_VERSION:
        raise BackupUnreadable(f"The backup has format {version}; this Paleta reads format {FORMAT_VERSION}.")
    return manifest


def _check_member(archive: zipfile.ZipFile, info: zipfile.ZipInfo, said: Any) -> None:
    digest, size = hashlib.sha256(), 0
    with archive.open(info) as member:
        while chunk := member.read(CHUNK):
            digest.update(chunk)
            size += len(chunk)
    found = digest.hexdigest()
    if not isinstance(said, dict) or (said.get("sha256"), said.get("bytes")) != (found, size):
        raise BackupUnreadable(f"{info.filename[:60]} in the backup is damaged.")
    if info.filename.startswith("files/") and info.filename != f"files/{found}":
        raise BackupUnreadable("A picture in the backup is not the one its name says.")


def _decoded(member: IO[bytes], section: str) -> Iterator[JsonRow]:
    for number in range(1, MOST_LINES + 2):
        text = member.readline(LONGEST_LINE + 1)
        if not text:
            return
        if number > MOST_LINES or len(text) > LONGEST_LINE:
            raise BackupUnreadable(f"The list of {section} in the backup is longer than any that Paleta makes.")
        try:
            line = loads(text)
            bad = unwanted_in(text.decode())
        except ValueError as error:
            raise BackupUnreadable(f"Line {number} of {section} in the backup cannot be read. {error}") from error
        if not isinstance(line, dict) or line.get("number") != number or bad:
            raise BackupUnreadable(f"Line {number} of {section} in the backup is not a possible one.")
        yield line
