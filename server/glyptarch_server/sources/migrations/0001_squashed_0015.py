import django.contrib.postgres.fields
import django.contrib.postgres.indexes
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('sources', '0001_initial'),
        ('sources', '0002_house'),
        ('sources', '0003_reads_pages'),
        ('sources', '0004_health'),
        ('sources', '0005_by_time'),
        ('sources', '0006_access'),
        ('sources', '0007_websub'),
        ('sources', '0008_judged'),
        ('sources', '0009_source_in_doubt_source_reader'),
        ('sources', '0010_source_full_text_words'),
        ('sources', '0011_full_text_by'),
        ('sources', '0012_platforms'),
        ('sources', '0013_address_patterns'),
        ('sources', '0014_takedown'),
        ('sources', '0015_source_item_count'),
    ]

    dependencies = [
        ('blogs', '0008_player_hosts'),
        ('pages', '0001_initial'),
        ('platforms', '0001_initial'),
    ]

    operations = [
        migrations.CreateModel(
            name='Source',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=60)),
                ('url', models.CharField(max_length=2000)),
                ('title', models.CharField(max_length=300)),
                ('link', models.CharField(blank=True, max_length=2000)),
                ('format', models.CharField(blank=True, max_length=40)),
                ('platform', models.CharField(blank=True, max_length=20)),
                ('parameters', models.JSONField(default=dict)),
                ('search_words', models.JSONField(default=list)),
                ('language', models.CharField(blank=True, max_length=35)),
                ('etag', models.CharField(blank=True, max_length=500)),
                ('last_modified', models.CharField(blank=True, max_length=100)),
                ('right', models.CharField(default='full', max_length=10)),
                ('right_words', models.PositiveIntegerField(default=100)),
                ('attribution', models.CharField(blank=True, max_length=300)),
                ('keyword', models.CharField(blank=True, max_length=80)),
                ('reads_pages', models.BooleanField(default=False)),
                ('full_text_words', models.PositiveIntegerField(default=0)),
                ('text_selector', models.CharField(blank=True, max_length=500)),
                ('rendered', models.BooleanField(default=False)),
                ('rendered_hosts', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=200), default=list, size=None)),
                ('in_doubt', models.BooleanField(default=False)),
                ('labels', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=60), default=list, size=None)),
                ('paused', models.BooleanField(default=False)),
                ('blocked_at', models.DateTimeField(null=True)),
                ('pause_ms', models.PositiveIntegerField(default=0)),
                ('any_certificate', models.BooleanField(default=False)),
                ('access_sealed', models.TextField(blank=True)),
                ('moved_to', models.CharField(blank=True, max_length=2000)),
                ('moved_times', models.PositiveSmallIntegerField(default=0)),
                ('former_url', models.CharField(blank=True, max_length=2000)),
                ('added_at', models.DateTimeField()),
                ('item_count', models.PositiveIntegerField(default=0, editable=False)),
                ('removed_at', models.DateTimeField(blank=True, null=True)),
                ('next_read_at', models.DateTimeField(null=True)),
                ('hub', models.CharField(blank=True, max_length=2000)),
                ('topic', models.CharField(blank=True, max_length=2000)),
                ('pushed_until', models.DateTimeField(null=True)),
                ('skip_hours', django.contrib.postgres.fields.ArrayField(base_field=models.PositiveSmallIntegerField(), default=list, size=None)),
                ('failures', models.PositiveIntegerField(default=0)),
                ('failing_since', models.DateTimeField(null=True)),
                ('gone_at', models.DateTimeField(null=True)),
                ('health', models.CharField(default='unread', max_length=10)),
                ('health_data', models.JSONField(default=dict)),
                ('judged_at', models.DateTimeField(null=True)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sources', to='blogs.blog')),
                ('connection', models.ForeignKey(null=True, on_delete=django.db.models.deletion.RESTRICT, related_name='sources', to='platforms.connection')),
                ('reader', models.ForeignKey(null=True, on_delete=django.db.models.deletion.RESTRICT, related_name='sources', to='pages.reader')),
                ('text_reader', models.ForeignKey(null=True, on_delete=django.db.models.deletion.RESTRICT, related_name='completed_sources', to='pages.reader')),
            ],
        ),
        migrations.CreateModel(
            name='Reading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('milliseconds', models.PositiveIntegerField(default=0)),
                ('not_modified', models.BooleanField(default=False)),
                ('found', models.PositiveIntegerField(default=0)),
                ('fresh', models.PositiveIntegerField(default=0)),
                ('error', models.CharField(blank=True, max_length=40)),
                ('detail', models.CharField(blank=True, max_length=500)),
                ('warnings', models.JSONField(default=list)),
                ('status', models.PositiveSmallIntegerField(default=0)),
                ('size', models.PositiveIntegerField(default=0)),
                ('source', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='readings', to='sources.source')),
            ],
        ),
        migrations.CreateModel(
            name='AddressPattern',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=100)),
                ('address', models.CharField(max_length=2000)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='address_patterns', to='blogs.blog')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('blog', 'name'), name='address_pattern_once')],
            },
        ),
        migrations.AddIndex(
            model_name='source',
            index=models.Index(fields=['blog', 'health'], name='source_by_health'),
        ),
        migrations.AddIndex(
            model_name='source',
            index=django.contrib.postgres.indexes.GinIndex(fields=['labels'], name='source_by_label'),
        ),
        migrations.AddConstraint(
            model_name='source',
            constraint=models.CheckConstraint(condition=models.Q(('right__in', ['full', 'excerpt', 'link'])), name='right_is_known'),
        ),
        migrations.AddConstraint(
            model_name='source',
            constraint=models.UniqueConstraint(fields=('blog', 'key'), name='source_key_once'),
        ),
        migrations.AddConstraint(
            model_name='source',
            constraint=models.UniqueConstraint(condition=models.Q(('removed_at__isnull', True)), fields=('blog', 'url'), name='source_address_once'),
        ),
        migrations.AddIndex(
            model_name='reading',
            index=models.Index(fields=['source', '-at'], name='reading_by_source'),
        ),
        migrations.AddIndex(
            model_name='reading',
            index=models.Index(fields=['at'], name='reading_by_time'),
        ),
    ]
