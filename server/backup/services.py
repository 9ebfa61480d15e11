"""One file out, the same file in."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager, suppress
from functools import cache, partial
from importlib import import_module
from importlib.util import find_spec
from pathlib import Path
from threading import Event, Lock
from typing import Any

from django.apps import apps
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db import DataError, IntegrityError, transaction
from django.utils import timezone

from paleta.errors import PaletaError
from server.backup import holding
from server.backup.archive import Archive, BackupUnreadable, open_archive, write_archive
from server.backup_registry import JsonRow, LeftOut, Restoring, Section, in_order
from server.derived import jobs, worker
from server.files import store
from server.pieces.quota import recount, require_room
from server.problems import Refused

CHECKED_AT_ONCE, CHECKED_BYTES = 20, 16_000_000
"""Pictures looked at in one process: so many, or so much, whichever comes first."""
CHECK_LIMIT_S = 120.0
Progress = Callable[[str, int, int], None]
"""Told what is being done, and how much of how much."""


@cache
def sections() -> tuple[Section, ...]:
    """Every app's sections, each after those it points at."""
    found: list[Section] = []
    for app in apps.get_app_configs():
        if app.name.startswith("server.") and app.name != "server.backup" and find_spec(f"{app.name}.backup"):
            module = import_module(f"{app.name}.backup")
            found += getattr(module, "SECTIONS", None) or (module.SECTION,)
    return tuple(in_order(found))


def write_backup(owner: User) -> Iterator[bytes]:
    """Everything of an account as the bytes of one file."""
    lines = ((section.name, section.dump(owner)) for section in sections())
    return write_archive(
        lines,
        lambda name: store.place_of(name).open("rb"),
        username=owner.get_username(),
        made_at=timezone.now().isoformat(),
    )


def restore_backup(*, owner: User, path: Path, progress: Progress = lambda *_: None) -> Restoring:
    """Bring everything in a backup back into an account, or nothing at all.

    What is there already is known by its content and left as it is; nothing is overwritten.

    Raises
    ------
    Refused
        With what is wrong with the file, or that the account has no room for it.
    """
    try:
        progress("Looking the file through", 0, 1)
        with open_archive(path, [section.name for section in sections()]) as archive:
            _bring_files(archive, progress)
            return _restore_rows(owner, archive, progress)
    except BackupUnreadable as error:
        raise Refused(f"{error} Nothing was brought back.", "backup_unreadable") from error


@contextmanager
def _pictures_looked_at(archive: Archive, one_done: Callable[[], None]) -> Iterator[Future[None]]:
    """While what is inside goes on, pictures and maps are held against their sheets: half of all the work, and done by
    other processes. It ends with what is inside."""
    ended = Event()
    with ThreadPoolExecutor(1) as beside:
        try:
            yield beside.submit(_check_pieces, archive, ended, one_done)
        finally:
            ended.set()


def _check_pieces(archive: Archive, ended: Event, one_done: Callable[[], None]) -> None:
    """Pictures and maps are what their sheets speak of; they are looked at in a process of their own."""
    waiting: list[Any] = []
    for line in archive.lines("pieces"):
        if ended.is_set():
            return
        if archive.lacks(line):
            one_done()
            continue
        with _said_of(line, "pieces"):
            picture = archive.file(line["impression_sha256"])
            packed_map = archive.file(line["sheet"]["regions"]["map_sha256"] or line["regions_sha256"])
            waiting.append(
                (
                    line["number"],
                    picture,
                    packed_map,
                    (int(line["height_px"]), int(line["width_px"])),
                    float(line["dpi"]),
                    line["sheet"]["regions"]["edits"],
                    [int(one["label"]) for one in line["sheet"]["regions"]["settings"]],
                )
            )
        if len(waiting) == CHECKED_AT_ONCE or sum(len(one[1]) + len(one[2]) for one in waiting) > CHECKED_BYTES:
            _check(waiting, one_done)
    _check(waiting, one_done)


def _check(waiting: list[Any], one_done: Callable[[], None]) -> None:
    if waiting:
        bad = worker.run(jobs.check_pieces, [values for _, *values in waiting], limit_s=CHECK_LIMIT_S)
        if bad is not None:
            raise BackupUnreadable(f"The picture of piece {waiting[bad][0]} in the backup does not fit its sheet.")
    for _ in waiting:
        one_done()
    waiting.clear()


def _bring_files(archive: Archive, progress: Progress) -> None:
    """Content-named files do no harm if the rest fails: nobody refers to them, and they are swept."""
    names = archive.files()
    for place, name in enumerate(names, start=1):
        store.keep(archive.file(name))
        progress("Bringing pictures back", place, len(names))


def _restore_rows(owner: User, archive: Archive, progress: Progress) -> Restoring:
    restoring = _restoring(owner, holding.open_holder())
    total = sum(archive.count(section.name) for section in sections()) + archive.count("pieces")
    done, guard = 0, Lock()

    def one_done() -> None:
        nonlocal done
        with guard:
            done += 1
            progress("Putting things in their places", done, max(total, 1))

    def restore(section: Section, line: JsonRow) -> None:
        if pictures.done():
            pictures.result()  # one that does not fit ends it here and now
        _restore_row(restoring, section, line, lacking=archive.lacks(line))
        one_done()

    try:
        with _pictures_looked_at(archive, one_done) as pictures:
            for section in sections():
                holding.in_short_transactions(archive.lines(section.name), partial(restore, section))
            holding.in_short_transactions(iter(_pieces_in(restoring.homes.items())), recount)
            pictures.result()
        with transaction.atomic():
            holding.hand_over(restoring)
            # Only now is known how much of it was new.
            require_room(owner, more_pieces=0)
            for section in sections():
                _require_fit(owner, section)
    except BaseException:
        holding.take_back(restoring)
        raise
    restoring.holder.delete()
    return restoring


def _restoring(owner: User, holder: User) -> Restoring:
    return Restoring(owner, holder, {section.name: section.models[0] for section in sections()})


def _pieces_in(homes: Iterable[tuple[tuple[str, int], int | None]]) -> list[int]:
    return [key for (section, _), key in homes if section == "pieces" and key is not None]


@contextmanager
def _said_of(line: JsonRow, section: str) -> Iterator[None]:
    """Says of which line of the backup it is that something in it cannot be.

    Raises
    ------
    BackupUnreadable
        For all that a line can be wrong in: what it misses, values of another kind or beyond all bounds, and what
        contradicts another line.
    """
    where = f"Line {line['number']} of {section} in the backup"
    try:
        yield
    except KeyError as error:
        name = str(error.args[0])[:60]
        raise BackupUnreadable(f"{where} misses {name}, or speaks of one that is not there.") from error
    except ValidationError as error:
        raise BackupUnreadable(f"{where} is not a possible one. {error.messages[0][:200]}") from error
    except PaletaError as error:
        raise BackupUnreadable(f"{where} is not a possible one. {str(error)[:200]}") from error
    except (IntegrityError, DataError) as error:
        raise BackupUnreadable(f"{where} contradicts another one.") from error
    except (TypeError, ValueError, AttributeError, IndexError, OverflowError) as error:
        raise BackupUnreadable(f"{where} holds a value that cannot be.") from error


def copy_rows(
    source: User, owner: User, homes: dict[tuple[str, int], int | None], wanted: Callable[[str, JsonRow], bool]
) -> None:
    """Copy what an account holds into another one, line by line as a backup would; both then name the same files.

    Parameters
    ----------
    homes : by section and number of the source's lines, the key of the row that each became. Lines that have one are
        passed over; what is copied is added.
    wanted : whether to copy a line of a section.
    """
    restoring = _restoring(owner, owner)
    restoring.homes.update(homes)
    for section in sections():
        for line in section.dump(source):
            if (section.name, line["number"]) in homes or not wanted(section.name, line):
                continue
            lacking = not all(store.place_of(name).exists() for name in line.get("files", ()))
            _restore_row(restoring, section, json.loads(json.dumps(line)), lacking=lacking)
    for pk in _pieces_in(restoring.homes.items() - homes.items()):
        recount(pk)
    homes.update(restoring.homes)


def _restore_row(restoring: Restoring, section: Section, line: JsonRow, *, lacking: bool) -> None:
    """Give a line the row it becomes; none if a file that it needs is `lacking`."""
    key, counted = None, restoring.left_out
    if not (lacking and section.needs_files):
        with suppress(LeftOut), _said_of(line, section.name):
            row, made = section.restore(restoring, line)
            key, counted = row.pk, restoring.made if made else restoring.known
    restoring.homes[section.name, line["number"]] = key
    counted[section.name] = counted.get(section.name, 0) + 1


def _require_fit(owner: User, section: Section) -> None:
    if section.most is None:
        return
    if section.models[0]._default_manager.filter(owner_id=owner.pk).count() > section.most:
        raise Refused(f"With this backup the account would hold more than {section.most:,} {section.name}.", "full")
