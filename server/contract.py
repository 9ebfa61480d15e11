"""What is added to the API's schema by hand: how errors look."""

from __future__ import annotations

from typing import Any

from server.problems import MEDIA_TYPE

FIELD_FAULT = {
    "type": "object",
    "properties": {
        "pointer": {"type": "string", "description": "JSON pointer to the field at fault."},
        "code": {"type": "string"},
        "detail": {"type": "string"},
    },
    "required": ["pointer", "code", "detail"],
}
PROBLEM = {
    "type": "object",
    "description": "An error ([RFC9457]), with a sentence for the person in `detail`.",
    "properties": {
        "type": {"type": "string"},
        "title": {"type": "string"},
        "status": {"type": "integer"},
        "detail": {"type": "string"},
        "instance": {"type": "string"},
        "errors": {"type": "array", "items": {"$ref": "#/components/schemas/FieldFault"}},
    },
    "required": ["type", "title", "status", "detail", "instance"],
}


def with_problems(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Every operation may answer with a problem."""
    schemas = result["components"]["schemas"]
    schemas["FieldFault"], schemas["Problem"] = FIELD_FAULT, PROBLEM
    answer = {
        "description": "A problem.",
        "content": {MEDIA_TYPE: {"schema": {"$ref": "#/components/schemas/Problem"}}},
    }
    for operations in result["paths"].values():
        for operation in operations.values():
            operation["responses"]["default"] = answer
    result["components"]["schemas"] = dict(sorted(schemas.items()))
    return result
