"""Give a task to all long work that is under way. The jobs of the former kind are dropped; each task gets a new one."""

from django.db import migrations

_JOBS = (
    "carry_out_run",
    "carry_on_replay",
    "apply_replay",
    "carry_out_change",
    "walk_back",
    "ask_pages",
    "copy_pictures",
    "copy_recording",
    "delete_campaign",
)


def _take_over(apps, schema_editor):
    def begin(row, kind, blog_id, subject, path, lock, asked_at, by_id=None, total=0, ref=None):
        return apps.get_model("tasks", "Task").objects.create(
            kind=kind,
            ref=ref or row.pk,
            blog_id=blog_id,
            subject=subject[:300],
            path=path,
            lock=lock,
            state="waiting",
            total=total,
            by_id=by_id,
            asked_at=asked_at,
        )

    def hand(row, task):
        row.task = task
        row.save(update_fields=["task"])

    for row in apps.get_model("posts", "Change").objects.filter(ended_at=None).exclude(action="replayed").order_by("pk"):
        hand(row, begin(row, "change", row.blog_id, row.subject, "posts", f"change:{row.pk}", row.at, row.by_id, len(row.posts)))
    for row in apps.get_model("runs", "Run").objects.filter(ended_at=None).select_related("campaign").order_by("pk"):
        lock = f"campaign:{row.campaign_id}"
        path = f"runs/{row.pk}"
        hand(row, begin(row, "run", row.campaign.blog_id, row.campaign.name, path, lock, row.asked_at, row.started_by_id))
    replays = apps.get_model("replay", "Replay").objects.filter(state__in=["waiting", "deciding", "applying"])
    for row in replays.select_related("campaign").order_by("pk"):
        applies = row.state == "applying"
        campaign = row.campaign
        task = begin(
            row,
            "apply" if applies else "replay",
            campaign.blog_id,
            campaign.name,
            f"campaigns/{campaign.slug}/replay",
            f"campaign:{campaign.pk}" if applies else f"replay:{campaign.pk}",
            row.asked_at,
            row.by_id,
            row.total,
        )
        hand(row, task)
        if applies:
            apps.get_model("posts", "Change").objects.filter(pk=row.change_id).update(task=task)
    for row in apps.get_model("archives", "Walk").objects.filter(ended_at=None).select_related("source").order_by("pk"):
        source = row.source
        path = f"sources/{source.key}"
        hand(row, begin(row, "older", source.blog_id, source.title, path, f"walk:{source.pk}", row.asked_at))
    going = apps.get_model("campaigns", "Campaign").objects.filter(delete_asked_at__isnull=False)
    for row in going.order_by("pk"):
        begin(row, "deletion", row.blog_id, row.name, "", f"campaign:{row.pk}", row.delete_asked_at)
    with schema_editor.connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs WHERE task_name = ANY(%s)", [list(_JOBS)])


class Migration(migrations.Migration):

    dependencies = [
        ("tasks", "0001_first"),
        ("archives", "0002_tasks"),
        ("campaigns", "0004_campaign_delete_asked_at"),
        ("media", "0003_tasks"),
        ("posts", "0011_tasks"),
        ("procrastinate", "0041_post_retry_failed_job"),
        ("replay", "0003_tasks"),
        ("runs", "0012_tasks"),
    ]

    operations = [
        migrations.RunPython(_take_over, migrations.RunPython.noop),
    ]
