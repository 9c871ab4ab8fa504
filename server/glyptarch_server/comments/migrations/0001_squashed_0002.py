import django.contrib.postgres.indexes
import django.db.models.deletion
import django.db.models.functions.text
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('comments', '0001_initial'),
        ('comments', '0002_pages'),
    ]

    dependencies = [
        ('blogs', '0008_player_hosts'),
        ('posts', '0010_list_of_posts'),
    ]

    operations = [
        migrations.CreateModel(
            name='Comment',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('state', models.CharField(choices=[('waiting', 'waiting'), ('shown', 'shown'), ('removed', 'removed')], max_length=10)),
                ('name', models.CharField(max_length=80)),
                ('text', models.TextField(max_length=4000)),
                ('made_at', models.DateTimeField()),
                ('changed_at', models.DateTimeField()),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='blogs.blog')),
                ('post', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='readers_comments', to='posts.post')),
            ],
            options={
                'indexes': [models.Index(fields=['post', 'state', 'made_at'], name='comment_under_a_post'), models.Index(fields=['blog', 'state', '-made_at', '-id'], name='comment_by_state'), models.Index(fields=['blog', '-made_at', '-id'], name='comment_by_date'), django.contrib.postgres.indexes.GinIndex(django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Upper('text'), name='gin_trgm_ops'), django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Upper('name'), name='gin_trgm_ops'), name='comment_search')],
                'constraints': [models.CheckConstraint(condition=models.Q(('state__in', ['waiting', 'shown', 'removed'])), name='comment_state_is_known')],
            },
        ),
    ]
