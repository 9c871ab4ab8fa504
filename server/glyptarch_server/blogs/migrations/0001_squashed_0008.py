import django.contrib.postgres.fields
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('blogs', '0001_initial'),
        ('blogs', '0002_house'),
        ('blogs', '0003_keys'),
        ('blogs', '0004_pictures_of_the_blog'),
        ('blogs', '0005_common_text'),
        ('blogs', '0006_schedules'),
        ('blogs', '0007_roles_and_names'),
        ('blogs', '0008_player_hosts'),
    ]

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Blog',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('slug', models.SlugField(max_length=60, unique=True)),
                ('title', models.CharField(max_length=200)),
                ('tagline', models.CharField(blank=True, max_length=300)),
                ('language', models.CharField(default='en', max_length=35)),
                ('time_zone', models.CharField(default='UTC', max_length=64)),
                ('player_hosts', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=200), default=list, size=None)),
                ('defaults', models.JSONField(null=True)),
                ('created_at', models.DateTimeField()),
                ('removed_at', models.DateTimeField(blank=True, null=True)),
            ],
        ),
        migrations.CreateModel(
            name='CommonText',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('counts', models.BinaryField(default=bytes)),
                ('learned_at', models.DateTimeField()),
                ('blog', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='common_text', to='blogs.blog')),
            ],
        ),
        migrations.CreateModel(
            name='Byline',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('key', models.CharField(max_length=300)),
                ('slug', models.CharField(max_length=100)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to='blogs.blog')),
            ],
            options={
                'abstract': False,
                'constraints': [models.UniqueConstraint(fields=('blog', 'key'), name='byline_key_once'), models.UniqueConstraint(fields=('blog', 'slug'), name='byline_slug_once')],
            },
        ),
        migrations.CreateModel(
            name='Category',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('key', models.CharField(max_length=300)),
                ('slug', models.CharField(max_length=100)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to='blogs.blog')),
                ('parent', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='children', to='blogs.category')),
            ],
            options={
                'abstract': False,
                'constraints': [models.UniqueConstraint(fields=('blog', 'key'), name='category_key_once'), models.UniqueConstraint(fields=('blog', 'slug'), name='category_slug_once')],
            },
        ),
        migrations.CreateModel(
            name='FormerName',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('category', 'Category'), ('tag', 'Tag'), ('byline', 'Byline')], max_length=10)),
                ('key', models.CharField(max_length=300)),
                ('target', models.BigIntegerField()),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='former_names', to='blogs.blog')),
            ],
            options={
                'indexes': [models.Index(fields=['kind', 'target'], name='former_name_by_target')],
                'constraints': [models.UniqueConstraint(fields=('blog', 'kind', 'key'), name='former_name_once')],
            },
        ),
        migrations.CreateModel(
            name='Membership',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('role', models.CharField(choices=[('viewer', 'Viewer'), ('reviewer', 'Reviewer'), ('editor', 'Editor'), ('owner', 'Owner')], max_length=10)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='members', to='blogs.blog')),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('user', 'blog'), name='one_role_on_a_blog'), models.CheckConstraint(condition=models.Q(('role__in', ['viewer', 'reviewer', 'editor', 'owner'])), name='role_is_known')],
            },
        ),
        migrations.CreateModel(
            name='Tag',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('key', models.CharField(max_length=300)),
                ('slug', models.CharField(max_length=100)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to='blogs.blog')),
            ],
            options={
                'abstract': False,
                'constraints': [models.UniqueConstraint(fields=('blog', 'key'), name='tag_key_once'), models.UniqueConstraint(fields=('blog', 'slug'), name='tag_slug_once')],
            },
        ),
        migrations.CreateModel(
            name='TermTable',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=60)),
                ('name', models.CharField(max_length=80)),
                ('rows', models.JSONField(default=list)),
                ('changed_at', models.DateTimeField()),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='term_tables', to='blogs.blog')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('blog', 'key'), name='term_table_key_once')],
            },
        ),
        migrations.CreateModel(
            name='WordList',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=60)),
                ('name', models.CharField(max_length=80)),
                ('words', models.JSONField(default=list)),
                ('changed_at', models.DateTimeField()),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='word_lists', to='blogs.blog')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('blog', 'key'), name='word_list_key_once')],
            },
        ),
    ]
