from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("accounts", "0001_demo_account")]

    operations = [
        migrations.AddField(
            model_name="demoaccount",
            name="to_come",
            field=models.PositiveSmallIntegerField(default=0),
        )
    ]
