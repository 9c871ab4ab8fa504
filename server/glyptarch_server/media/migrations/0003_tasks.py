from django.db import migrations, models
import django.db.models.deletion


class Migration(migrations.Migration):

    dependencies = [
        ("media", "0002_store"),
        ("tasks", "0001_first"),
    ]

    operations = [
        migrations.RemoveField(model_name="recording", name="stop_asked"),
    ]
