from typing import Any

from django.contrib.auth.validators import UnicodeUsernameValidator
from rest_framework import serializers

LONGEST_PASSWORD = 128
"""[ASVS] 2.1.2."""


class PasswordField(serializers.CharField):
    def __init__(self, **more: Any) -> None:
        super().__init__(max_length=LONGEST_PASSWORD, trim_whitespace=False, **more)


class SignInSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=150, validators=[UnicodeUsernameValidator()])
    password = PasswordField()


class NewPasswordSerializer(serializers.Serializer):
    old = PasswordField()
    new = PasswordField()


class SessionSerializer(serializers.Serializer):
    username = serializers.CharField(allow_null=True)
    demo_available = serializers.BooleanField()
    demo_to_come = serializers.IntegerField(
        help_text="How many steps of the demo are still to be made for the shelf of whoever is signed in; else 0."
    )
    demo_ends_at = serializers.DateTimeField(
        allow_null=True, help_text="When a visitor's copy of the demo goes if it is not used until then; else null."
    )
