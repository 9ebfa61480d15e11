"""API fields and forms made from what the core's classes declare of their fields (paleta.fields)."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Iterable
from functools import cache
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from paleta.card import Length, Measure, Weight
from paleta.errors import CardError
from paleta.fields import (
    FORM,
    HELP,
    TOLD,
    Choice,
    Flag,
    Kind,
    Many,
    Maybe,
    Number,
    Numbers,
    OneLine,
    Record,
    Text,
    Whole,
    kinds_of,
)

Fields = dict[str, serializers.Field]


@extend_schema_field({"type": "string", "maxLength": 40, "description": "A length: 4 1/4 in, 10.8 cm, 108 mm."})
class LengthField(serializers.Field):
    """A length as people write it, given back as the core writes it down."""

    def __init__(self, measure: Measure, **more: Any) -> None:
        super().__init__(**more)
        self.measure = measure

    def to_internal_value(self, data: Any) -> str:
        try:
            length = self.measure.from_plain(data)
            self.measure.check(length)
        except CardError as error:
            raise serializers.ValidationError(str(error)) from error
        except ValueError as error:
            raise serializers.ValidationError(f"A length {error}.") from error
        return str(length)

    def to_representation(self, value: Length | str) -> str:
        return str(value)


@extend_schema_field({"oneOf": [{"type": "number"}, {"type": "string", "maxLength": 40}]})
class WeightField(serializers.FloatField):
    """A weight in g/m2, or as paper is sold; given back in g/m2."""

    def to_internal_value(self, data: Any) -> float:
        try:
            return super().to_internal_value(Weight(0, 0).from_plain(data))
        except CardError as error:
            raise serializers.ValidationError(str(error)) from error


def at_most(count: int) -> dict[str, Any]:
    """The keyword of a serializer of many for how many it takes, which the type stubs do not know."""
    return {"max_length": count}


def field_of(kind: Kind, **more: Any) -> serializers.Field:
    """The API's field for a kind. Kinds that travel in no other form than their own have none: TypeError."""
    if isinstance(kind, Maybe):
        return field_of(kind.kind, allow_null=True, **more)
    if isinstance(kind, Many) and isinstance(kind.kind, Record):
        return record_of(kind.kind.made)(many=True, **more, **at_most(kind.most))
    if isinstance(kind, Record):
        return record_of(kind.made)(**more)
    makers: dict[type[Kind], Callable[[Any], serializers.Field]] = {
        Number: lambda one: serializers.FloatField(min_value=one.least, max_value=one.most, **more),
        Whole: lambda one: serializers.IntegerField(min_value=one.least, max_value=one.most, **more),
        Flag: lambda one: serializers.BooleanField(**more),
        Text: lambda one: _text(one, **more),
        OneLine: lambda one: _text(one, **more),
        Choice: lambda one: serializers.ChoiceField(choices=[*one.options.items()], allow_blank=one.blank, **more),
        Numbers: lambda one: _numbers(one, **more),
        Weight: lambda one: WeightField(min_value=one.least, max_value=one.most, **more),
        Measure: lambda one: LengthField(one, **more),
        Many: lambda one: serializers.ListField(child=field_of(one.kind), max_length=one.most, **more),
    }
    if type(kind) not in makers:
        raise TypeError(f"No field of the API is made from {kind}.")
    return makers[type(kind)](kind)


def _text(kind: Text, **more: Any) -> serializers.Field:
    more |= {"max_length": kind.longest, "allow_blank": kind.shortest == 0}
    return serializers.RegexField(f"^{kind.pattern}$", **more) if kind.pattern else serializers.CharField(**more)


def _numbers(kind: Numbers, **more: Any) -> serializers.Field:
    least, most = min(one for one, _ in kind.ranges), max(one for _, one in kind.ranges)
    count = len(kind.ranges)
    child = serializers.FloatField(min_value=least, max_value=most)
    return serializers.ListField(child=child, min_length=count, max_length=count, **more)


def has_default(one: dataclasses.Field[Any]) -> bool:
    return one.default is not dataclasses.MISSING or one.default_factory is not dataclasses.MISSING


def default_of(one: dataclasses.Field[Any]) -> Any:
    return one.default if one.default_factory is dataclasses.MISSING else one.default_factory()


@cache
def record_of(made: type) -> type[serializers.Serializer]:
    """A whole record of the class, in and out: fields with a default may be left out."""
    fields: Fields = {}
    for one, kind in kinds_of(made):
        default = {"default": kind.to_plain(default_of(one))} if has_default(one) else {}
        fields[one.name] = field_of(kind, help_text=one.metadata[HELP] or None, **default)
    return _serializer(made.__name__, fields, made.__doc__)


def form_of(made: type, *, but: Iterable[str] = ()) -> Fields:
    """Fields of a form that sets what is set as it is; what is not named stays as it was."""
    return {
        one.name: field_of(kind, required=False, help_text=one.metadata[HELP] or None)
        for one, kind in kinds_of(made)
        if one.metadata[FORM] and one.name not in but
    }


def response_fields(made: type) -> Fields:
    """Fields that tell a class as it is."""
    return {
        one.name: field_of(kind, help_text=one.metadata[HELP] or None)
        for one, kind in kinds_of(made)
        if one.metadata[TOLD]
    }


def values_told(value: Any) -> dict[str, Any]:
    """What `response_fields` tells, of one object."""
    return {
        one.name: kind.to_plain(getattr(value, one.name)) for one, kind in kinds_of(type(value)) if one.metadata[TOLD]
    }


def values_given(made: type, form: dict[str, Any]) -> dict[str, Any]:
    """A form's values as the class holds them; what is no field of it is left out."""
    return {one.name: kind.from_plain(form[one.name]) for one, kind in kinds_of(made) if one.name in form}


def _serializer(name: str, fields: Fields, doc: str | None) -> type[serializers.Serializer]:
    return type(f"{name}Serializer", (serializers.Serializer,), {**fields, "__doc__": doc or ""})


def serializer_of(name: str, doc: str, *more: Fields) -> type[serializers.Serializer]:
    """A serializer class with these fields, later ones winning."""
    return _serializer(name, {key: one for fields in more for key, one in fields.items()}, doc)
