"""What is common in the stories of a blog."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("blogs", "0004_pictures_of_the_blog")]

    operations = [
        migrations.CreateModel(
            name="CommonText",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("counts", models.BinaryField(default=bytes)),
                ("learned_at", models.DateTimeField()),
                (
                    "blog",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE, related_name="common_text", to="blogs.blog"
                    ),
                ),
            ],
        )
    ]
