"""Heavy work in processes of its own: its limits, its errors, and who waits for it."""

from __future__ import annotations

import contextlib
import os
import threading
import time
from pathlib import Path
from tempfile import TemporaryDirectory

from django.http import HttpResponse
from django.test import RequestFactory, SimpleTestCase
from django.utils.log import log_response

from paleta.errors import DepthCycle
from server.derived import worker
from server.derived.jobs import TookTooLong, TookTooMuch
from server.derived.memory import Memory
from server.derived.waiting import NobodyWaits, waited_for_by
from server.problems import handle


# These run in the other process, which finds them by their names.
def twice(value: int) -> int:
    return 2 * value


def whose() -> int:
    return os.getpid()


def endless() -> None:
    while True:
        time.sleep(0.05)


def toiling(seconds: float) -> str:
    while time.process_time() < seconds:
        pass
    return "done"


def greedy() -> int:
    return len(bytearray(4_000_000_000))


def slow() -> str:
    time.sleep(1.5)
    return "done"


def dying() -> None:
    os._exit(3)


def circular() -> None:
    raise DepthCycle([3, 1, 2])


class Unsendable(Exception):
    def __init__(self, one: int, other: int) -> None:
        super().__init__(f"{one} and {other}")


def failing() -> None:
    raise Unsendable(1, 2)


def mark(path: str, seconds: float) -> None:
    Path(path).touch()
    time.sleep(seconds)


def mark_late(path: str) -> None:
    time.sleep(2)
    Path(path).touch()


def hold(path: str, left: threading.Event) -> None:
    """Keep one of the processes until `left` is set, from when the file at `path` is there."""
    with contextlib.suppress(NobodyWaits), waited_for_by(left.is_set):
        worker.run(mark, path, 60.0)


class WorkerTest(SimpleTestCase):
    def test_work_is_done_elsewhere_and_its_result_comes_back(self):
        self.assertEqual(worker.run(twice, 21), 42)
        self.assertNotEqual(worker.run(whose), os.getpid())

    def test_work_over_its_time_of_the_processor_is_stopped(self):
        with self.assertRaises(TookTooLong):
            worker.run(toiling, 60.0, limit_s=1)

    def test_waiting_does_not_count_until_it_hangs(self):
        self.assertEqual(worker.run(slow, limit_s=1), "done")
        begun = time.monotonic()
        with self.assertRaises(TookTooLong):
            worker.run(endless, limit_s=0.1)
        self.assertLess(time.monotonic() - begun, 20)

    def test_work_over_its_memory_or_that_dies_is_told_of(self):
        for work in (greedy, dying):
            with self.subTest(work=work.__name__), self.assertRaises(TookTooMuch):
                worker.run(work, memory_mb=300)

    def test_the_line_is_as_long_as_what_is_asked_for_and_not_done(self):
        self.assertEqual(worker.in_line(), 0)
        people = [threading.Thread(target=worker.run, args=(slow,)) for _ in range(3)]
        for one in people:
            one.start()
        time.sleep(0.5)
        self.assertEqual(worker.in_line(), 3)
        for one in people:
            one.join()
        self.assertEqual(worker.in_line(), 0)
        with self.assertRaises(DepthCycle):
            worker.run(circular)
        self.assertEqual(worker.in_line(), 0)

    def test_errors_come_back_as_they_were(self):
        with self.assertRaises(DepthCycle) as caught:
            worker.run(circular)
        self.assertEqual(caught.exception.labels, (3, 1, 2))

    def test_an_error_that_cannot_travel_is_told_of_in_words(self):
        with self.assertRaisesMessage(RuntimeError, "1 and 2"):
            worker.run(failing)

    def test_work_that_nobody_waits_for_is_stopped_and_makes_room(self):
        left = threading.Event()
        threading.Timer(0.5, left.set).start()
        with self.assertRaises(NobodyWaits), waited_for_by(left.is_set):
            worker.run(endless, limit_s=30)
        self.assertEqual(worker.run(twice, 2), 4)

    def test_what_was_given_up_while_it_waited_for_its_turn_is_not_done(self):
        marks = Path(self.enterContext(TemporaryDirectory()))
        left = threading.Event()
        held = [marks / f"held {number}" for number in range(worker.settings.HEAVY_AT_ONCE)]
        holding = [threading.Thread(target=hold, args=(str(path), left)) for path in held]
        for one in holding:
            one.start()
        try:
            until = time.monotonic() + 60
            while not all(path.exists() for path in held) and time.monotonic() < until:
                time.sleep(0.05)
            with self.assertRaises(NobodyWaits), waited_for_by(lambda: True):
                worker.run(mark_late, str(marks / "done"))
        finally:
            left.set()
            for one in holding:
                one.join(60)
        self.assertEqual(worker.run(slow), "done")
        time.sleep(1.5)
        self.assertEqual(sorted(marks.iterdir()), held)


class GivenUpTest(SimpleTestCase):
    """Two ask for the same work, and one of them leaves."""

    def setUp(self):
        self.memory, self.begun, self.left = Memory(10_000), threading.Event(), threading.Event()
        self.found: dict[str, object] = {}

    def ask(self, name: str, gone, work=None) -> threading.Thread:
        def asking():
            try:
                with waited_for_by(gone):
                    self.found[name] = self.memory.get("key", lambda: worker.run(work or self.slow()))
            except NobodyWaits as error:
                self.found[name] = error

        thread = threading.Thread(target=asking)
        thread.start()
        return thread

    def slow(self):
        self.begun.set()
        return slow

    def test_whoever_asks_next_gets_the_answer_when_the_first_one_leaves(self):
        first = self.ask("first", self.left.is_set)
        self.begun.wait(20)
        second = self.ask("second", lambda: False)
        self.left.set()
        second.join(60)
        first.join(60)
        self.assertEqual(self.found["second"], "done")

    def test_whoever_leaves_does_not_keep_waiting_for_the_others(self):
        first = self.ask("first", lambda: False)
        self.begun.wait(20)
        self.left.set()
        second = self.ask("second", self.left.is_set)
        second.join(60)
        self.assertIsInstance(self.found["second"], NobodyWaits)
        first.join(60)
        self.assertEqual(self.found["first"], "done")

    def test_work_is_begun_anew_for_whoever_comes_after_it_was_given_up(self):
        self.left.set()
        self.ask("first", self.left.is_set, endless).join(60)
        self.assertIsInstance(self.found["first"], NobodyWaits)
        self.ask("second", lambda: False).join(60)
        self.assertEqual(self.found["second"], "done")


class LoggedTest(SimpleTestCase):
    def test_a_request_that_was_given_up_is_not_logged(self):
        response = handle(NobodyWaits(), {"request": RequestFactory().get("/api/v1/pieces/1/plan/")})
        self.assertEqual((response.status_code, response.reason_phrase), (499, "Client Closed Request"))
        with self.assertNoLogs("django.request"):
            log_response("given up", response=response, request=None)
        with self.assertLogs("django.request"):
            log_response("missing", response=HttpResponse(status=404), request=None)
