"""Django's test runner with a closing line that says in figures what happened, and which tests took longest.

A browser test that fails is run a second time, since a real browser on a busy machine can miss a moment; what needed
its second try is named, so that it is seen and repaired. All other tests get one try.
"""

from __future__ import annotations

import os
import time
import unittest
from typing import Any

from django.test.runner import DiscoverRunner
from django.test.utils import override_settings

from tests import sentences

BROWSER = "tests.browser."
# More failures than this are not a missed moment.
MOST_SECOND_TRIES = 3
SLOWEST = int(os.environ.get("PALETA_SLOWEST", "12"))
"""How many of the slowest tests are named."""


# Passwords are hashed slowly on purpose, and every test has a user of its own; Django's advice for tests.
FAST_HASHER = "django.contrib.auth.hashers.MD5PasswordHasher"


class TimedResult(unittest.TextTestResult):
    """Takes the time of each test, and of what a class of tests sets up before its first."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.taken_s: dict[str, float] = {}
        self.since = time.perf_counter()
        self.last_class: type | None = None

    def startTest(self, test: unittest.TestCase) -> None:
        now = time.perf_counter()
        if self.last_class is not type(test):
            self.last_class = type(test)
            self.taken_s[f"{self.last_class.__module__}.{self.last_class.__qualname__}, setting up"] = now - self.since
        self.since = now
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        now = time.perf_counter()
        self.taken_s[test.id()] = now - self.since
        self.since = now


class Runner(DiscoverRunner):
    def get_resultclass(self) -> type[unittest.TextTestResult] | None:
        return super().get_resultclass() or TimedResult

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        sentences.record()
        self.fast = override_settings(PASSWORD_HASHERS=[FAST_HASHER])
        self.fast.enable()

    def teardown_test_environment(self, **kwargs: Any) -> None:
        self.fast.disable()
        super().teardown_test_environment(**kwargs)

    def run_suite(self, suite: unittest.TestSuite, **kwargs: Any) -> unittest.TestResult:
        result = super().run_suite(suite, **kwargs)
        # Of a test with subtests the whole test is run again.
        missed = {getattr(test, "test_case", test).id() for test, _ in (*result.failures, *result.errors)}
        if not missed or len(missed) > MOST_SECOND_TRIES or not all(name.startswith(BROWSER) for name in missed):
            return result
        print(f"A second try of {', '.join(sorted(missed))}")
        second = super().run_suite(self.build_suite(sorted(missed)), **kwargs)
        result.failures, result.errors = second.failures, second.errors
        return result

    def suite_result(self, suite: unittest.TestSuite, result: unittest.TestResult, **kwargs: Any) -> int:
        failed = super().suite_result(suite, result, **kwargs)
        passed = result.testsRun - len(result.failures) - len(result.errors) - len(result.skipped)
        print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped")
        if isinstance(result, TimedResult) and result.testsRun > SLOWEST:
            slowest = sorted(result.taken_s.items(), key=lambda one: -one[1])[:SLOWEST]
            print("\n".join(["Slowest:", *(f"{seconds:7.1f} s  {name}" for name, seconds in slowest)]))
        return failed
