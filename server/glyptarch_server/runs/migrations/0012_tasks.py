from django.db import migrations, models
import django.db.models.deletion


class Migration(migrations.Migration):

    dependencies = [
        ("runs", "0011_by_campaign"),
        ("tasks", "0001_first"),
    ]

    operations = [
        migrations.AddField(
                    model_name="run",
                    name="task",
                    field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="tasks.task"),
                ),
        migrations.RemoveField(model_name="run", name="stop_asked"),
        migrations.RemoveField(model_name="run", name="tries"),
    ]
