from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("drawers", "0005_order")]

    operations = [migrations.AddField("drawer", "version", models.PositiveIntegerField(default=1))]
