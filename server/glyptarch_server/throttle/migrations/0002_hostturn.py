from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("throttle", "0001_initial")]

    operations = [
        migrations.CreateModel(
            name="HostTurn",
            fields=[
                ("key", models.CharField(max_length=40, primary_key=True, serialize=False)),
                ("holder", models.CharField(max_length=16)),
                ("ends_at", models.DateTimeField()),
            ],
        ),
        # A turn is worth nothing after a crash, and a commit need not wait for the disk.
        migrations.RunSQL("ALTER TABLE throttle_hostturn SET UNLOGGED", "ALTER TABLE throttle_hostturn SET LOGGED"),
    ]
