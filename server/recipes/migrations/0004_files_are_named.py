from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("recipes", "0003_fill_lines_and_files")]

    operations = [
        migrations.AlterField("reciperecord", "impression_sha256", models.CharField(max_length=64)),
        migrations.AlterField("reciperecord", "regions_sha256", models.CharField(max_length=64)),
    ]
