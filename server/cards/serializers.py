"""Shapes of cards: sizes as they are shown, laid out, cut and made; and the recipe on one page."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from paleta.card import CARD_WARNINGS, CardSpec, Length, Place, show
from server.dataclass_serializers import record_of
from server.pieces.order.serializers import MakingStepSerializer

UNITS = [("in", "inches"), ("mm", "millimetres"), ("cm", "centimetres")]
PAPERS = [("letter", "Letter"), ("a4", "A4")]
WARNING_CHOICES = [*CARD_WARNINGS.items()]
LAID_KINDS = [(kind, kind) for kind in ("base", "mat", "panel", "greeting", "inside", "foam", "cut-out")]


class LengthSerializer(serializers.Serializer):
    """An exact length: as it is sent back, and as it is read in each unit ("≈" where that is only the nearest)."""

    exact = serializers.CharField()
    inches = serializers.CharField(help_text="In sixteenths.")
    mm = serializers.CharField(help_text="To a hundredth.")
    cm = serializers.CharField(help_text="To a thousandth.")
    at_mm = serializers.FloatField(help_text="To draw with; never to compare with.")

    @staticmethod
    def of(length: Length) -> dict[str, Any]:
        shown = {unit: show(length, unit) for unit, _ in UNITS}
        words = {unit: f"{'≈ ' if one.about else ''}{one.text}" for unit, one in shown.items()}
        return {
            "exact": str(length),
            "inches": words["in"],
            "mm": words["mm"],
            "cm": words["cm"],
            "at_mm": float(length.mm),
        }


class PlaceSerializer(serializers.Serializer):
    x = LengthSerializer()
    y = LengthSerializer()
    width = LengthSerializer()
    height = LengthSerializer()

    @staticmethod
    def of(place: Place) -> dict[str, Any]:
        return {name: LengthSerializer.of(getattr(place, name)) for name in ("x", "y", "width", "height")}


class LaidSerializer(serializers.Serializer):
    """A piece in its place, from the front's top left corner."""

    kind = serializers.ChoiceField(choices=LAID_KINDS)
    name = serializers.CharField()
    place = PlaceSerializer()
    stock = serializers.CharField(allow_blank=True)
    hex = serializers.CharField()
    foam = LengthSerializer()


class PieceSizeSerializer(serializers.Serializer):
    """A piece to cut for one card."""

    name = serializers.CharField()
    width = LengthSerializer()
    height = LengthSerializer()
    stock = serializers.CharField(allow_blank=True)
    count = serializers.IntegerField()


class CornerSerializer(serializers.Serializer):
    x = LengthSerializer()
    y = LengthSerializer()


class CropsSerializer(serializers.Serializer):
    """Where the panel would lie so that the middle of the figure is in its middle."""

    figure = CornerSerializer(help_text="By the box round the figure.")
    weight = CornerSerializer(help_text="By where it would balance, dark places pulling more.")


class CoveredSerializer(serializers.Serializer):
    name = serializers.CharField()
    share = serializers.FloatField()


class CardWarningSerializer(serializers.Serializer):
    code = serializers.ChoiceField(choices=WARNING_CHOICES)
    about = serializers.CharField()
    sentence = serializers.CharField()
    remedy = serializers.CharField(allow_blank=True)
    mended = record_of(CardSpec)(allow_null=True, help_text="The spec with that mended.")


class ConflictSerializer(serializers.Serializer):
    before = serializers.CharField()
    after = serializers.CharField()
    sentence = serializers.CharField()


class OutlineSerializer(serializers.Serializer):
    """A closed line to cut along, in mm on the picture."""

    name = serializers.CharField()
    points = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))


class SlabSerializer(serializers.Serializer):
    """A layer as it lies in the stack, from the table up."""

    name = serializers.CharField()
    hex = serializers.CharField()
    x_mm = serializers.FloatField()
    width_mm = serializers.FloatField()
    lift_mm = serializers.FloatField()
    thick_mm = serializers.FloatField()
    foam = serializers.BooleanField()


class PaperWeightSerializer(serializers.Serializer):
    name = serializers.CharField()
    said = serializers.CharField(help_text="In grams and in pounds.")


class SizeAtSerializer(serializers.Serializer):
    """A length of the spec, by where it stands in it: "mats.0.reveal"."""

    at = serializers.CharField()
    length = LengthSerializer()


class LaidCardSerializer(serializers.Serializer):
    open_width = LengthSerializer()
    open_height = LengthSerializer()
    scores = LengthSerializer(many=True, help_text="From the left or top edge of the open sheet.")
    score_down = serializers.BooleanField(help_text="The scores run from top to bottom.")
    layers = LaidSerializer(many=True, help_text="From the base up.")
    foams = LaidSerializer(many=True)
    side = SlabSerializer(many=True)
    greeting = LaidSerializer(allow_null=True)
    inside = LaidSerializer(allow_null=True)
    crop = PlaceSerializer(help_text="Where the panel lies on the picture.")
    crops = CropsSerializer()
    rough = PlaceSerializer(help_text="What is cut before colouring.")
    outlines = OutlineSerializer(many=True)
    covered = CoveredSerializer(many=True, help_text="What the greeting covers.")
    thickness = LengthSerializer()
    pieces = PieceSizeSerializer(many=True)
    warnings = CardWarningSerializer(many=True)
    making = MakingStepSerializer(many=True)
    conflicts = ConflictSerializer(many=True)
    weights = PaperWeightSerializer(many=True)
    sizes = SizeAtSerializer(many=True, help_text="Every length of the spec as it is read.")
    said = serializers.CharField(help_text="All sizes in a sentence, in inches.")
    said_cm = serializers.CharField(help_text="All sizes in a sentence, in centimetres.")


class CardPlanSerializer(serializers.Serializer):
    laid = LaidCardSerializer(allow_null=True, help_text="Nothing while no base is chosen.")


class CutLineSerializer(serializers.Serializer):
    number = serializers.IntegerField(help_text="0: a line to score.")
    down = serializers.BooleanField()
    at = LengthSerializer(help_text="What the trimmer is set to, from the part's left or top edge.")
    x0 = serializers.FloatField()
    y0 = serializers.FloatField()
    x1 = serializers.FloatField()
    y1 = serializers.FloatField()


class CutPieceSerializer(serializers.Serializer):
    name = serializers.CharField()
    place = PlaceSerializer()
    turned = serializers.BooleanField()
    scores = CutLineSerializer(many=True)


class CutSheetSerializer(serializers.Serializer):
    """Sheets that are cut alike."""

    stock = serializers.CharField()
    hex = serializers.CharField()
    width = LengthSerializer()
    height = LengthSerializer()
    count = serializers.IntegerField()
    pieces = CutPieceSerializer(many=True)
    cuts = CutLineSerializer(many=True)


class SheetNeedSerializer(serializers.Serializer):
    stock = serializers.CharField()
    used = serializers.IntegerField()
    bound = serializers.IntegerField(help_text="No plan takes fewer.")
    owned = serializers.IntegerField()
    buy = serializers.IntegerField()


class CutPlanSerializer(serializers.Serializer):
    cards = serializers.IntegerField()
    sheets = CutSheetSerializer(many=True)
    needs = SheetNeedSerializer(many=True)
    uncut = serializers.ListField(child=serializers.CharField(), help_text="Pieces for which no sheets are named.")
    waste = serializers.FloatField()
    proven = serializers.BooleanField()


class CardLikeSerializer(serializers.Serializer):
    piece = serializers.IntegerField(help_text="Another piece of yours, whose card this one is to match.")
