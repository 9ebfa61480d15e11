from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("pieces", "0009_coats")]

    operations = [
        migrations.AddField(
            model_name="piece",
            name="left_as_is",
            field=models.JSONField(blank=True, default=list),
        )
    ]
