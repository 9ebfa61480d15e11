"""Many at once, many kept, much opened: what one does must not hold up another."""

from __future__ import annotations

import contextlib
import json
import socket
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from tools.bench.page import LIVE
from tools.bench.serving import PORT, Server
from tools.bench.show import late, once, show

VERSIONS, PEOPLE, OPENED, TURNS = 200, 8, 16, 60
HALF_SENT = b"POST /api/v1/session/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 500\r\n\r\n{"


class Person:
    """Somebody signed in, with a coloured piece."""

    def __init__(self, server: Server, name: str) -> None:
        from django.contrib.auth import get_user_model
        from django.test import Client

        from demo.benches import PIECES
        from demo.management.commands.load_demo import load_piece
        from server.drawers.services import give_starter_drawers

        self.server, self.user = server, get_user_model().objects.create_user(name, password=f"{name}-quiet-word")
        give_starter_drawers(owner=self.user)
        self.piece: Any = load_piece(self.user, PIECES[-1])
        client = Client()
        client.force_login(self.user)
        token = "t" * 32
        self.headers = {
            "Cookie": f"sessionid={client.cookies['sessionid'].value}; csrftoken={token}",
            "X-CSRFToken": token,
            "Origin": server.address,
        }
        self.turn = 0

    def ask(self, method: str, path: str, body: Any = None, **headers: Any) -> bytes:
        data = body if isinstance(body, bytes) or body is None else json.dumps(body).encode()
        kind = {"Content-Type": "application/json"} if data is not None else {}
        status, answer = self.server.ask(method, f"/api/v1/{path}", data, {**self.headers, **kind, **headers})
        assert status < 400, (path, status, answer[:300])
        return answer

    def turn_lamp(self) -> None:
        self.turn += 1
        self.ask("GET", LIVE.format(self.piece.pk, self.turn % 360).removeprefix("/api/v1/"))

    def upload(self, data: bytes) -> int:
        """The number of the piece that a picture became."""
        edge = "bench-edge"
        body = (
            f'--{edge}\r\nContent-Disposition: form-data; name="title"\r\n\r\nLarge\r\n'
            f'--{edge}\r\nContent-Disposition: form-data; name="image"; filename="scan.png"\r\n'
            "Content-Type: image/png\r\n\r\n"
        ).encode()
        body += data + f"\r\n--{edge}--\r\n".encode()
        answer = self.ask("POST", "pieces/", body, **{"Content-Type": f"multipart/form-data; boundary={edge}"})
        return int(json.loads(answer)["id"])


def measure() -> None:
    from demo.lineart import DRAWINGS
    from demo.scanner import scan

    with Server() as server:
        people = [Person(server, f"bench{number}") for number in range(PEOPLE)]
        ana, ben = people[:2]
        usual = [once(ana.turn_lamp) for _ in range(TURNS)]
        show("lamp turn over the network, alone", usual, 25)
        versions(ana)
        for person in people:
            person.turn_lamp()
        together = [
            took for each in at_once(people, lambda one: [once(one.turn_lamp) for _ in range(25)]) for took in each
        ]
        show("lamp of 8 people at once, 95th percentile", [late(together)], 150)
        with slow_clients():
            held = [once(ana.turn_lamp) for _ in range(TURNS)]
        show("lamp beside 100 silent and half-sent ones", held, 50, usual, "of its usual time (aim 2)")
        letter = scan(DRAWINGS["balloon"](), dpi=600)[0]
        others = people[2:6]
        busy = beside(lambda: at_once(others, lambda one: one.upload(letter)), ana.turn_lamp)
        show("lamp beside four 600 dpi uploads", busy, 50, usual, "of its usual time (aim 2)")
        for number in range(OPENED):
            pk = ben.upload(scan(DRAWINGS["balloon"](), dpi=600, seed=number)[0])
            for view in ("coloured", "values"):
                ben.ask("GET", f"pieces/{pk}/picture/?view={view}")
            ben.ask("GET", f"pieces/{pk}/picture/?view=coloured&live=true&elevation_deg=40&azimuth_deg=10")
        print(f"{f'memory after {OPENED} large pieces':44}{'2.5 GB':>10}{server.memory_gb():7.2f} GB{1.2:7} GB")


def versions(person: Person) -> None:
    """Kept versions: what others wait for meanwhile, and how long the list of many takes; and a run is logged."""
    from server.pieces.models import Piece

    base = f"pieces/{person.piece.pk}"

    def match() -> str:
        return f'"{Piece.objects.get(pk=person.piece.pk).version}"'

    def keep() -> None:
        person.ask("PUT", f"{base}/order/", {"masked": False, "wish": "regions"}, **{"If-Match": match()})
        person.ask("PUT", f"{base}/order/", {"wish": ""}, **{"If-Match": match()})
        person.ask("PUT", f"{base}/lamp/", {"azimuth_deg": 77, "elevation_deg": 31}, **{"If-Match": match()})
        person.ask("POST", f"{base}/recipes/", **{"If-Match": match()})

    shown = beside(keep, person.turn_lamp)
    show("another lamp while a version is kept", [max(shown)], 100, of="(the slowest)")
    person.ask("PUT", f"{base}/lamp/", {"azimuth_deg": 120, "elevation_deg": 41}, **{"If-Match": match()})
    show("logging a run", [once(lambda: person.ask("POST", f"{base}/runs/", {"minutes": 50}))], 200)
    first = person.piece.recipes.last()
    for number in range(first.number + 1, VERSIONS + 1):
        first.pk, first.number, first.previous = None, number, number - 1
        first._state.adding = True
        first.save()
    show(f"list of {VERSIONS} versions", [once(lambda: person.ask("GET", f"{base}/recipes/")) for _ in range(7)], 200)


def beside(work: Callable[[], Any], other: Callable[[], Any]) -> list[float]:
    """Seconds that `other` takes, again and again, while `work` is done."""
    hand = threading.Thread(target=work)
    hand.start()
    found = []
    while hand.is_alive():
        found.append(once(other))
        time.sleep(0.02)
    return found


def at_once(people: list[Person], work: Callable[[Person], Any]) -> list[Any]:
    with ThreadPoolExecutor(len(people)) as pool:
        return list(pool.map(work, people))


@contextlib.contextmanager
def slow_clients() -> Iterator[None]:
    """50 connections on which nothing comes, and 50 on which half a request does."""
    with contextlib.ExitStack() as held:
        for number in range(100):
            one = held.enter_context(socket.create_connection(("127.0.0.1", PORT), timeout=30))
            if number % 2:
                one.sendall(HALF_SENT)
        yield
