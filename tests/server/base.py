"""What the API tests share: two users, a coloured piece, and how to ask."""

from __future__ import annotations

import json

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from server.pieces.models import Piece
from tests.server.builders import coloured, make_piece, make_user
from tests.server.contract import CheckedClient


class ApiTestCase(TestCase):
    client_class = CheckedClient

    @classmethod
    def setUpTestData(cls):
        cls.ana, cls.ben = make_user("ana"), make_user("ben")
        cls.piece = coloured(make_piece(cls.ana))

    def setUp(self):
        self.piece.refresh_from_db()
        self.client.force_login(self.ana)

    def send(self, method: str, path: str, body=None, version: int | None = None, **more):
        headers = {"If-Match": f'"{version}"'} if version is not None else {}
        return getattr(self.client, method)(
            f"/api/v1/{path}",
            data=None if body is None else json.dumps(body),
            content_type="application/json",
            headers=headers,
            **more,
        )

    def change(self, path: str, body=None, method: str = "put", version: int | None = None):
        if version is None:
            version = Piece.objects.get(pk=self.piece.pk).version
        return self.send(method, f"pieces/{self.piece.pk}/{path}/", body, version)

    def assertProblem(self, response, status: int, code: str, words: str = ""):
        self.assertEqual(response.status_code, status, response.content[:300])
        self.assertEqual(response["Content-Type"], "application/problem+json")
        body = response.json()
        self.assertEqual(body["type"], f"/problems/{code}")
        self.assertEqual(body["status"], status)
        self.assertIn(words, json.dumps(body, ensure_ascii=False))
        self.assertNotIn("Traceback", json.dumps(body))

    def upload(self, data: bytes, **fields):
        return self.client.post(
            "/api/v1/pieces/", {"image": SimpleUploadedFile("scan.png", data), "title": "Scan"} | fields
        )
