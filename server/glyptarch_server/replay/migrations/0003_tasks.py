from django.db import migrations, models
import django.db.models.deletion


class Migration(migrations.Migration):

    dependencies = [
        ("replay", "0002_new_story"),
        ("tasks", "0001_first"),
    ]

    operations = [
        migrations.AddField(
                    model_name="replay",
                    name="task",
                    field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="tasks.task"),
                ),
        migrations.RemoveField(model_name="replay", name="stop_asked"),
        migrations.AddField(model_name="replay", name="failure", field=models.CharField(blank=True, max_length=500)),
    ]
