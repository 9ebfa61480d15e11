from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("recipes", "0001_moved_in")]

    operations = [
        migrations.AddField("reciperecord", "impression_sha256", models.CharField(max_length=64, default="")),
        migrations.AddField("reciperecord", "regions_sha256", models.CharField(max_length=64, default="")),
        migrations.AddField("reciperecord", "previous", models.PositiveIntegerField(null=True)),
        migrations.AddField("reciperecord", "changes", models.JSONField(default=list)),
    ]
