import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('campaigns', '0001_initial'),
        ('campaigns', '0002_pictures_of_the_blog'),
        ('campaigns', '0003_schedules'),
        ('campaigns', '0004_campaign_delete_asked_at'),
    ]

    dependencies = [
        ('blogs', '0008_player_hosts'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Campaign',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('slug', models.CharField(max_length=100)),
                ('name', models.CharField(max_length=120)),
                ('created_at', models.DateTimeField()),
                ('removed_at', models.DateTimeField(blank=True, null=True)),
                ('delete_asked_at', models.DateTimeField(blank=True, null=True)),
                ('schedule', models.JSONField(default=dict)),
                ('paused', models.BooleanField(default=False)),
                ('next_run_at', models.DateTimeField(null=True)),
                ('blog', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='campaigns', to='blogs.blog')),
            ],
        ),
        migrations.CreateModel(
            name='Revision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('document', models.JSONField()),
                ('note', models.CharField(blank=True, max_length=300)),
                ('saved_at', models.DateTimeField()),
                ('campaign', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='revisions', to='campaigns.campaign')),
                ('saved_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.AddIndex(
            model_name='campaign',
            index=models.Index(condition=models.Q(('next_run_at__isnull', False)), fields=['next_run_at'], name='campaign_by_next_run'),
        ),
        migrations.AddConstraint(
            model_name='campaign',
            constraint=models.UniqueConstraint(fields=('blog', 'slug'), name='campaign_slug_once'),
        ),
        migrations.AddConstraint(
            model_name='revision',
            constraint=models.UniqueConstraint(fields=('campaign', 'number'), name='revision_number_once'),
        ),
        migrations.AddConstraint(
            model_name='revision',
            constraint=models.CheckConstraint(condition=models.Q(('number__gte', 1)), name='revision_counts_from_one'),
        ),
    ]
