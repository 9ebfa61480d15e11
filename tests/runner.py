"""Django's test runner with a closing line that says in figures what happened."""

from __future__ import annotations

import unittest
from typing import Any

from django.test.runner import DiscoverRunner


class Runner(DiscoverRunner):
    def suite_result(self, suite: unittest.TestSuite, result: unittest.TestResult, **kwargs: Any) -> int:
        failed = super().suite_result(suite, result, **kwargs)
        passed = result.testsRun - len(result.failures) - len(result.errors) - len(result.skipped)
        print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped")
        return failed
