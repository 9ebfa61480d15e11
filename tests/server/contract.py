"""Every answer of the API that a server test sees is held against the checked-in schema."""

from __future__ import annotations

import json
import re
from functools import cache
from pathlib import Path
from typing import Any

import yaml
from django.test import Client
from jsonschema import Draft202012Validator

SCHEMA = Path(__file__).parents[2] / "server/schema.yml"


class CheckedClient(Client):
    """Django's test client, which also raises AssertionError for an answer that the schema does not foresee."""

    def request(self, **request: Any) -> Any:
        response = super().request(**request)
        path = request["PATH_INFO"]
        if path.startswith("/api/v1/"):
            check(path, request["REQUEST_METHOD"].lower(), response)
        return response


def check(path: str, method: str, response: Any) -> None:
    operation = operation_for(path, method)
    status, kind = str(response.status_code), response.get("Content-Type", "").split(";")[0]
    if operation is None:
        assert response.status_code in (404, 405, 401, 403, 414), f"{method} {path} is not in the schema: {status}"
        return
    responses = operation["responses"]
    foreseen = responses.get(status) or responses["default"]
    assert status in responses or response.status_code >= 400, f"{method} {path} answers {status}, not in the schema"
    content = foreseen.get("content", {})
    if not content:
        assert response.streaming or not response.content, f"{method} {path} answers {status} with more than nothing"
        return
    assert kind in content, f"{method} {path} answers {status} as {kind!r}, not as one of {sorted(content)}"
    if kind.endswith("json") and not is_file(content[kind]["schema"]):
        faults = sorted(
            validator(json.dumps(content[kind]["schema"])).iter_errors(json.loads(response.content)), key=str
        )
        assert not faults, f"{method} {path} answers {status} beside its schema: {faults[0].message[:300]}"


def is_file(schema: dict[str, Any]) -> bool:
    return schema.get("format") == "binary"


@cache
def schema() -> Any:
    # The loader in C: the one in Python takes three seconds.
    return yaml.load(SCHEMA.read_text(), Loader=yaml.CSafeLoader)


@cache
def operations() -> list[tuple[re.Pattern[str], dict[str, Any]]]:
    found = schema()["paths"]
    # What has more of its own words comes first: /pieces/import/ before /pieces/{id}/.
    templates = sorted(found, key=lambda one: one.count("{"))
    return [(re.compile(re.sub(r"\\{\w+\\}", "[^/]+", re.escape(one))), found[one]) for one in templates]


@cache
def operation_for(path: str, method: str) -> dict[str, Any] | None:
    for pattern, item in operations():
        if pattern.fullmatch(path):
            return item.get(method)
    return None


@cache
def components() -> dict[str, Any]:
    return plain(schema()["components"])


@cache
def validator(text: str) -> Draft202012Validator:
    return Draft202012Validator({**plain(json.loads(text)), "components": components()})


def plain(schema: Any) -> Any:
    """OpenAPI 3.0's own word `nullable` as JSON Schema says it."""
    if isinstance(schema, list):
        return [plain(one) for one in schema]
    if not isinstance(schema, dict):
        return schema
    inner = {key: plain(value) for key, value in schema.items() if key != "nullable"}
    return {"anyOf": [inner, {"type": "null"}]} if schema.get("nullable") is True else inner
