"""Kill the server, again and again, while a person keeps things, and count what was lost.

    .venv/bin/python -m tools.kill_keeping [--kills 200]

Somebody keeps versions, checks photos, lays photos by a run and restores a backup, one after the other. At a random
moment the server and all that it has begun are killed with SIGKILL. After every start, what was answered as kept must
be there whole: versions and checks as they were answered, pictures readable, a restore done or undone. In the end a
backup of the account must come back into an empty one.
"""

from __future__ import annotations

import argparse
import contextlib
import http.client
import io
import json
import os
import random
import threading
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PIL import Image

from tools.bench.load import Person
from tools.bench.serving import Server
from tools.own_database import own_database

GONE = (OSError, http.client.HTTPException, json.JSONDecodeError)
"""What a request ends with whose server was killed."""
POLL_S, LONGEST_S = 0.1, 12.0


class Refusal(AssertionError):
    """The server answered, and not as it should."""


class Keeper(Person):
    """Somebody who keeps things, and what was answered as kept."""

    def __init__(self, server: Server, name: str, chance: random.Random) -> None:
        super().__init__(server, name)
        from server.backup.services import write_backup
        from server.photo_check.services import simulated_photo
        from server.runs.along import start_run

        self.chance = chance
        self.photo = simulated_photo(self.piece, light="easy", faults=(), seed=3)
        self.run = start_run(actor=self.user, piece=self.piece, version=self.piece.version, cards=1).pk
        self.piece.refresh_from_db()
        self.backup = b"".join(write_backup(self.user))
        self.kept: dict[str, Any] = {}
        self.answered: Counter[str] = Counter()
        self.lost: list[str] = []
        self.doing = ""

    def things(self) -> list[Callable[[], None]]:
        from server.runs.along import MOST_PHOTOS

        # Of those that were not answered some may be there as well.
        room = self.answered["run_photo"] < MOST_PHOTOS // 2
        return [self.version, self.check, self.restore, *([self.run_photo] if room else [])]

    def go_on(self, ended: threading.Event) -> None:
        """One thing after the other until the server is gone."""
        try:
            while not ended.is_set():
                thing = self.chance.choice(self.things())
                self.doing = thing.__name__
                thing()
                self.answered[thing.__name__] += 1
        except GONE:
            return
        except Exception as error:  # of any kind: it must not pass for a kill
            self.lost.append(f"{self.doing}: {error!r}"[:300])

    def base(self) -> str:
        return f"pieces/{self.piece.pk}"

    def match(self) -> dict[str, str]:
        return {"If-Match": f'"{json.loads(self.ask("GET", f"{self.base()}/"))["version"]}"'}

    def version(self) -> None:
        lamp = {"azimuth_deg": self.chance.randrange(360), "elevation_deg": self.chance.randrange(10, 80)}
        self.ask("PUT", f"{self.base()}/lamp/", lamp, **self.match())
        kept = json.loads(self.ask("POST", f"{self.base()}/recipes/", **self.match()))
        self.kept[f"{self.base()}/recipes/{kept['latest_recipe']}/"] = lamp["azimuth_deg"]

    def check(self) -> None:
        told = json.loads(self.send(f"{self.base()}/photo-checks/", self.photo, {}, **self.match()))
        self.kept[f"photo-checks/{told['id']}/picture/"] = None

    def run_photo(self) -> None:
        photo = io.BytesIO()
        # Another picture each time, or it would be the one that is there already.
        Image.new("RGB", (400, 300), tuple(self.chance.randbytes(3))).save(photo, "JPEG")
        values = {"id": f"photo-{self.chance.randrange(10**9)}", "at_s": str(time.time()), "card": "1"}
        told = json.loads(self.send(f"runs/{self.run}/photos/", photo.getvalue(), values))
        for one in told["log"]:
            if one["kind"] == "photographed":
                self.kept[f"runs/{self.run}/photos/{one['sha256']}/"] = None

    def restore(self) -> None:
        """Into this account, to whose pieces it adds nothing, or into one that has nothing yet."""
        code = json.loads(self.ask("POST", "restores/"))["code"]
        self.ask("PUT", f"restores/{code}/part/?at=0", self.backup, **{"Content-Type": "application/octet-stream"})
        self.ask("POST", f"restores/{code}/")
        while (state := json.loads(self.ask("GET", f"restores/{code}/"))["state"]) == "working":
            time.sleep(POLL_S)
        if state != "done":
            raise Refusal(f"a restore ended as {state}")

    def send(self, path: str, photo: bytes, values: dict[str, str], **headers: str) -> bytes:
        """Post a photo as a form does."""
        edge = "keeper-edge"
        said = f"--{edge}\r\nContent-Disposition: form-data; name="
        parts = [f'{said}"{name}"\r\n\r\n{value}\r\n' for name, value in values.items()]
        parts.append(f'{said}"photo"; filename="card.jpg"\r\nContent-Type: image/jpeg\r\n\r\n')
        body = "".join(parts).encode() + photo + f"\r\n--{edge}--\r\n".encode()
        return self.ask("POST", path, body, **{"Content-Type": f"multipart/form-data; boundary={edge}", **headers})

    def look(self) -> None:
        """Everything that was answered as kept."""
        for path, azimuth in list(self.kept.items()):
            try:
                answer = self.ask("GET", path)
                if azimuth is not None:
                    sheet = json.loads(self.ask("GET", f"{path}sheet/"))
                    assert sheet["light"]["lamp"]["azimuth_deg"] == azimuth, f"{path} has another lamp"
                assert answer, f"{path} is empty"
            except AssertionError as error:
                self.lost.append(str(error)[:200])
                del self.kept[path]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--kills", type=int, default=200)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    with own_database():
        _measure(asked.kills, random.Random(asked.seed))


def _measure(kills: int, chance: random.Random) -> None:
    from django.db import connection

    server = Server()
    keeper = Keeper(server, "keeper", chance)
    connection.close()
    during: Counter[str] = Counter()
    server.__enter__()
    for kill in range(1, kills + 1):
        ended = threading.Event()
        hand = threading.Thread(target=keeper.go_on, args=(ended,))
        hand.start()
        time.sleep(chance.uniform(0.05, LONGEST_S))
        ended.set()
        during[keeper.doing] += 1
        server.kill()
        hand.join()
        server.__enter__()
        keeper.look()
        if kill % 20 == 0:
            print(f"{kill} kills, {len(keeper.kept)} things kept, {len(keeper.lost)} lost", flush=True)
    server.__exit__()
    print(f"killed during {dict(during)}; answered {dict(keeper.answered)}; lost {len(keeper.lost)}")
    for words in keeper.lost:
        print(f"  {words}")
    _look_at_the_rest(keeper)


def _look_at_the_rest(keeper: Keeper) -> None:
    """What the account holds is whole: its pieces are as many as before, its bytes add up, and it can be restored."""
    from django.contrib.auth import get_user_model
    from django.core.management import call_command

    from server.backup import holding
    from server.backup.services import restore_backup, write_backup
    from server.pieces.models import Piece

    count = Piece.objects.owned_by(keeper.user).count()
    print(f"{count} pieces in the account; 1, or 2 once one was restored beside its later self")
    holding.sweep()
    print(f"{Piece.objects.exclude(owner=keeper.user).count()} pieces of restores that were killed wait to be swept")
    told = io.StringIO()
    with contextlib.suppress(SystemExit):
        call_command("check_files", stdout=told)
    print(told.getvalue().strip())
    path = Path(os.environ["PALETA_VAR"], "keeper.zip")
    path.write_bytes(b"".join(write_backup(keeper.user)))
    again = get_user_model().objects.create_user("again")
    print(f"restored into an empty account: {restore_backup(owner=again, path=path).made}")


if __name__ == "__main__":
    main()
