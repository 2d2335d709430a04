import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("review", "0001_initial"), ("review", "0002_mends_counted"), ("review", "0003_studied"), ("review", "0004_dropped")]

    initial = True

    dependencies = [
        ('bank', '0002_squashed'),
        ('groups', '0002_squashed'),
        ('work', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Miss',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('mends', models.PositiveSmallIntegerField(default=0)),
                ('mends_sitting', models.PositiveIntegerField(default=0)),
                ('state', models.CharField(choices=[('open', 'Open'), ('mended', 'Mended'), ('set_aside', 'Set Aside'), ('dropped', 'Dropped')], default='open', max_length=10)),
                ('sure', models.PositiveSmallIntegerField(default=0)),
                ('failed_mends', models.PositiveSmallIntegerField(default=0)),
                ('opened_at', models.DateTimeField()),
                ('closed_at', models.DateTimeField(null=True)),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='misses', to='groups.enrolment')),
                ('family', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.family')),
                ('mend', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='work.presentation')),
                ('presentation', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='work.presentation')),
                ('topic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic')),
            ],
            options={
                'indexes': [models.Index(fields=['enrolment', 'state', '-sure', '-opened_at'], name='miss_open')],
                'constraints': [models.UniqueConstraint(condition=models.Q(('state', 'open')), fields=('enrolment', 'family'), name='one_open_miss')],
            },
        ),
        migrations.CreateModel(
            name='Studied',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('topic', models.SlugField()),
                ('section', models.SlugField()),
                ('at', models.DateTimeField()),
                ('undone_at', models.DateTimeField(null=True)),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='studied', to='groups.enrolment')),
            ],
            options={
                'constraints': [models.UniqueConstraint(condition=models.Q(('undone_at', None)), fields=('enrolment', 'topic', 'section'), name='studied_once')],
            },
        ),
    ]
