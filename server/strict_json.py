"""What comes in at the door: JSON that everything behind may rely on, of bounded size."""

from __future__ import annotations

import json
import math
import re
from typing import IO, Any, NoReturn

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

from paleta.fields import unwanted_in
from server.problems import TooLarge

MOST_DIGITS = 20
MOST_VALUES = 1_500_000
"""Commas in one document: counted before it is read, since a value takes many times its bytes in memory."""
ESCAPED = re.compile(rb"\\u(?:[dD][89a-fA-F]|00[01]|007[fF]|[fF]{3}[eEfF])")
"""Characters that no text may hold can only come in written like this; only then is all of it looked through."""


def loads(data: bytes) -> Any:
    """JSON without numbers that are none, numbers of endless digits, halves of characters, bottomless nesting, or more
    values than anything of Paleta's own has.

    Raises
    ------
    ValueError
        If it is not such JSON.
    """
    if data.count(b",") > MOST_VALUES:
        raise ValueError("It holds too many values.")
    try:
        plain = json.loads(data.decode("utf-8"), parse_constant=_no_number, parse_int=_whole, parse_float=_finite)
        bad = ESCAPED.search(data) is not None and unwanted_in(json.dumps(plain, ensure_ascii=False))
    except RecursionError as error:
        raise ValueError("Its lists and objects lie too deep within each other.") from error
    if bad:
        raise UnwantedCharacters("It holds characters that cannot be written down.")
    return plain


class UnwantedCharacters(ValueError):
    """It is JSON, but with control characters or halves of characters in its texts."""


class StrictJSON(JSONParser):
    """Bodies of requests: JSON as `loads` reads it, of `most_bytes` at most."""

    most_bytes = 2_000_000

    def parse(self, stream: IO[bytes], media_type: str | None = None, parser_context: Any = None) -> Any:
        data = stream.read(self.most_bytes + 1)
        if len(data) > self.most_bytes:
            raise TooLarge(f"The request is too large; {self.most_bytes / 1e6:g} MB are the most here.")
        try:
            return loads(data)
        except UnwantedCharacters as error:
            raise ParseError("The request holds characters that cannot be written down.") from error
        except ValueError as error:
            raise ParseError("The request is not JSON that Paleta reads.") from error


class LargeJSON(StrictJSON):
    """For tables and recipe files."""

    most_bytes = 13_000_000


class SmallJSON(StrictJSON):
    """For what anybody may send without having signed in: names and passwords."""

    most_bytes = 20_000


def _whole(text: str) -> int:
    return int(text) if len(text) <= MOST_DIGITS else _no_number(text)


def _finite(text: str) -> float:
    value = float(text)
    return value if math.isfinite(value) else _no_number(text)


def _no_number(text: str) -> NoReturn:
    raise ValueError(f"{text[:40]} is not a number that can be held.")
