from django.db import migrations, models
import django.db.models.deletion


class Migration(migrations.Migration):

    dependencies = [
        ("posts", "0010_list_of_posts"),
        ("tasks", "0001_first"),
    ]

    operations = [
        migrations.AddField(
                    model_name="change",
                    name="task",
                    field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="tasks.task"),
                ),
        migrations.RemoveConstraint(model_name="change", name="change_state_is_known"),
        migrations.RemoveField(model_name="change", name="stop_asked"),
        migrations.AlterField(
            model_name="change",
            name="state",
            field=models.CharField(
                choices=[(state, state) for state in ("waiting", "running", "done", "stopped", "failed")], max_length=10
            ),
        ),
        migrations.AddConstraint(
            model_name="change",
            constraint=models.CheckConstraint(
                condition=models.Q(("state__in", ["waiting", "running", "done", "stopped", "failed"])),
                name="change_state_is_known",
            ),
        ),
    ]
