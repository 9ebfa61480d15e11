"""Fields of frozen classes that say once what they hold.

A field declared with `number`, `choice`, `text` and so on carries its kind. From the kinds follow the class's checks
(`check_fields`), its plain form for JSON (`to_plain`, `from_plain`), its JSON Schema (`schema_of`), and, in the server,
the API's fields. Nothing about a field is written down a second time anywhere.
"""

from __future__ import annotations

import dataclasses
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import MISSING, dataclass
from typing import Any, TypeVar

from paleta.errors import PaletaError

Plain = Any
Schema = dict[str, Any]
Made = TypeVar("Made")
KIND, SAID, FORM, TOLD, HELP = "kind", "said", "form", "told", "help"
UNWANTED = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ud800-\udfff\ufffe\uffff]")
"""Control characters, halves of surrogate pairs and what is no character: they cannot be stored, shown or sent on."""


def unwanted_in(text: str) -> bool:
    """Whether a text holds what no name, note or code may hold."""
    return UNWANTED.search(text) is not None


class Kind:
    """What a field may hold. `check` raises ValueError with the end of a sentence that begins with the field's name."""

    def check(self, value: Any) -> None:
        raise NotImplementedError

    def schema(self) -> Schema:
        raise NotImplementedError

    def to_plain(self, value: Any) -> Plain:
        return value

    def from_plain(self, plain: Plain) -> Any:
        return plain


@dataclass(frozen=True)
class Number(Kind):
    """A finite number in least..most."""

    least: float
    most: float

    def check(self, value: Any) -> None:
        if isinstance(value, bool) or not isinstance(value, int | float) or not self.least <= value <= self.most:
            raise ValueError(f"must lie in {self.least:g}..{self.most:g}, got {value!r}")

    def schema(self) -> Schema:
        return {"type": "number", "minimum": self.least, "maximum": self.most}


@dataclass(frozen=True)
class Whole(Kind):
    """A whole number in least..most."""

    least: int
    most: int

    def check(self, value: Any) -> None:
        if isinstance(value, bool) or not isinstance(value, int) or not self.least <= value <= self.most:
            raise ValueError(f"must be a whole number in {self.least}..{self.most}, got {value!r}")

    def from_plain(self, plain: Plain) -> int:
        if isinstance(plain, bool) or not isinstance(plain, int | float) or plain != int(plain):
            raise ValueError(f"must be a whole number, got {plain!r}")
        return int(plain)

    def schema(self) -> Schema:
        return {"type": "integer", "minimum": self.least, "maximum": self.most}


@dataclass(frozen=True)
class Flag(Kind):
    def check(self, value: Any) -> None:
        if not isinstance(value, bool):
            raise ValueError(f"must be true or false, got {value!r}")

    def schema(self) -> Schema:
        return {"type": "boolean"}


@dataclass(frozen=True)
class Text(Kind):
    """Text of shortest..longest characters that can be stored and shown.

    pattern  what the whole of it looks like, unless it is empty and may be.
    """

    longest: int
    shortest: int = 0
    pattern: str = ""

    def check(self, value: Any) -> None:
        if not isinstance(value, str) or len(value) > self.longest or len(value.strip()) < self.shortest:
            raise ValueError(f"has {self.shortest} to {self.longest:,} characters")
        if unwanted_in(value):
            raise ValueError("holds characters that cannot be written down")
        if self.pattern and value and not re.fullmatch(self.pattern, value):
            raise ValueError(f"is not written as it must be, got {value!r}")

    def schema(self) -> Schema:
        whole = self.pattern if self.shortest else f"({self.pattern})?"
        pattern = {"pattern": f"^{whole}$"} if self.pattern else {}
        return {"type": "string", "minLength": self.shortest, "maxLength": self.longest, **pattern}


@dataclass(frozen=True)
class OneLine(Text):
    """Text that stands on one line."""

    def check(self, value: Any) -> None:
        super().check(value)
        if len(value.splitlines()) > 1 or "\t" in value:
            raise ValueError("stands on one line")


@dataclass(frozen=True)
class Choice(Kind):
    """One word of a vocabulary (code to name); `blank` allows none."""

    options: Mapping[str, str]
    blank: bool = False

    def check(self, value: Any) -> None:
        if value not in self.options and not (self.blank and value == ""):
            raise ValueError(f"must be one of {', '.join(self.options)}, got {value!r}")

    def schema(self) -> Schema:
        return {"type": "string", "enum": [*self.options, *([""] if self.blank else [])]}


@dataclass(frozen=True)
class Maybe(Kind):
    """The other kind, or None."""

    kind: Kind

    def check(self, value: Any) -> None:
        if value is not None:
            self.kind.check(value)

    def to_plain(self, value: Any) -> Plain:
        return None if value is None else self.kind.to_plain(value)

    def from_plain(self, plain: Plain) -> Any:
        return None if plain is None else self.kind.from_plain(plain)

    def schema(self) -> Schema:
        return {"anyOf": [self.kind.schema(), {"type": "null"}]}


@dataclass(frozen=True)
class Numbers(Kind):
    """As many numbers as there are ranges, in their order: a point, a colour."""

    ranges: tuple[tuple[float, float], ...]

    def check(self, value: Any) -> None:
        if not isinstance(value, Sequence) or len(value) != len(self.ranges):
            raise ValueError(f"must be {len(self.ranges)} numbers, got {value!r}")
        for one, (least, most) in zip(value, self.ranges, strict=True):
            Number(least, most).check(one)

    def to_plain(self, value: Any) -> Plain:
        return list(value)

    def from_plain(self, plain: Plain) -> Any:
        return tuple(plain)

    def schema(self) -> Schema:
        items = [Number(least, most).schema() for least, most in self.ranges]
        return {"type": "array", "prefixItems": items, "minItems": len(items), "maxItems": len(items)}


@dataclass(frozen=True)
class Many(Kind):
    """A tuple of up to `most` values of one kind; `once` forbids the same twice."""

    kind: Kind
    most: int
    once: bool = False

    def check(self, value: Any) -> None:
        if not isinstance(value, Sequence) or isinstance(value, str):  # a text would pass as a list of its letters
            raise ValueError(f"must be a list, got {value!r}")
        if len(value) > self.most:
            raise ValueError(f"holds up to {self.most:,}, got {len(value):,}")
        for one in value:
            self.kind.check(one)
        if self.once and len(set(value)) != len(value):
            raise ValueError("holds each thing only once")

    def to_plain(self, value: Any) -> Plain:
        return [self.kind.to_plain(one) for one in value]

    def from_plain(self, plain: Plain) -> Any:
        if not isinstance(plain, Sequence) or isinstance(plain, str):
            raise ValueError(f"must be a list, got {plain!r}")
        return tuple(self.kind.from_plain(one) for one in plain)

    def schema(self) -> Schema:
        return {"type": "array", "items": self.kind.schema(), "maxItems": self.most}


@dataclass(frozen=True)
class Record(Kind):
    """Another class of such fields; it has checked itself when it was made."""

    made: type

    def check(self, value: Any) -> None:
        if not isinstance(value, self.made):
            raise ValueError(f"must be a {self.made.__name__}, got {value!r}")

    def to_plain(self, value: Any) -> Plain:
        return to_plain(value)

    def from_plain(self, plain: Plain) -> Any:
        return from_plain(self.made, plain)

    def schema(self) -> Schema:
        return schema_of(self.made)


@dataclass(frozen=True)
class Table(Kind):
    """A mapping, written as a list of its values; each says its own key in the field `key`, or in several.

    Where the values do not hold their key themselves, `outside` is the key's kind.
    """

    kind: Kind
    key: str | tuple[str, ...]
    most: int
    outside: Kind | None = None

    def check(self, value: Any) -> None:
        if len(value) > self.most:
            raise ValueError(f"holds up to {self.most:,}, got {len(value):,}")
        for key, one in value.items():
            if self.outside is not None:
                self.outside.check(key)
            self.kind.check(one)

    def to_plain(self, value: Any) -> Plain:
        if self.outside is None:
            return [self.kind.to_plain(one) for one in value.values()]
        return [{self.key: key, **self.kind.to_plain(one)} for key, one in value.items()]

    def from_plain(self, plain: Plain) -> Any:
        keys = [self._key_of(item) for item in plain]
        if len(set(keys)) != len(keys):
            said = self.key if isinstance(self.key, str) else " and ".join(self.key)
            raise ValueError(f"names the same {said} twice")
        if self.outside is None:
            return {key: self.kind.from_plain(item) for key, item in zip(keys, plain, strict=True)}
        return {
            self.outside.from_plain(item[self.key]): self.kind.from_plain(
                {name: one for name, one in item.items() if name != self.key}
            )
            for item in plain
        }

    def _key_of(self, item: Mapping[str, Any]) -> Any:
        return item[self.key] if isinstance(self.key, str) else tuple(item[name] for name in self.key)

    def schema(self) -> Schema:
        inner = self.kind.schema()
        if self.outside is not None:
            properties = {self.key: self.outside.schema(), **inner["properties"]}
            inner = {**inner, "properties": properties, "required": sorted([self.key, *inner["required"]])}
        return {"type": "array", "items": inner, "maxItems": self.most}


@dataclass(frozen=True)
class Written(Kind):
    """A class with a plain form of its own, given as two functions and a schema."""

    made: type
    write: Callable[[Any], Plain]
    read: Callable[[Any], Any]
    shape: Schema = dataclasses.field(hash=False)

    def check(self, value: Any) -> None:
        if not isinstance(value, self.made):
            raise ValueError(f"must be a {self.made.__name__}, got {value!r}")

    def to_plain(self, value: Any) -> Plain:
        return self.write(value)

    def from_plain(self, plain: Plain) -> Any:
        return self.read(plain)

    def schema(self) -> Schema:
        return self.shape


POINT_MM = Numbers(((-1000.0, 2000.0), (-1000.0, 2000.0)))
"""(x, y) in mm from the picture's top left corner."""
LAB = Numbers(((0.0, 100.0), (-128.0, 128.0), (-128.0, 128.0)))
SHA256 = Text(64, pattern="[0-9a-f]{64}")
LABEL = Whole(1, 1_000_000)
"""The number of a region."""


def holds(
    kind: Kind,
    default: Any = MISSING,
    *,
    said: Callable[[Any], str] | None = None,
    form: bool = True,
    told: bool = True,
    help: str = "",
) -> Any:
    """A field of this kind.

    Parameters
    ----------
    kind
        what it may hold
    default
        of a new record; what can be called is called for every one
    said
        gives the words for having set it
    form
        whether it is set as it is, by one form with its neighbours, rather than by an action of its own
    told
        whether it is told as it is to whoever looks at the sheet
    help
        for whoever reads the API
    """
    metadata = {KIND: kind, SAID: said, FORM: form, TOLD: told, HELP: help}
    if callable(default):
        return dataclasses.field(default_factory=default, metadata=metadata)
    return dataclasses.field(default=default, metadata=metadata)


class _Declared:
    """What a class declares, looked up once: whole sheets of thousands of records are checked, read and written.

    writers and readers hold None where a value is plain already, as most are.
    """

    def __init__(self, made: type) -> None:
        declared = [(one, one.metadata[KIND]) for one in dataclasses.fields(made) if KIND in one.metadata]
        self.kinds: tuple[tuple[dataclasses.Field[Any], Kind], ...] = tuple(declared)
        self.checks = [(one.name, kind.check) for one, kind in declared]
        self.writers = [
            (one.name, None if type(kind).to_plain is Kind.to_plain else kind.to_plain) for one, kind in declared
        ]
        self.readers = {
            one.name: None if type(kind).from_plain is Kind.from_plain else kind.from_plain for one, kind in declared
        }


_KNOWN: dict[type, _Declared] = {}


def _declared(made: type) -> _Declared:
    known = _KNOWN.get(made)
    if known is None:
        known = _KNOWN[made] = _Declared(made)
    return known


def kinds_of(made: type) -> tuple[tuple[dataclasses.Field[Any], Kind], ...]:
    """The class's declared fields with their kinds."""
    return _declared(made).kinds


def kind_of(made: type, name: str) -> Kind:
    """The kind of one declared field.

    Parameters
    ----------
    made
        the class
    name
        of its field
    """
    return next(kind for one, kind in kinds_of(made) if one.name == name)


def check_fields(value: Any, error: type[PaletaError], whose: str = "") -> None:
    """Raise `error` if a declared field of `value` does not hold what its kind allows.

    Parameters
    ----------
    value
        an object of such a class
    error
        what is raised
    whose
        stands before the sentence, such as the name of a region
    """
    for name, check in _declared(type(value)).checks:
        try:
            check(getattr(value, name))
        except (ValueError, TypeError) as fault:
            start = f"{whose}: " if whose else ""
            raise error(f"{start}{name} {fault}.") from fault


def to_plain(value: Any) -> dict[str, Plain]:
    """Only dicts, lists, text and numbers, ready for JSON; `from_plain` leads back."""
    return {
        name: getattr(value, name) if write is None else write(getattr(value, name))
        for name, write in _declared(type(value)).writers
    }


def from_plain(made: type[Made], plain: Mapping[str, Plain]) -> Made:
    """What `to_plain` was given. Missing and unknown keys are the schema's business.

    Parameters
    ----------
    made
        the class
    plain
        values by field, as JSON holds them

    Raises
    ------
    ValueError
        Whatever the class raises about impossible values.
    """
    readers = _declared(made).readers
    return made(**{name: one if (read := readers[name]) is None else read(one) for name, one in plain.items()})


def schema_of(made: type) -> Schema:
    """JSON Schema 2020-12 of the plain form: every field required, none unknown."""
    properties = {one.name: kind.schema() for one, kind in kinds_of(made)}
    return {
        "type": "object",
        "properties": properties,
        "required": sorted(properties),
        "additionalProperties": False,
    }


def said_of(value: Any, names: Sequence[str]) -> str:
    """Words for having set these fields to what they are now.

    Parameters
    ----------
    value
        an object of such a class
    names
        of the fields that were set
    """
    said = {one.name: one.metadata[SAID] for one, _ in kinds_of(type(value)) if one.metadata[SAID]}
    return ", ".join(said[name](getattr(value, name)) for name in said if name in names) or "Nothing"


AS_THEY_ARE = frozenset({str, int, bool, type(None)})
"""What `whole_numbers` has nothing to change in."""


def whole_numbers(value: Any) -> Any:
    """2.0 and 2 are the same number and must be written the same."""
    kind = type(value)
    # Whole sheets come through here, and most of what they hold is none of these.
    if kind is dict:
        return {key: one if type(one) in AS_THEY_ARE else whole_numbers(one) for key, one in value.items()}
    if kind is list or kind is tuple:
        return [one if type(one) in AS_THEY_ARE else whole_numbers(one) for one in value]
    if isinstance(value, float):
        return int(value) if value.is_integer() else value
    return value
