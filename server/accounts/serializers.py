from django.contrib.auth.validators import UnicodeUsernameValidator
from rest_framework import serializers


class SignInSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=150, validators=[UnicodeUsernameValidator()])
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class SessionSerializer(serializers.Serializer):
    username = serializers.CharField(allow_null=True)
    demo_available = serializers.BooleanField()
