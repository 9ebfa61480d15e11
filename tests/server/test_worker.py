"""Heavy work in processes of its own: its limits, its errors, and who waits for it."""

from __future__ import annotations

import os
import threading
import time

from django.test import SimpleTestCase

from paleta.errors import DepthCycle
from server.derived import worker
from server.derived.chores import TookTooLong, TookTooMuch


# These run in the other process, which finds them by their names.
def twice(value: int) -> int:
    return 2 * value


def whose() -> int:
    return os.getpid()


def endless() -> None:
    while True:
        time.sleep(0.05)


def greedy() -> int:
    return len(bytearray(4_000_000_000))


def dying() -> None:
    os._exit(3)


def circular() -> None:
    raise DepthCycle([3, 1, 2])


class Unsendable(Exception):
    def __init__(self, one: int, other: int) -> None:
        super().__init__(f"{one} and {other}")


def failing() -> None:
    raise Unsendable(1, 2)


class WorkerTest(SimpleTestCase):
    def test_work_is_done_elsewhere_and_its_result_comes_back(self):
        self.assertEqual(worker.run(twice, 21), 42)
        self.assertNotEqual(worker.run(whose), os.getpid())

    def test_work_over_its_time_is_stopped(self):
        begun = time.monotonic()
        with self.assertRaises(TookTooLong):
            worker.run(endless, limit_s=0.5)
        self.assertLess(time.monotonic() - begun, 20)

    def test_work_over_its_memory_or_that_dies_is_told_of(self):
        for work in (greedy, dying):
            with self.subTest(work=work.__name__), self.assertRaises(TookTooMuch):
                worker.run(work, memory_mb=300)

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
        with self.assertRaises(worker.NobodyWaits), worker.waited_for_by(left.is_set):
            worker.run(endless, limit_s=30)
        self.assertEqual(worker.run(twice, 2), 4)

    def test_who_leaves_while_waiting_for_room_never_begins(self):
        rooms = [worker._room.acquire(timeout=5) for _ in range(worker.settings.HEAVY_AT_ONCE)]
        try:
            with self.assertRaises(worker.NobodyWaits), worker.waited_for_by(lambda: True):
                worker.run(twice, 2)
        finally:
            for _ in rooms:
                worker._room.release()
