"""Posts written before keep their main category, the original as canonical, and the time they went out."""

from django.apps.registry import Apps
from django.db import migrations
from django.db.backends.base.schema import BaseDatabaseSchemaEditor
from django.db.models import F


def _fill(apps: Apps, _editor: BaseDatabaseSchemaEditor) -> None:
    post = apps.get_model("posts", "Post")
    through = post.categories.through
    pairs = post.objects.exclude(category=None).values_list("pk", "category_id")
    made = (through(post_id=pk, category_id=category) for pk, category in pairs.iterator(chunk_size=2000))
    through.objects.bulk_create(made, batch_size=2000, ignore_conflicts=True)
    post.objects.update(canonical=F("link"), description="")
    post.objects.filter(state="published").update(out_at=F("created_at"))


class Migration(migrations.Migration):
    """Data only."""

    dependencies = [("posts", "0003_house")]

    operations = [migrations.RunPython(_fill, migrations.RunPython.noop, elidable=True)]
