"""The words of the trade to choose from: media, papers, inks, schools, forms."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, get_args

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.decorators import api_view
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.card import CARDS, ENVELOPES, FOLDS, GRAINS, SHEETS, Size
from paleta.ground import DIRECTIONS, FADES, PROFILES, WAYS
from paleta.light import ACCENTS, FORMS
from paleta.materials import BEHAVIOURS, LINES, PAPERS, SURFACES, WATER
from paleta.media import LEAST_STRENGTH, MEASURED, MEDIUMS
from paleta.order import SCHOOLS, Join, Where, Which
from paleta.palette import AMONG, MEANT, SCHEMES, SHADE_HUES
from paleta.recipe import KEY_NAMES, ORDER_WISHES, POWDER_NAMES, ROLES, TAGS, TOUCH_NAMES
from server.drawers.models import MEDIUM_CHOICES

FORM_CHOICES = [(form.code, form.name) for form in FORMS.values()]


class ChoiceSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()


class InkChoiceSerializer(ChoiceSerializer):
    raised = serializers.BooleanField(help_text="Powder gives it its colour.")


class SchoolSerializer(ChoiceSerializer):
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    summary = serializers.CharField()


class WaySerializer(ChoiceSerializer):
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    caution = serializers.CharField(allow_blank=True)


class AccentChoiceSerializer(ChoiceSerializer):
    background = serializers.BooleanField(help_text="A touch of a ground, not of what stands there.")


class SchoolWordsSerializer(serializers.Serializer):
    """What the steps of a school of one's own can be made of."""

    which = serializers.ListField(child=serializers.CharField())
    where = serializers.ListField(child=serializers.CharField())
    join = serializers.ListField(child=serializers.CharField())


class SizeSerializer(ChoiceSerializer):
    """A size by name, upright, as lengths are written."""

    width = serializers.CharField()
    height = serializers.CharField()
    source = serializers.CharField(help_text="The standard it comes from, or common practice.")


class MediumChoiceSerializer(ChoiceSerializer):
    caution = serializers.CharField(allow_blank=True, help_text="What is dangerous about it.")
    least_strength = serializers.IntegerField(
        allow_null=True, help_text="In hundredths; null where it is laid at full strength only."
    )


class FoldChoiceSerializer(ChoiceSerializer):
    turned = serializers.CharField(help_text="The fold of the same card lying the other way.")
    once = serializers.BooleanField(help_text="Folded once, so that its front may be shorter than its back.")


class FormChoiceSerializer(ChoiceSerializer):
    """A form of a body, with what of it can be set."""

    code = serializers.ChoiceField(choices=FORM_CHOICES)
    icon = serializers.CharField(help_text="Its outline, an SVG path in a box of 40 x 24.")
    bulges = serializers.BooleanField()
    turns = serializers.BooleanField(help_text="The direction it runs in can be set.")
    has_base = serializers.BooleanField(help_text="It grows from a tucked end.")
    takes_base = serializers.BooleanField(help_text="It can be given a tucked end.")


class TradeSerializer(serializers.Serializer):
    """The words to choose from."""

    media = MediumChoiceSerializer(many=True)
    papers = ChoiceSerializer(many=True)
    inks = InkChoiceSerializer(many=True)
    powders = ChoiceSerializer(many=True, help_text="What a raised line is embossed with.")
    schools = SchoolSerializer(many=True)
    forms = FormChoiceSerializer(many=True)
    tags = serializers.ListField(child=serializers.CharField())
    touches = ChoiceSerializer(many=True)
    roles = ChoiceSerializer(many=True)
    keys = ChoiceSerializer(many=True)
    order_wishes = ChoiceSerializer(many=True)
    shade_hues = ChoiceSerializer(many=True)
    among = ChoiceSerializer(many=True, help_text="What the swatches of a ramp are to be taken from.")
    meant = ChoiceSerializer(many=True, help_text="Where in a ramp a wished colour stands.")
    schemes = serializers.ListField(child=serializers.CharField())
    measured = ChoiceSerializer(many=True)
    school_words = SchoolWordsSerializer()
    cards = SizeSerializer(many=True, help_text="Folded cards.")
    sheets = SizeSerializer(many=True, help_text="Sheets of paper.")
    envelopes = SizeSerializer(many=True)
    fades = ChoiceSerializer(many=True, help_text="How the light of a ground falls off.")
    sides = ChoiceSerializer(many=True, help_text="Degrees clockwise from the top.")
    profiles = ChoiceSerializer(many=True)
    ways = WaySerializer(many=True, help_text="Ways of laying a ground.")
    accents = AccentChoiceSerializer(many=True)
    surfaces = ChoiceSerializer(many=True)
    water = ChoiceSerializer(many=True, help_text="How a paper takes water.")
    behaviours = ChoiceSerializer(many=True, help_text="What else is known of a paper.")
    folds = FoldChoiceSerializer(many=True)
    grains = ChoiceSerializer(many=True)


def trade_words() -> dict[str, Any]:
    return {
        "media": [
            {
                "code": one.code,
                "name": one.name,
                "caution": one.caution,
                "least_strength": round(100 * LEAST_STRENGTH) if one.weaker_by else None,
            }
            for one in MEDIUMS.values()
        ],
        "papers": [{"code": paper.code, "name": paper.weighed_name} for paper in PAPERS.values()],
        "inks": [{"code": one.code, "name": one.name, "raised": one.raised} for one in LINES.values()],
        "powders": _choices(POWDER_NAMES),
        "schools": [
            {"code": one.code, "name": one.name, "medium": one.medium, "summary": one.summary}
            for one in SCHOOLS.values()
        ],
        "forms": [
            {
                "code": one.code,
                "name": one.name,
                "icon": one.icon,
                "bulges": one.bulges,
                "turns": one.axis == "set",
                "has_base": one.has_base,
                "takes_base": one.takes_base,
            }
            for one in FORMS.values()
        ],
        "tags": list(TAGS),
        "touches": _choices(TOUCH_NAMES),
        "roles": _choices(ROLES),
        "keys": _choices(KEY_NAMES),
        "order_wishes": _choices(ORDER_WISHES),
        "shade_hues": _choices(SHADE_HUES),
        "among": _choices(AMONG),
        "meant": _choices(MEANT),
        "schemes": [*SCHEMES],
        "measured": _choices(MEASURED),
        "school_words": {"which": [*get_args(Which)], "where": [*get_args(Where)], "join": [*get_args(Join)]},
        "cards": _sizes(CARDS),
        "sheets": _sizes(SHEETS),
        "envelopes": _sizes(ENVELOPES),
        "fades": _choices(FADES),
        "sides": _choices({str(degrees): name for degrees, name in DIRECTIONS.items()}),
        "profiles": _choices(PROFILES),
        "ways": [
            {"code": one.code, "name": one.name, "medium": one.medium, "caution": one.caution} for one in WAYS.values()
        ],
        "accents": [{"code": one.code, "name": one.name, "background": one.background} for one in ACCENTS.values()],
        "surfaces": _choices(SURFACES),
        "water": _choices(WATER),
        "behaviours": _choices(BEHAVIOURS),
        "folds": [
            {"code": one.code, "name": one.name, "turned": one.turned, "once": one.once} for one in FOLDS.values()
        ],
        "grains": _choices(GRAINS),
    }


def _sizes(sizes: Mapping[str, Size]) -> list[dict[str, str]]:
    return [
        {"code": one.code, "name": one.name, "width": str(one.width), "height": str(one.height), "source": one.source}
        for one in sizes.values()
    ]


def _choices(words: Mapping[str, str]) -> list[dict[str, str]]:
    return [{"code": code, "name": name} for code, name in words.items()]


@extend_schema(operation_id="trade", responses=TradeSerializer)
@api_view(["GET"])
def trade(request: Request) -> Response:
    """Media, papers, inks, schools and forms to choose from."""
    return Response(trade_words())
