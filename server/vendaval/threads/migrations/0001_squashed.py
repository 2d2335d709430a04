import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("threads", "0001_initial"), ("threads", "0002_contest"), ("threads", "0003_talks")]

    initial = True

    dependencies = [
        ('bank', '0002_squashed'),
        ('groups', '0002_squashed'),
        ('work', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Talk',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('waits_since', models.DateTimeField(null=True)),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='talks', to='groups.enrolment')),
                ('guardian', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='talks', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='TalkPost',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('text', models.TextField()),
                ('at', models.DateTimeField()),
                ('author', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('talk', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='posts', to='threads.talk')),
            ],
        ),
        migrations.CreateModel(
            name='Thread',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('help', 'Help'), ('fault', 'Fault'), ('contest', 'Contest')], max_length=8)),
                ('shows_answer', models.BooleanField(default=True)),
                ('shows_working', models.BooleanField(default=False)),
                ('to_tutor', models.BooleanField(default=True)),
                ('state', models.CharField(choices=[('open', 'Open'), ('answered', 'Answered'), ('settled', 'Settled')], default='open', max_length=8)),
                ('says', models.CharField(blank=True, max_length=300)),
                ('opened_at', models.DateTimeField()),
                ('waits_since', models.DateTimeField(null=True)),
                ('settled_at', models.DateTimeField(null=True)),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='threads', to='groups.enrolment')),
                ('family', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.family')),
                ('presentation', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='threads', to='work.presentation')),
                ('topic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic')),
            ],
        ),
        migrations.CreateModel(
            name='Seen',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('post', models.PositiveBigIntegerField()),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('thread', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='seen', to='threads.thread')),
            ],
        ),
        migrations.CreateModel(
            name='Post',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('text', models.TextField()),
                ('quotes_solution', models.BooleanField(default=False)),
                ('at', models.DateTimeField()),
                ('author', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('thread', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='posts', to='threads.thread')),
            ],
        ),
        migrations.CreateModel(
            name='Asked',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='asked_in', to=settings.AUTH_USER_MODEL)),
                ('thread', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='asked', to='threads.thread')),
            ],
        ),
        migrations.AddConstraint(
            model_name='talk',
            constraint=models.UniqueConstraint(fields=('enrolment', 'guardian'), name='talk_once'),
        ),
        migrations.AddIndex(
            model_name='thread',
            index=models.Index(fields=['enrolment', '-id'], name='thread_mine'),
        ),
        migrations.AddIndex(
            model_name='thread',
            index=models.Index(fields=['family', 'state'], name='thread_family'),
        ),
        migrations.AddConstraint(
            model_name='seen',
            constraint=models.UniqueConstraint(fields=('thread', 'person'), name='seen_once'),
        ),
        migrations.AddConstraint(
            model_name='asked',
            constraint=models.UniqueConstraint(fields=('thread', 'person'), name='asked_once'),
        ),
    ]
