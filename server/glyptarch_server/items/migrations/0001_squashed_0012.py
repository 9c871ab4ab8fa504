import django.contrib.postgres.indexes
import django.db.models.deletion
import django.db.models.functions.text
from django.contrib.postgres.operations import TrigramExtension
from django.db import migrations, models

from glyptarch_server.items.migrations._counting import COUNT, STOP_COUNTING


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('items', '0001_initial'),
        ('items', '0002_words_and_print'),
        ('items', '0003_house'),
        ('items', '0004_page_asked'),
        ('items', '0005_features'),
        ('items', '0006_fingerprint'),
        ('items', '0007_thinning'),
        ('items', '0008_title_search'),
        ('items', '0009_item_page'),
        ('items', '0010_takedown'),
        ('items', '0011_counted'),
        ('items', '0012_entry_mark'),
    ]

    dependencies = [
        ('blogs', '0008_player_hosts'),
        ('sources', '0015_source_item_count'),
    ]

    operations = [
        TrigramExtension(),
        migrations.CreateModel(
            name='Block',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('link_key', models.CharField(max_length=4000)),
                ('link_hash', models.CharField(max_length=64)),
                ('at', models.DateTimeField()),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='blogs.blog')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('blog', 'link_hash'), name='block_once')],
            },
        ),
        migrations.CreateModel(
            name='Item',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('identity', models.CharField(max_length=2000)),
                ('identity_hash', models.CharField(max_length=64)),
                ('link', models.CharField(blank=True, max_length=4000)),
                ('title', models.CharField(blank=True, max_length=1000)),
                ('summary', models.TextField(blank=True)),
                ('body', models.TextField(blank=True)),
                ('authors', models.JSONField(default=list)),
                ('categories', models.JSONField(default=list)),
                ('published', models.DateTimeField(null=True)),
                ('updated', models.DateTimeField(null=True)),
                ('media', models.JSONField(default=list)),
                ('language', models.CharField(blank=True, max_length=35)),
                ('credit', models.JSONField(null=True)),
                ('facts', models.JSONField(default=dict)),
                ('raw', models.JSONField(default=dict)),
                ('text', models.TextField(blank=True)),
                ('summary_text', models.TextField(blank=True)),
                ('folded', models.TextField(blank=True)),
                ('fingerprint', models.BinaryField(default=bytes)),
                ('words', models.PositiveIntegerField(default=0)),
                ('identity_key', models.CharField(blank=True, max_length=2100)),
                ('link_key', models.CharField(blank=True, max_length=4000)),
                ('title_key', models.CharField(blank=True, max_length=1100)),
                ('features_version', models.PositiveSmallIntegerField(default=1)),
                ('content_hash', models.CharField(max_length=64)),
                ('entry_mark', models.CharField(blank=True, max_length=32)),
                ('captured_at', models.DateTimeField()),
                ('changed_at', models.DateTimeField()),
                ('dated', models.DateTimeField()),
                ('page_asked_at', models.DateTimeField(null=True)),
                ('page', models.CharField(blank=True, max_length=12)),
                ('source', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='items', to='sources.source')),
            ],
            options={
                'indexes': [models.Index(fields=['source', '-dated'], name='item_by_source'), models.Index(fields=['features_version'], name='item_by_features_version'), django.contrib.postgres.indexes.GinIndex(django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Upper('title'), name='gin_trgm_ops'), name='item_title_search'), models.Index(condition=models.Q(('raw', {}), _negated=True), fields=['captured_at'], name='item_with_payload'), models.Index(condition=models.Q(('page_asked_at', None)), fields=['source', '-dated'], name='item_with_a_page_to_ask')],
                'constraints': [models.UniqueConstraint(fields=('source', 'identity_hash'), name='item_once_in_a_source')],
            },
        ),
        migrations.CreateModel(
            name='Sample',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=300)),
                ('url', models.CharField(blank=True, max_length=2000)),
                ('content_type', models.CharField(blank=True, max_length=200)),
                ('body', models.BinaryField()),
                ('items', models.PositiveIntegerField(default=0)),
                ('made_at', models.DateTimeField()),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='samples', to='blogs.blog')),
            ],
            options={
                'indexes': [models.Index(fields=['blog', '-made_at'], name='sample_by_blog')],
            },
        ),
        migrations.RunSQL(COUNT, STOP_COUNTING),
    ]
