"""The checker of answers itself: it must notice what it is for, and work that nobody waits for goes on."""

from __future__ import annotations

import logging
from threading import Event

from django.http import HttpResponse, JsonResponse
from django.test import SimpleTestCase

from server.derived import background
from tests.server.contract import check, operation_for

PROBLEM = {"type": "/problems/x", "title": "X", "status": 409, "detail": "No.", "instance": "/"}


class CheckerTest(SimpleTestCase):
    def test_answers_beside_the_schema_are_noticed(self):
        shelf = {"count": 0, "next": None, "previous": None, "results": []}
        problem = JsonResponse(PROBLEM, status=409, content_type="application/problem+json")
        for path, method, response, words in (
            ("/api/v1/pieces/", "get", JsonResponse(shelf), ""),
            ("/api/v1/pieces/7/lamp/", "put", problem, ""),
            ("/api/v1/pieces/7/", "delete", HttpResponse(status=204), ""),
            ("/api/v1/pieces/", "get", JsonResponse({**shelf, "results": [{"id": 7}]}), "beside its schema"),
            ("/api/v1/pieces/", "get", JsonResponse({**shelf, "count": "many"}), "beside its schema"),
            ("/api/v1/pieces/", "get", JsonResponse(shelf, status=202), "not in the schema"),
            ("/api/v1/pieces/", "get", HttpResponse("<p>", status=500), "not as one of"),
            ("/api/v1/pieces/7/", "delete", HttpResponse("gone", status=204), "more than nothing"),
            ("/api/v1/nowhere/", "get", JsonResponse({}), "not in the schema"),
            ("/api/v1/pieces/7/lamp/", "put",
             JsonResponse({"detail": "No."}, status=409, content_type="application/problem+json"), "beside its schema"),
        ):  # fmt: skip
            with self.subTest(path=path, words=words):
                if words:
                    with self.assertRaisesRegex(AssertionError, words):
                        check(path, method, response)
                else:
                    check(path, method, response)

    def test_an_address_of_its_own_comes_before_one_with_a_number(self):
        self.assertIn("import", operation_for("/api/v1/pieces/import/", "post")["operationId"])
        self.assertIsNone(operation_for("/api/v1/pieces/7/", "put"))


class LaterTest(SimpleTestCase):
    def test_work_is_done_one_after_the_other_and_a_failing_one_stops_none(self):
        seen, done = [], Event()

        def fail() -> None:
            seen.append("failed")
            raise ValueError("on purpose")

        logging.disable(logging.CRITICAL)
        self.addCleanup(logging.disable, logging.NOTSET)
        with self.settings(LATER_AT_ONCE=False):
            background.do(fail)
            background.do(seen.append, "next")
            background.do(done.set)
        self.assertTrue(done.wait(10))
        self.assertEqual(seen, ["failed", "next"])

    def test_where_settings_say_so_it_is_done_at_once(self):
        seen = []
        with self.settings(LATER_AT_ONCE=True):
            background.do(seen.append, "now")
        self.assertEqual(seen, ["now"])
