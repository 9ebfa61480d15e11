"""Schools of shade order: those of the trade and those a user wrote."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import User
from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, viewsets
from rest_framework.response import Response

from paleta.order import OWN_PREFIX, SCHOOLS, School, school_from_plain, school_named, school_to_plain
from server.accounts.authentication import UserRequest
from server.drawers.models import MEDIUM_CHOICES
from server.ownership import require_owner
from server.pieces.models import OwnSchool
from server.problems import Refused

MOST_SCHOOLS = 100


class SchoolStepSerializer(serializers.Serializer):
    """One step: which shades, where, how it follows the one before, and what the hand does."""

    which = serializers.CharField(max_length=30)
    where = serializers.CharField(max_length=30)
    join = serializers.CharField(max_length=10)
    how = serializers.CharField(max_length=120)


class SchoolOutSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    summary = serializers.CharField(allow_blank=True)
    steps = SchoolStepSerializer(many=True)
    own = serializers.BooleanField()
    id = serializers.IntegerField(allow_null=True, help_text="Of a school of one's own.")


class SchoolFormSerializer(serializers.Serializer):
    """A school as it is written and shared. Whatever else the file holds is said to be wrong by the core."""

    school = serializers.JSONField()


def all_schools(actor: User) -> list[tuple[School, int | None]]:
    """The trade's schools and the actor's own, with the number of those that are kept."""
    own = [(record.as_core(), record.pk) for record in OwnSchool.objects.owned_by(actor)]
    return [*((school, None) for school in SCHOOLS.values()), *own]


def school_for(actor: User, code: str) -> School:
    """The school with this code, the trade's or the actor's own.

    Raises
    ------
    SchoolError
        If there is none.
    """
    own = re.fullmatch(f"{OWN_PREFIX}([0-9]{{1,15}})", code)
    if own:
        record = OwnSchool.objects.owned_by(actor).filter(pk=int(own[1])).first()
        if record is not None:
            return record.as_core()
    return school_named(code)


def keep_school(*, actor: User, body: Mapping[str, Any], record: OwnSchool | None = None) -> OwnSchool:
    """Write a school down, new or over an old one. Sheets that use the old one keep it as it was."""
    school = school_from_plain(body, code=OWN_PREFIX)
    plain = school_to_plain(school)
    plain.pop("code")
    if record is None:
        if OwnSchool.objects.owned_by(actor).count() >= MOST_SCHOOLS:
            raise Refused(f"You can keep up to {MOST_SCHOOLS} schools.", "full")
        return OwnSchool.objects.create(owner=actor, body=plain)
    require_owner(actor, record)
    record.body = plain
    record.save(update_fields=["body"])
    return record


def _present_school(school: School, number: int | None) -> dict[str, Any]:
    return {**school_to_plain(school), "own": school.own, "id": number}


class SchoolViewSet(viewsets.GenericViewSet):
    """The schools to choose from; one's own can be written, changed and thrown away."""

    queryset = OwnSchool.objects.all()
    serializer_class = SchoolOutSerializer
    pagination_class = None
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[OwnSchool]:
        return OwnSchool.objects.owned_by(self.request.user)

    def _form(self) -> Mapping[str, Any]:
        form = SchoolFormSerializer(data=self.request.data)
        form.is_valid(raise_exception=True)
        return form.validated_data["school"]

    @extend_schema(responses=SchoolOutSerializer(many=True))
    def list(self, request: UserRequest) -> Response:
        return Response([_present_school(*one) for one in all_schools(request.user)])

    @extend_schema(request=SchoolFormSerializer, responses={201: SchoolOutSerializer})
    def create(self, request: UserRequest) -> Response:
        record = keep_school(actor=request.user, body=self._form())
        return Response(_present_school(record.as_core(), record.pk), status=201)

    @extend_schema(request=SchoolFormSerializer, responses=SchoolOutSerializer)
    def update(self, request: UserRequest, pk: str) -> Response:
        record = keep_school(actor=request.user, body=self._form(), record=self.get_object())
        return Response(_present_school(record.as_core(), record.pk))

    def destroy(self, request: UserRequest, pk: str) -> Response:
        record = self.get_object()
        require_owner(request.user, record)
        record.delete()
        return Response(status=204)
