"""A run may be in several media: its pace and its times by medium."""

from django.db import migrations, models

from server.runs.upgrades import upgraded_run

LIFTED = ("pace", "times", "sheet")


def lift(apps, schema_editor):
    for run in apps.get_model("runs", "Run").objects.iterator(chunk_size=200):
        values = upgraded_run({name: getattr(run, name) for name in (*LIFTED, "medium")})
        for name in LIFTED:
            setattr(run, name, values[name])
        run.save(update_fields=LIFTED)


class Migration(migrations.Migration):
    dependencies = [("runs", "0003_coloured_along")]
    operations = [
        migrations.AddField("run", "mixed", models.BooleanField(default=False)),
        migrations.AlterField("run", "times", models.JSONField(default=dict)),
        migrations.RunPython(lift, migrations.RunPython.noop),
    ]
