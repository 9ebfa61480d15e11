"""Photo checks, which were an app of another name: their table is taken over where there is one."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

OLD_TABLE = "repeats_cardcheck"


class CreateOrTakeOver(migrations.CreateModel):
    """Creates the model's table, or renames the one that the app had under its earlier name. Going back drops the
    table, as that of any first migration: the earlier app is no longer there to take it."""

    def database_forwards(self, app_label, schema_editor, from_state, to_state):
        connection = schema_editor.connection
        if OLD_TABLE not in connection.introspection.table_names():
            return super().database_forwards(app_label, schema_editor, from_state, to_state)
        model = to_state.apps.get_model(app_label, self.name)
        schema_editor.alter_db_table(model, OLD_TABLE, model._meta.db_table)


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("pieces", "0009_coats"),
        ("recipes", "0004_files_are_named"),
        ("runs", "0004_media"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        CreateOrTakeOver(
            name="PhotoCheck",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("card", models.PositiveIntegerField(default=1)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("simulated", models.BooleanField(default=False)),
                ("photo_sha256", models.CharField(max_length=64)),
                ("flat_sha256", models.CharField(max_length=64)),
                ("verdict", models.CharField(max_length=400)),
                ("laid", models.FloatField()),
                ("readings", models.JSONField()),
                ("faults", models.JSONField(default=list)),
                ("fine", models.JSONField(default=list)),
                ("unseen", models.JSONField(default=list)),
                ("notes", models.JSONField(default=list)),
                ("light", models.JSONField(null=True)),
                ("lights", models.JSONField(default=dict)),
                ("things", models.JSONField(default=list)),
                (
                    "owner",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="photo_checks",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "piece",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="photo_checks", to="pieces.piece"
                    ),
                ),
                (
                    "recipe",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="photo_checks",
                        to="recipes.reciperecord",
                    ),
                ),
                (
                    "run",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="photo_checks",
                        to="runs.run",
                    ),
                ),
            ],
            options={
                "ordering": ["-made_at", "-id"],
                "indexes": [models.Index(fields=["owner", "piece", "-made_at"], name="card_check_order")],
                "constraints": [
                    models.CheckConstraint(condition=models.Q(("card__gte", 1)), name="card_check_card_from_1"),
                    models.CheckConstraint(
                        condition=models.Q(("laid__gte", 0), ("laid__lte", 1)), name="card_check_laid_0_to_1"
                    ),
                ],
            },
        ),
    ]
