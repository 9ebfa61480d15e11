"""Papers say how they take water, behave and dry. One whose pounds count as watercolour paper was made for water.

Which papers there are is no longer written into the tables: one more is no change of them."""

from django.db import migrations, models


def say(apps, schema_editor):
    apps.get_model("drawers", "OwnPaper").objects.filter(kind="watercolour").update(water="much", dries=1.25)


class Migration(migrations.Migration):
    dependencies = [("drawers", "0010_media_without_choices")]

    operations = [
        migrations.AddField("ownpaper", "water", models.CharField(default="none", max_length=20)),
        migrations.AddField("ownpaper", "behaves", models.JSONField(default=list)),
        migrations.AddField("ownpaper", "dries", models.FloatField(default=1)),
        migrations.AlterField("chartrecord", "paper", models.CharField(default="smooth-white", max_length=30)),
        migrations.AlterField("swatchrecord", "paper", models.CharField(default="smooth-white", max_length=30)),
        migrations.RunPython(say, migrations.RunPython.noop),
    ]
