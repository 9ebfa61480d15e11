from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from paleta.colour import WHITES, check_lab, hex_to_lab, lab_to_hex, plain_name, to_d65
from paleta.errors import SwatchError
from paleta.media import FURTHER, LONGEST_CODE, code_fault, doubt_of, pen_name, split_code
from server.drawers.models import MEASURED_CHOICES, MEDIUM_CHOICES, PAPER_CHOICES, Drawer, SwatchRecord

RECORD_FIELDS = (
    "code", "name", "family", "maker", "paper", "measured", "two_coats", "diluted", "light_pressure", "firm_pressure",
    "opacity", "running_low", "retired",
)  # fmt: skip


class SwatchSerializer(serializers.Serializer):
    """A swatch as every screen shows it."""

    code = serializers.CharField()
    name = serializers.CharField()
    family = serializers.CharField()
    lab = serializers.ListField(child=serializers.FloatField(), min_length=3, max_length=3)
    hex = serializers.CharField()
    words = serializers.CharField(help_text="The colour in plain words.")
    strength = serializers.IntegerField(help_text="In hundredths; 100 is full strength.")
    pen = serializers.CharField(help_text="The name of the pen, paint or pencil itself.")
    pen_code = serializers.CharField(help_text="Its code.")

    @staticmethod
    def of(code: str, name: str, family: str, lab: tuple[float, float, float]) -> dict[str, object]:
        pen_code, strength = split_code(code)
        return {
            "pen_code": pen_code,
            "strength": round(100 * strength),
            "pen": pen_name(name, strength),
            "code": code,
            "name": name,
            "family": family,
            "lab": list(lab),
            "hex": lab_to_hex(lab),
            "words": plain_name(lab),
        }


class DrawerSerializer(serializers.ModelSerializer):
    swatch_count = serializers.IntegerField(read_only=True)
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)

    class Meta:
        model = Drawer
        fields = ["id", "version", "name", "medium", "swatch_count"]
        read_only_fields = ["version"]


class DrawerNameSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80)


ROW_KINDS = [(kind, kind) for kind in ("new", "changes", "same", "bad")]


class LabField(serializers.ListField):
    """[L*, a*, b*]."""

    def __init__(self, **more: Any) -> None:
        super().__init__(child=serializers.FloatField(), min_length=3, max_length=3, **more)

    def to_internal_value(self, data: Any) -> list[float]:
        lab = super().to_internal_value(data)
        if len(lab) != 3:
            raise serializers.ValidationError("A colour is three numbers L*, a*, b*.", "impossible_colour")
        try:
            check_lab((lab[0], lab[1], lab[2]), "This colour")
        except SwatchError as error:
            raise serializers.ValidationError(str(error), "impossible_colour") from error
        return lab


class CodeField(serializers.CharField):
    """What tells a swatch from the others of its drawer."""

    def __init__(self, **more: Any) -> None:
        super().__init__(max_length=LONGEST_CODE, **more)

    def to_internal_value(self, data: Any) -> str:
        code = super().to_internal_value(data)
        if code_fault(code):
            raise serializers.ValidationError(code_fault(code), "impossible_code")
        return code


class SwatchRecordSerializer(serializers.Serializer):
    """A swatch as its owner keeps it. It is addressed by its id, since its code may change."""

    id = serializers.IntegerField(read_only=True)
    code = CodeField()
    name = serializers.CharField(max_length=80)
    family = serializers.CharField(max_length=40, allow_blank=True, required=False)
    maker = serializers.CharField(max_length=40, allow_blank=True, required=False)
    lab = LabField()
    hex = serializers.CharField(read_only=True)
    paper = serializers.ChoiceField(choices=PAPER_CHOICES, required=False)
    measured = serializers.ChoiceField(choices=MEASURED_CHOICES, required=False)
    two_coats = LabField(allow_null=True, required=False)
    diluted = LabField(allow_null=True, required=False)
    light_pressure = LabField(allow_null=True, required=False)
    firm_pressure = LabField(allow_null=True, required=False)
    opacity = serializers.FloatField(
        min_value=0,
        max_value=1,
        allow_null=True,
        required=False,
        help_text="Share of what lies below that a coat covers for good; null = as usual for the medium.",
    )
    running_low = serializers.BooleanField(required=False)
    retired = serializers.BooleanField(required=False)
    words = serializers.CharField(read_only=True)
    doubt = serializers.CharField(
        read_only=True, help_text="What cannot be true of it as it was measured; usually empty."
    )

    @staticmethod
    def of(record: SwatchRecord) -> dict[str, object]:
        lab = (record.lightness, record.a, record.b)
        return {
            "id": record.pk,
            **{field: getattr(record, field) for field in RECORD_FIELDS},
            "lab": list(lab),
            "hex": lab_to_hex(lab),
            "words": plain_name(lab),
            "doubt": doubt_of(record.as_core(record.drawer.medium)),
        }


class SwatchFormSerializer(SwatchRecordSerializer):
    """A new swatch, or what changes of one; its colour as lab or as hex. Lab counts under `white`."""

    lab = LabField(required=False)
    white = serializers.ChoiceField(choices=WHITES, required=False, write_only=True)
    hex = serializers.RegexField(r"^#[0-9a-fA-F]{6}$", required=False)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        colour, white = attrs.pop("hex", None), attrs.pop("white", WHITES[0])
        for field in ("lab", *FURTHER):
            if attrs.get(field):
                adapted = to_d65(tuple(attrs[field]), white)
                attrs[field] = LabField().to_internal_value(list(adapted))
        if colour and "lab" not in attrs:
            attrs["lab"] = [round(float(value), 2) for value in hex_to_lab(colour.lower())]
        if not self.partial and "lab" not in attrs:
            raise serializers.ValidationError({"lab": "Give its colour as L*, a*, b* or as #rrggbb."})
        return attrs


class ImportRowSerializer(serializers.Serializer):
    """One row of a table before anything is stored."""

    line = serializers.IntegerField()
    code = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    hex = serializers.CharField(allow_null=True)
    kind = serializers.ChoiceField(choices=ROW_KINDS)
    problem = serializers.CharField(allow_blank=True)


class ImportPreviewSerializer(serializers.Serializer):
    rows = ImportRowSerializer(many=True, help_text="The first thousand.")
    new = serializers.IntegerField()
    changes = serializers.IntegerField()
    same = serializers.IntegerField()
    bad = serializers.IntegerField()


class ImportTableSerializer(serializers.Serializer):
    """A file, or pasted text."""

    table = serializers.FileField(required=False, allow_empty_file=True)
    text = serializers.CharField(required=False, trim_whitespace=False, max_length=3_000_000, allow_blank=True)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        if ("table" in attrs) == ("text" in attrs):
            raise serializers.ValidationError("Send either a file or pasted text.")
        return attrs


class LikenessSerializer(serializers.Serializer):
    code = serializers.CharField()
    difference = serializers.FloatField(help_text="CIEDE2000.")


class ChartFormSerializer(serializers.Serializer):
    codes = serializers.ListField(child=serializers.CharField(max_length=LONGEST_CODE), min_length=1, max_length=200)
    paper = serializers.ChoiceField(choices=PAPER_CHOICES, default="smooth-white")


class ChartSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    count = serializers.IntegerField()
    paper = serializers.ChoiceField(choices=PAPER_CHOICES)


class ChartPhotoSerializer(serializers.Serializer):
    photo = serializers.FileField(allow_empty_file=True)


class ChartLineSerializer(serializers.Serializer):
    """One swatch as it was read, beside what was known."""

    code = serializers.CharField()
    name = serializers.CharField()
    old = serializers.ListField(child=serializers.FloatField())
    old_hex = serializers.CharField()
    read = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    read_hex = serializers.CharField(allow_null=True)
    second = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    second_hex = serializers.CharField(allow_null=True)
    difference = serializers.FloatField(allow_null=True, help_text="CIEDE2000 between old and read.")
    uneven = serializers.BooleanField()

    @staticmethod
    def of(line: dict[str, Any]) -> dict[str, Any]:
        shown = {f"{key}_hex": lab_to_hex(line[key]) if line[key] else None for key in ("old", "read", "second")}
        return {**line, **shown}


class MeasureSerializer(serializers.Serializer):
    code = serializers.CharField(max_length=LONGEST_CODE)
    lab = LabField()
    second = LabField(allow_null=True, required=False)


class MeasuresSerializer(serializers.Serializer):
    measured = serializers.ChoiceField(choices=MEASURED_CHOICES)
    paper = serializers.ChoiceField(choices=PAPER_CHOICES, default="smooth-white")
    values = MeasureSerializer(many=True, allow_empty=False)


class ReaderSerializer(serializers.Serializer):
    """No swatch: the reader is held on its white tile."""

    swatch = serializers.IntegerField(allow_null=True, default=None)


class ReaderOutSerializer(serializers.Serializer):
    simulated = serializers.BooleanField()
    lab = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    hex = serializers.CharField(allow_null=True)
    difference = serializers.FloatField(allow_null=True)


class DrawerDetailSerializer(DrawerSerializer):
    swatches = serializers.SerializerMethodField()
    records = serializers.SerializerMethodField()

    class Meta(DrawerSerializer.Meta):
        fields = [*DrawerSerializer.Meta.fields, "swatches", "records"]

    @extend_schema_field(SwatchRecordSerializer(many=True))
    def get_records(self, drawer: Drawer) -> list[dict[str, object]]:
        return [SwatchRecordSerializer.of(record) for record in drawer.swatches.all()]

    @extend_schema_field(SwatchSerializer(many=True))
    def get_swatches(self, drawer: Drawer) -> list[dict[str, object]]:
        return [SwatchSerializer.of(one.code, one.name, one.family, one.lab) for one in drawer.own()]
