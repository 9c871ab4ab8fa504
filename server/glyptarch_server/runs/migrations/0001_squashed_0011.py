import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('runs', '0001_initial'),
        ('runs', '0002_house'),
        ('runs', '0003_tries'),
        ('runs', '0004_verdicts'),
        ('runs', '0005_pictures_of_the_blog'),
        ('runs', '0006_schedules'),
        ('runs', '0007_health'),
        ('runs', '0008_by_time'),
        ('runs', '0009_thinning'),
        ('runs', '0010_taken_back'),
        ('runs', '0011_by_campaign'),
    ]

    dependencies = [
        ('campaigns', '0004_campaign_delete_asked_at'),
        ('items', '0012_entry_mark'),
        ('posts', '0010_list_of_posts'),
        ('sources', '0015_source_item_count'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Run',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('state', models.CharField(choices=[('waiting', 'waiting'), ('gathering', 'gathering'), ('deciding', 'deciding'), ('done', 'done'), ('stopped', 'stopped'), ('failed', 'failed')], max_length=10)),
                ('scheduled', models.BooleanField(default=False)),
                ('stop_asked', models.BooleanField(default=False)),
                ('asked_at', models.DateTimeField()),
                ('begun_at', models.DateTimeField(null=True)),
                ('ended_at', models.DateTimeField(null=True)),
                ('taken_back_at', models.DateTimeField(null=True)),
                ('sources', models.PositiveIntegerField(default=0)),
                ('sources_read', models.PositiveIntegerField(default=0)),
                ('sources_left', models.PositiveIntegerField(default=0)),
                ('fresh', models.PositiveIntegerField(default=0)),
                ('to_decide', models.PositiveIntegerField(default=0)),
                ('tries', models.PositiveSmallIntegerField(default=0)),
                ('failure', models.CharField(blank=True, max_length=500)),
                ('verdicts', models.JSONField(default=dict)),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='runs', to='campaigns.campaign')),
                ('readings', models.ManyToManyField(related_name='runs', to='sources.reading')),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='runs', to='campaigns.revision')),
                ('started_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Decision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('verdict', models.CharField(max_length=10)),
                ('left_at', models.CharField(blank=True, max_length=10)),
                ('reason', models.JSONField(null=True)),
                ('trace', models.JSONField()),
                ('at', models.DateTimeField()),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='decisions', to='campaigns.campaign')),
                ('item', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='decisions', to='items.item')),
                ('post', models.OneToOneField(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='decision', to='posts.post')),
                ('run', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='decisions', to='runs.run')),
            ],
        ),
        migrations.CreateModel(
            name='RuleUse',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('rule', models.CharField(max_length=60)),
                ('since', models.DateTimeField()),
                ('last', models.DateTimeField(null=True)),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='rule_uses', to='campaigns.campaign')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('campaign', 'rule'), name='rule_use_once')],
            },
        ),
        migrations.AddIndex(
            model_name='run',
            index=models.Index(fields=['campaign', '-asked_at'], name='run_by_campaign'),
        ),
        migrations.AddIndex(
            model_name='run',
            index=models.Index(fields=['ended_at'], name='run_by_end'),
        ),
        migrations.AddConstraint(
            model_name='run',
            constraint=models.UniqueConstraint(condition=models.Q(('state__in', ['deciding', 'gathering', 'waiting'])), fields=('campaign',), name='one_run_under_way'),
        ),
        migrations.AddConstraint(
            model_name='run',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['waiting', 'gathering', 'deciding', 'done', 'stopped', 'failed'])), name='run_state_is_known'),
        ),
        migrations.AddIndex(
            model_name='decision',
            index=models.Index(fields=['run', 'verdict', 'id'], name='decision_by_run'),
        ),
        migrations.AddIndex(
            model_name='decision',
            index=models.Index(fields=['campaign', 'id'], name='decision_by_campaign'),
        ),
        migrations.AddIndex(
            model_name='decision',
            index=models.Index(condition=models.Q(('post', None), models.Q(('trace', []), _negated=True)), fields=['at'], name='decision_with_old_trace'),
        ),
        migrations.AddConstraint(
            model_name='decision',
            constraint=models.UniqueConstraint(fields=('campaign', 'item'), name='item_decided_once'),
        ),
        migrations.AddConstraint(
            model_name='decision',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('left_at', ''), ('verdict__in', ['publish', 'hold', 'draft', 'private', 'scheduled'])), models.Q(models.Q(('left_at', ''), _negated=True), ('verdict__in', ['refused', 'duplicate'])), _connector='OR'), name='what_is_not_kept_left_at_a_stage'),
        ),
    ]
