from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("pieces", "0002_schools_and_gotos")]

    operations = [
        migrations.AddField("piece", "current_sheet", models.JSONField(null=True)),
        migrations.AddField("piece", "latest_recipe", models.PositiveIntegerField(null=True)),
        migrations.AddField("piece", "latest_sheet_sha256", models.CharField(max_length=64, blank=True, default="")),
        migrations.AddField("piece", "stored_bytes", models.PositiveIntegerField(default=0)),
        migrations.AddField("step", "forward", models.JSONField(default=dict)),
        migrations.AddField("step", "back", models.JSONField(default=dict)),
    ]
