import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    """The table came from the pieces."""

    initial = True
    dependencies = [("pieces", "0006_recipes_move_out")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="RecipeRecord",
                    fields=[
                        (
                            "id",
                            models.BigAutoField(
                                auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                            ),
                        ),
                        ("number", models.PositiveIntegerField()),
                        ("body", models.TextField()),
                        ("sheet_sha256", models.CharField(max_length=64)),
                        ("saved_at", models.DateTimeField(auto_now_add=True)),
                        (
                            "piece",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="recipes",
                                to="pieces.piece",
                            ),
                        ),
                    ],
                    options={
                        "ordering": ["number"],
                        "constraints": [
                            models.UniqueConstraint(fields=("piece", "number"), name="recipe_number_once_per_piece")
                        ],
                    },
                )
            ]
        )
    ]
