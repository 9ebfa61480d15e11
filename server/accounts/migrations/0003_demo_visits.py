import django.db.models.deletion
from django.conf import settings
from django.contrib.auth.hashers import make_password
from django.db import migrations, models


def end_sessions_of_the_demo(apps, schema_editor):
    """Nobody works in the demo's own account any more. Sessions carry a sum of the password as it is stored: the same
    one stored anew ends those that are open."""
    for demo in apps.get_model("accounts", "DemoAccount").objects.select_related("user"):
        demo.user.password = make_password("quillfield-hill")
        demo.user.save(update_fields=["password"])


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0002_demo_to_come"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="DemoVisit",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("used_at", models.DateTimeField(db_index=True)),
                ("to_come", models.PositiveSmallIntegerField(null=True)),
                ("copied", models.JSONField(default=dict)),
                (
                    "user",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="visit",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
        ),
        migrations.RunPython(end_sessions_of_the_demo, migrations.RunPython.noop),
    ]
