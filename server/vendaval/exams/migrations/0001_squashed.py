import vendaval_core.assessment.paper
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("exams", "0001_tests"), ("exams", "0002_paper"), ("exams", "0003_levels"), ("exams", "0004_given_to_some"), ("exams", "0005_marking"), ("exams", "0006_regrading"), ("exams", "0007_mirror_early"), ("exams", "0008_sitting_steps"), ("exams", "0009_mark_taken_back"), ("exams", "0010_taken_back")]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='Allowance',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('times', models.FloatField(default=1.0)),
                ('minutes', models.FloatField(default=0.0)),
                ('attempts', models.PositiveSmallIntegerField(default=0)),
                ('opens', models.DateTimeField(null=True)),
                ('due', models.DateTimeField(null=True)),
                ('closes', models.DateTimeField(null=True)),
                ('why', models.CharField(max_length=200)),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='AnswerSoFar',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveSmallIntegerField()),
                ('counter', models.PositiveIntegerField(default=0)),
                ('data', models.JSONField(default=dict)),
                ('seen', models.BooleanField(default=False)),
                ('seconds', models.FloatField(default=0)),
                ('saved_at', models.DateTimeField(null=True)),
                ('late', models.JSONField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name='Assignment',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('opens', models.DateTimeField(null=True)),
                ('due', models.DateTimeField(null=True)),
                ('closes', models.DateTimeField(null=True)),
                ('whole_group', models.BooleanField(default=True)),
                ('first', models.JSONField(default=dict)),
                ('given_at', models.DateTimeField()),
                ('taken_back_at', models.DateTimeField(null=True)),
                ('pages', models.CharField(choices=[('none', 'none'), ('may', 'may'), ('must', 'must')], default=vendaval_core.assessment.paper.PagesWanted['NONE'], max_length=4)),
                ('pages_minutes', models.PositiveSmallIntegerField(default=20)),
                ('mirror_early', models.BooleanField(default=False)),
                ('prolonged_until', models.DateTimeField(null=True)),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Attempt',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('version', models.PositiveIntegerField(default=0)),
                ('number', models.PositiveSmallIntegerField()),
                ('rules', models.JSONField(default=dict)),
                ('places', models.JSONField(default=dict)),
                ('standing', models.JSONField(default=dict)),
                ('confirmed_at', models.DateTimeField()),
                ('loaded_at', models.DateTimeField(null=True)),
                ('due', models.DateTimeField(null=True)),
                ('handed_in_at', models.DateTimeField(null=True)),
                ('marked', models.BooleanField(default=False)),
                ('by_hand', models.PositiveSmallIntegerField(null=True)),
                ('total', models.JSONField(null=True)),
                ('out_at', models.DateTimeField(null=True)),
                ('receipt', models.CharField(blank=True, max_length=9)),
                ('paper', models.JSONField(default=dict)),
                ('levels', models.JSONField(default=dict)),
            ],
        ),
        migrations.CreateModel(
            name='Criteria',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('family', models.CharField(max_length=60)),
                ('part', models.CharField(max_length=30)),
                ('criteria', models.JSONField(default=dict)),
            ],
        ),
        migrations.CreateModel(
            name='Intervention',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('more_time', 'given more time'), ('paused', 'paused'), ('resumed', 'resumed'), ('reopened', 'reopened'), ('handed_in', 'handed in by a tutor')], max_length=9)),
                ('why', models.CharField(blank=True, max_length=200)),
                ('says', models.CharField(blank=True, max_length=200)),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='Marking',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('part', models.CharField(max_length=30)),
                ('role', models.CharField(choices=[('first', 'first marker'), ('second', 'second marker'), ('agreed', 'agreed')], max_length=6)),
                ('data', models.JSONField(default=dict)),
                ('at', models.DateTimeField()),
                ('taken_back_at', models.DateTimeField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name='Page',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveSmallIntegerField()),
                ('questions', models.JSONField(default=dict)),
                ('turns', models.PositiveSmallIntegerField(default=0)),
                ('came', models.CharField(choices=[('phone', 'phone'), ('camera', 'camera'), ('file', 'file')], max_length=6)),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='Regrade',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('family', models.CharField(max_length=60)),
                ('way', models.JSONField(default=dict)),
                ('why', models.CharField(max_length=400)),
                ('at', models.DateTimeField()),
                ('state', models.CharField(choices=[('waiting', 'waiting to be applied'), ('applying', 'being applied'), ('applied', 'applied'), ('undoing', 'being undone'), ('undone', 'undone')], default='waiting', max_length=8)),
                ('of', models.PositiveIntegerField(default=0)),
                ('done', models.PositiveIntegerField(default=0)),
                ('undone_at', models.DateTimeField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name='RegradedAttempt',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('before', models.JSONField(null=True)),
                ('after', models.JSONField(null=True)),
                ('undone', models.BooleanField(default=False)),
            ],
        ),
        migrations.CreateModel(
            name='SecondMarker',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
            ],
        ),
        migrations.CreateModel(
            name='Test',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('title', models.CharField(max_length=120)),
                ('directions', models.TextField(blank=True)),
                ('materials', models.TextField(blank=True)),
                ('composition', models.JSONField(default=dict)),
                ('rules', models.JSONField(default=dict)),
                ('made_at', models.DateTimeField()),
            ],
        ),
    ]
