from django.db import migrations, models
import django.db.models.deletion


class Migration(migrations.Migration):

    dependencies = [
        ("archives", "0001_initial"),
        ("tasks", "0001_first"),
    ]

    operations = [
        migrations.AddField(
                    model_name="walk",
                    name="task",
                    field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="tasks.task"),
                ),
        migrations.RemoveField(model_name="walk", name="stop_asked"),
    ]
