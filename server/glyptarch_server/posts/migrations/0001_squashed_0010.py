import django.contrib.postgres.fields
import django.contrib.postgres.indexes
import django.contrib.postgres.search
import django.db.models.deletion
import django.db.models.functions.text
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('posts', '0001_initial'),
        ('posts', '0002_changed'),
        ('posts', '0003_house'),
        ('posts', '0004_as_they_were'),
        ('posts', '0005_pages'),
        ('posts', '0006_copies'),
        ('posts', '0007_changes'),
        ('posts', '0008_takedown'),
        ('posts', '0009_edited_index'),
        ('posts', '0010_list_of_posts'),
    ]

    dependencies = [
        ('blogs', '0008_player_hosts'),
        ('campaigns', '0004_campaign_delete_asked_at'),
        ('items', '0012_entry_mark'),
        ('sources', '0015_source_item_count'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Change',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('action', models.CharField(max_length=20)),
                ('what', models.JSONField(default=dict)),
                ('subject', models.CharField(blank=True, max_length=300)),
                ('state', models.CharField(choices=[('waiting', 'waiting'), ('running', 'running'), ('done', 'done'), ('stopped', 'stopped')], max_length=10)),
                ('posts', django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                ('done', models.PositiveIntegerField(default=0)),
                ('changed', models.PositiveIntegerField(default=0)),
                ('stop_asked', models.BooleanField(default=False)),
                ('name', models.CharField(blank=True, max_length=200)),
                ('at', models.DateTimeField()),
                ('ended_at', models.DateTimeField(null=True)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='changes', to='blogs.blog')),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('takes_back', models.OneToOneField(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='taken_back_by', to='posts.change')),
            ],
        ),
        migrations.CreateModel(
            name='KeptView',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('query', models.CharField(max_length=1000)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='blogs.blog')),
            ],
        ),
        migrations.CreateModel(
            name='Post',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('state', models.CharField(choices=[('published', 'published'), ('scheduled', 'scheduled'), ('held', 'held'), ('draft', 'draft'), ('refused', 'refused'), ('binned', 'binned'), ('gone', 'gone')], max_length=10)),
                ('title', models.CharField(max_length=300)),
                ('slug', models.CharField(max_length=100)),
                ('body', models.TextField()),
                ('excerpt', models.TextField(blank=True)),
                ('lead_url', models.CharField(blank=True, max_length=4000)),
                ('lead_alt', models.CharField(blank=True, max_length=300)),
                ('spare_leads', models.JSONField(default=list)),
                ('copies_pictures', models.BooleanField(default=False)),
                ('copies_recordings_mb', models.PositiveIntegerField(default=0)),
                ('description', models.CharField(blank=True, max_length=500)),
                ('fields', models.JSONField(default=list)),
                ('link', models.CharField(blank=True, max_length=4000)),
                ('language', models.CharField(blank=True, max_length=35)),
                ('attribution', models.CharField(blank=True, max_length=300)),
                ('kind', models.CharField(default='article', max_length=40)),
                ('comments', models.BooleanField(default=False)),
                ('comment_count', models.PositiveIntegerField(default=0)),
                ('pinned', models.BooleanField(default=False)),
                ('visibility', models.CharField(default='public', max_length=10)),
                ('pass_phrase', models.CharField(blank=True, max_length=80)),
                ('canonical', models.CharField(blank=True, max_length=4000)),
                ('version', models.PositiveIntegerField(default=1)),
                ('edited', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=20), blank=True, default=list, size=None)),
                ('marker', models.BooleanField(default=True)),
                ('words', models.PositiveIntegerField(default=0)),
                ('date', models.DateTimeField()),
                ('out_at', models.DateTimeField(null=True)),
                ('created_at', models.DateTimeField()),
                ('changed_at', models.DateTimeField()),
                ('binned_at', models.DateTimeField(null=True)),
                ('found_by', models.GeneratedField(db_persist=True, expression=django.contrib.postgres.search.CombinedSearchVector(django.contrib.postgres.search.CombinedSearchVector(django.contrib.postgres.search.SearchVector('title', config='simple', weight='A'), '||', django.contrib.postgres.search.SearchVector('excerpt', config='simple', weight='B'), django.contrib.postgres.search.SearchConfig('simple')), '||', django.contrib.postgres.search.SearchVector(django.db.models.functions.text.Left('body', 200000), config='simple', weight='C'), django.contrib.postgres.search.SearchConfig('simple')), output_field=django.contrib.postgres.search.SearchVectorField())),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='posts', to='blogs.blog')),
                ('byline', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='posts', to='blogs.byline')),
                ('campaign', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='posts', to='campaigns.campaign')),
                ('categories', models.ManyToManyField(related_name='posts', to='blogs.category')),
                ('category', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='main_posts', to='blogs.category')),
                ('item', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='posts', to='items.item')),
                ('revision', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='posts', to='campaigns.revision')),
                ('source', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='posts', to='sources.source')),
                ('tags', models.ManyToManyField(related_name='posts', to='blogs.tag')),
            ],
        ),
        migrations.CreateModel(
            name='NearKeys',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('text_keys', django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                ('title_keys', django.contrib.postgres.fields.ArrayField(base_field=models.BigIntegerField(), default=list, size=None)),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='campaigns.campaign')),
                ('item', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='items.item')),
                ('post', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='near_keys', to='posts.post')),
            ],
        ),
        migrations.CreateModel(
            name='FormerAddress',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('slug', models.CharField(max_length=100)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='blogs.blog')),
                ('post', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='former_addresses', to='posts.post')),
            ],
        ),
        migrations.CreateModel(
            name='AlsoAt',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('item', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='items.item')),
                ('post', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='also_at', to='posts.post')),
            ],
        ),
        migrations.CreateModel(
            name='PostChange',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('version', models.PositiveIntegerField()),
                ('before', models.JSONField()),
                ('after', models.JSONField()),
                ('change', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='of_posts', to='posts.change')),
                ('post', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='changes', to='posts.post')),
            ],
        ),
        migrations.CreateModel(
            name='PostKey',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=10)),
                ('value_hash', models.CharField(max_length=64)),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='campaigns.campaign')),
                ('item', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='items.item')),
                ('post', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='keys', to='posts.post')),
            ],
        ),
        migrations.CreateModel(
            name='Takedown',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('link_key', models.CharField(blank=True, max_length=4000)),
                ('subject', models.CharField(max_length=300)),
                ('asked_by', models.CharField(max_length=300)),
                ('reason', models.CharField(blank=True, max_length=2000)),
                ('withdrawn', models.JSONField(default=list)),
                ('name', models.CharField(blank=True, max_length=200)),
                ('at', models.DateTimeField()),
                ('lifted_at', models.DateTimeField(null=True)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='takedowns', to='blogs.blog')),
                ('change', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='posts.change')),
                ('source', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='sources.source')),
            ],
        ),
        migrations.AddIndex(
            model_name='change',
            index=models.Index(fields=['blog', '-at', '-id'], name='change_by_blog'),
        ),
        migrations.AddIndex(
            model_name='change',
            index=models.Index(condition=models.Q(('ended_at', None)), fields=['at'], name='change_under_way'),
        ),
        migrations.AddConstraint(
            model_name='change',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['waiting', 'running', 'done', 'stopped'])), name='change_state_is_known'),
        ),
        migrations.AddConstraint(
            model_name='keptview',
            constraint=models.UniqueConstraint(fields=('blog', 'name'), name='view_name_once'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', 'state', '-date', '-id'], name='post_by_state'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', '-date', '-id'], include=('state',), name='post_by_date'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', 'state'], include=('campaign', 'source', 'category'), name='post_by_names'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', 'title', 'id'], include=('state',), name='post_by_title'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(condition=models.Q(('state', 'published'), models.Q(('kind', 'page'), _negated=True)), fields=['blog', '-pinned', '-date', '-id'], name='post_on_the_blog'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(condition=models.Q(('state', 'published'), models.Q(('kind', 'page'), _negated=True), models.Q(('visibility', 'private'), _negated=True)), fields=['blog', '-pinned', '-date', '-id'], name='post_for_everybody'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['category', '-date', '-id'], name='post_by_category'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['campaign', '-date', '-id'], name='post_by_campaign'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['campaign', 'state'], name='post_by_campaign_and_state'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['campaign', 'created_at'], name='post_by_making'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['source', '-date', '-id'], name='post_by_source'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=django.contrib.postgres.indexes.GinIndex(django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Upper('title'), name='gin_trgm_ops'), name='post_search'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=django.contrib.postgres.indexes.GinIndex(fastupdate=False, fields=['found_by'], name='post_by_words'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', 'words', 'id'], include=('state',), name='post_by_length'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', 'comment_count', 'id'], include=('state',), name='post_by_comments'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['blog', 'slug'], name='post_by_slug'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(condition=models.Q(('edited', []), _negated=True), fields=['blog', '-date', '-id'], name='post_edited'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(condition=models.Q(('state', 'binned')), fields=['binned_at'], name='post_by_binning'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['-changed_at'], name='post_by_change'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(fields=['campaign', '-out_at'], name='post_by_going_out'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(condition=models.Q(('state', 'scheduled')), fields=['date'], name='post_by_time_to_go_out'),
        ),
        migrations.AddIndex(
            model_name='post',
            index=models.Index(condition=models.Q(('pinned', True)), fields=['blog', '-date'], name='post_pinned'),
        ),
        migrations.AddConstraint(
            model_name='post',
            constraint=models.UniqueConstraint(condition=models.Q(('marker', False), ('state', 'binned'), _negated=True), fields=('campaign', 'item'), name='one_post_of_an_item'),
        ),
        migrations.AddConstraint(
            model_name='post',
            constraint=models.UniqueConstraint(condition=models.Q(('marker', False), ('state', 'binned'), _negated=True), fields=('blog', 'slug'), name='post_slug_once'),
        ),
        migrations.AddConstraint(
            model_name='post',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('campaign', None), ('item', None), ('revision', None), ('source', None)), models.Q(('campaign__isnull', False), ('item__isnull', False), ('revision__isnull', False), ('source__isnull', False)), _connector='OR'), name='a_post_has_its_whole_origin_or_none'),
        ),
        migrations.AddConstraint(
            model_name='post',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['published', 'scheduled', 'held', 'draft', 'refused', 'binned', 'gone'])), name='post_state_is_known'),
        ),
        migrations.AddConstraint(
            model_name='post',
            constraint=models.CheckConstraint(condition=models.Q(('visibility__in', ['public', 'private', 'phrase'])), name='post_visibility_is_known'),
        ),
        migrations.AddConstraint(
            model_name='post',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('visibility', 'phrase'), _negated=True), models.Q(('pass_phrase', ''), _negated=True), _connector='OR'), name='a_pass_phrase_where_one_is_asked_for'),
        ),
        migrations.AddIndex(
            model_name='nearkeys',
            index=django.contrib.postgres.indexes.GinIndex(fastupdate=False, fields=['text_keys'], name='near_by_text'),
        ),
        migrations.AddIndex(
            model_name='nearkeys',
            index=django.contrib.postgres.indexes.GinIndex(fastupdate=False, fields=['title_keys'], name='near_by_title'),
        ),
        migrations.AddConstraint(
            model_name='nearkeys',
            constraint=models.UniqueConstraint(fields=('post', 'item', 'campaign'), name='near_keys_once'),
        ),
        migrations.AddConstraint(
            model_name='formeraddress',
            constraint=models.UniqueConstraint(fields=('blog', 'slug'), name='former_address_once'),
        ),
        migrations.AddConstraint(
            model_name='alsoat',
            constraint=models.UniqueConstraint(fields=('post', 'item'), name='also_at_once'),
        ),
        migrations.AddIndex(
            model_name='postchange',
            index=models.Index(fields=['change', 'post'], name='post_change_by_change'),
        ),
        migrations.AddConstraint(
            model_name='postchange',
            constraint=models.UniqueConstraint(fields=('post', 'version'), name='post_version_once'),
        ),
        migrations.AddConstraint(
            model_name='postkey',
            constraint=models.UniqueConstraint(fields=('value_hash', 'kind', 'post', 'item', 'campaign'), name='key_once_for_a_post'),
        ),
        migrations.AddIndex(
            model_name='takedown',
            index=models.Index(fields=['blog', '-at', '-id'], name='takedown_by_blog'),
        ),
    ]
