from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("pieces", "0004_sheets_in_parts")]

    operations = [
        migrations.RemoveField("step", "sheet"),
        migrations.AlterField("piece", "current_sheet", models.JSONField()),
    ]
