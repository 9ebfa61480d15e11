from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("runs", "0001_first"), ("pieces", "0006_recipes_move_out")]

    operations = [
        migrations.RemoveConstraint("run", "run_took_time"),
        migrations.AlterField("run", "planned_s", models.FloatField(null=True)),
        migrations.AlterField("run", "passes", models.PositiveIntegerField(null=True)),
        migrations.AlterField("run", "area_mm2", models.FloatField(null=True)),
        migrations.AlterField("run", "changes", models.PositiveIntegerField(null=True)),
        migrations.AlterField("run", "waits_s", models.FloatField(null=True)),
        migrations.AlterField("run", "handling_s", models.FloatField(null=True)),
        migrations.AddField("run", "sheet", models.JSONField(null=True)),
        migrations.AddConstraint(
            "run",
            models.CheckConstraint(
                condition=models.Q(seconds__gt=0) & (models.Q(passes__gt=0) | models.Q(passes__isnull=True)),
                name="run_took_time",
            ),
        ),
    ]
