from django.db import migrations


class Migration(migrations.Migration):
    """The table goes on as the recipes' own (recipes 0001)."""

    dependencies = [("pieces", "0005_steps_as_patches")]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.AlterModelTable("RecipeRecord", "recipes_reciperecord")],
            state_operations=[migrations.DeleteModel("RecipeRecord")],
        )
    ]
