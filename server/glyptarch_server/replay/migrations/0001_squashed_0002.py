import django.contrib.postgres.fields
import django.contrib.postgres.indexes
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('replay', '0001_first'),
        ('replay', '0002_new_story'),
    ]

    dependencies = [
        ('campaigns', '0004_campaign_delete_asked_at'),
        ('items', '0012_entry_mark'),
        ('posts', '0010_list_of_posts'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Replay',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('state', models.CharField(choices=[('waiting', 'waiting'), ('deciding', 'deciding'), ('ready', 'ready'), ('applying', 'applying'), ('stopped', 'stopped'), ('failed', 'failed')], max_length=10)),
                ('last', models.BigIntegerField(default=0)),
                ('total', models.PositiveIntegerField(default=0)),
                ('done', models.PositiveIntegerField(default=0)),
                ('counts', models.JSONField(default=dict)),
                ('stop_asked', models.BooleanField(default=False)),
                ('asked_at', models.DateTimeField()),
                ('ended_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='replays', to='campaigns.campaign')),
                ('change', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='posts.change')),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='campaigns.revision')),
            ],
        ),
        migrations.CreateModel(
            name='NewStory',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('title', models.CharField(max_length=300)),
                ('at', models.DateTimeField()),
                ('keys', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=80), default=list, size=None)),
                ('text_keys', django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                ('title_keys', django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                ('item', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='items.item')),
                ('replay', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='replay.replay')),
            ],
        ),
        migrations.CreateModel(
            name='ReplayResult',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('outcome', models.CharField(max_length=10)),
                ('title', models.CharField(max_length=300)),
                ('reason', models.JSONField(null=True)),
                ('values', models.JSONField(default=dict)),
                ('kept', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=20), default=list, size=None)),
                ('chosen', models.BooleanField(default=False)),
                ('applied', models.BooleanField(default=False)),
                ('item', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='items.item')),
                ('post', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='posts.post')),
                ('replay', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='results', to='replay.replay')),
            ],
        ),
        migrations.AddIndex(
            model_name='replay',
            index=models.Index(fields=['campaign', '-asked_at'], name='replay_by_campaign'),
        ),
        migrations.AddConstraint(
            model_name='replay',
            constraint=models.UniqueConstraint(condition=models.Q(('state__in', ['applying', 'deciding', 'waiting'])), fields=('campaign',), name='one_replay_under_way'),
        ),
        migrations.AddConstraint(
            model_name='replay',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['waiting', 'deciding', 'ready', 'applying', 'stopped', 'failed'])), name='replay_state_is_known'),
        ),
        migrations.AddIndex(
            model_name='newstory',
            index=django.contrib.postgres.indexes.GinIndex(fastupdate=False, fields=['keys'], name='new_story_by_key'),
        ),
        migrations.AddIndex(
            model_name='newstory',
            index=django.contrib.postgres.indexes.GinIndex(fastupdate=False, fields=['text_keys'], name='new_story_by_text'),
        ),
        migrations.AddIndex(
            model_name='newstory',
            index=django.contrib.postgres.indexes.GinIndex(fastupdate=False, fields=['title_keys'], name='new_story_by_title'),
        ),
        migrations.AddConstraint(
            model_name='newstory',
            constraint=models.UniqueConstraint(fields=('replay', 'item'), name='new_story_once_in_a_replay'),
        ),
        migrations.AddIndex(
            model_name='replayresult',
            index=models.Index(fields=['replay', 'outcome', 'id'], name='result_by_outcome'),
        ),
        migrations.AddIndex(
            model_name='replayresult',
            index=models.Index(fields=['replay', 'post'], name='result_by_post'),
        ),
        migrations.AddConstraint(
            model_name='replayresult',
            constraint=models.UniqueConstraint(fields=('replay', 'item'), name='result_once_in_a_replay'),
        ),
        migrations.AddConstraint(
            model_name='replayresult',
            constraint=models.CheckConstraint(condition=models.Q(('outcome__in', ['same', 'changed', 'refused', 'duplicate', 'new', 'out'])), name='outcome_is_known'),
        ),
    ]
