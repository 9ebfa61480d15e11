from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("drawers", "0009_measured_on_cards")]

    operations = [
        migrations.AlterField(model_name="drawer", name="medium", field=models.CharField(max_length=20)),
    ]
