"""What comes in at the door: JSON that everything behind may rely on."""

from __future__ import annotations

import json
import re
from typing import IO, Any, NoReturn

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

from paleta.fields import unwanted_in

MOST_DIGITS = 20
ESCAPED = re.compile(rb"\\u(?:[dD][89a-fA-F]|00[01]|007[fF]|[fF]{3}[eEfF])")
"""Characters that no text may hold can only come in written like this; only then is all of it looked through."""


class StrictJSON(JSONParser):
    """JSON without numbers that are none, numbers of endless digits, halves of characters, and bottomless nesting."""

    def parse(self, stream: IO[bytes], media_type: str | None = None, parser_context: Any = None) -> Any:
        data = stream.read()
        try:
            plain = json.loads(data.decode("utf-8"), parse_constant=_no_number, parse_int=_whole)
            bad = ESCAPED.search(data) is not None and unwanted_in(json.dumps(plain, ensure_ascii=False))
        except (UnicodeDecodeError, ValueError, RecursionError) as error:
            raise ParseError("The request is not JSON that Paleta reads.") from error
        if bad:
            raise ParseError("The request holds characters that cannot be written down.")
        return plain


def _whole(text: str) -> int:
    return int(text) if len(text) <= MOST_DIGITS else _no_number(text)


def _no_number(text: str) -> NoReturn:
    raise ValueError(f"{text[:40]} is not a number that can be held.")
