"""Restores that are under way: the file as it comes in, part by part, and how far the work is.

They live as long as the server. One that is lost is simply begun again: a restore is all or nothing.
"""

from __future__ import annotations

import json
import os
import resource
import secrets
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from io import StringIO
from pathlib import Path
from typing import Literal

from django.conf import settings
from django.core.management import call_command
from rest_framework.exceptions import NotFound

from server.derived import background
from server.derived.jobs import ALWAYS_MB
from server.problems import Refused, TooLarge

State = Literal["receiving", "working", "done", "refused"]
MOST_BYTES = 8_000_000_000
MOST_PER_USER = 2
NICE, MEMORY_MB, CPU_S = 5, 1500, 3 * 3600
"""Five thousand pieces take a quarter of the memory and a sixth of the time."""
KEPT_S = 6 * 3600.0


@dataclass
class RestoreJob:
    """One restore. `made`, `known` and `left_out` count by section, once it is done."""

    code: str
    owner_id: int
    path: Path
    state: State = "receiving"
    words: str = ""
    done: int = 0
    total: int = 0
    received_bytes: int = 0
    made: dict[str, int] = field(default_factory=dict)
    known: dict[str, int] = field(default_factory=dict)
    left_out: dict[str, int] = field(default_factory=dict)
    begun_s: float = field(default_factory=time.monotonic)


_jobs: dict[str, RestoreJob] = {}
_guard = threading.Lock()


def begin(owner_id: int) -> RestoreJob:
    """A restore that waits for its file."""
    folder = Path(settings.RESTORE_ROOT)
    folder.mkdir(parents=True, exist_ok=True)
    with _guard:
        _forget_old()
        if sum(1 for job in _jobs.values() if job.owner_id == owner_id and job.state in ("receiving", "working")) >= (
            MOST_PER_USER
        ):
            raise Refused("A restore is under way already. Wait until it is done.", "restore_under_way")
        code = secrets.token_hex(8)
        job = _jobs[code] = RestoreJob(code, owner_id, folder / f"{code}.zip")
        job.path.touch()
    return job


def named(code: str, owner_id: int) -> RestoreJob:
    """The owner's restore with this code."""
    job = _jobs.get(code)
    if job is None or job.owner_id != owner_id:
        raise NotFound("There is no such restore any more. Begin it again.")
    return job


def take_part(job: RestoreJob, at: int, data: bytes) -> None:
    """The next part of the file. A part that came already, since its answer was lost, is taken as it is."""
    with _guard:
        if job.state != "receiving":
            raise Refused("This restore has its file already.", "restore_under_way")
        if at + len(data) <= job.received_bytes:
            return
        if at != job.received_bytes:
            raise Refused("A part of the file is missing. Send it again from the start.", "part_missing")
        if at + len(data) > MOST_BYTES:
            raise TooLarge("The backup is larger than any that Paleta takes.")
        with job.path.open("ab") as file:
            file.write(data)
        job.received_bytes += len(data)


def start(job: RestoreJob) -> None:
    """The file is whole: restore it, while nobody has to wait."""
    with _guard:
        if job.state != "receiving":
            raise Refused("This restore has begun already.", "restore_under_way")
        job.state = "working"
    background.do(_work, job, lane="restores")


def _work(job: RestoreJob) -> None:
    try:
        for line in _told_of(job):
            for name, value in json.loads(line).items():
                setattr(job, name, value)
    finally:
        job.path.unlink(missing_ok=True)
        if job.state == "working":
            job.words, job.state = "Something went wrong on our side. Nothing was brought back.", "refused"


def _told_of(job: RestoreJob) -> Iterator[str]:
    """What `restore_apart` says. It works in a process of its own, within limits and below everybody else, so that a
    backup that is made to be heavy is heavy for nobody."""
    values = ["restore_apart", str(job.owner_id), str(job.path)]
    if settings.LATER_AT_ONCE:
        said = StringIO()
        call_command(*values, stdout=said)
        yield from said.getvalue().splitlines()
        return
    command = [sys.executable, str(settings.BASE_DIR / "manage.py"), *values]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
        os.setpriority(os.PRIO_PROCESS, process.pid, NICE)
        most = (MEMORY_MB + ALWAYS_MB) * 2**20
        resource.prlimit(process.pid, resource.RLIMIT_AS, (most, most))
        resource.prlimit(process.pid, resource.RLIMIT_CPU, (CPU_S, CPU_S))
        assert process.stdout is not None
        yield from process.stdout


def sweep_files(*, older_than_s: float = 0.0) -> int:
    """Remove files of restores that nobody goes on with, as those of a server that was killed; how many went. Whoever
    is not the server can only tell by their age."""
    gone = 0
    with _guard:
        under_way = {job.path for job in _jobs.values()}
        for place in Path(settings.RESTORE_ROOT).glob("*.zip"):
            if place not in under_way and place.stat().st_mtime <= time.time() - older_than_s:
                place.unlink(missing_ok=True)
                gone += 1
    return gone


def _forget_old() -> None:
    for code, job in list(_jobs.items()):
        if time.monotonic() - job.begun_s > KEPT_S:
            job.path.unlink(missing_ok=True)
            del _jobs[code]
