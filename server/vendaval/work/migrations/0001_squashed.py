from vendaval.shared.triggers import after_insert, append_only
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("work", "0001_initial"), ("work", "0002_alter_run_purpose"), ("work", "0003_spell"), ("work", "0004_try_working_alter_helpopened_kind"), ("work", "0005_alter_run_purpose"), ("work", "0006_tests"), ("work", "0007_time_of_practice_learners"), ("work", "0008_regrading"), ("work", "0009_in_open_test"), ("work", "0010_sitting_steps")]

    initial = True

    dependencies = [
        ('bank', '0001_squashed'),
        ('groups', '0002_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Presentation',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('seed', models.PositiveSmallIntegerField()),
                ('order', models.PositiveIntegerField(default=0)),
                ('number', models.PositiveIntegerField()),
                ('why', models.JSONField(default=dict)),
                ('tried', models.PositiveSmallIntegerField(default=0)),
                ('hints_shown', models.PositiveSmallIntegerField(default=0)),
                ('helped', models.BooleanField(default=False)),
                ('made_at', models.DateTimeField()),
                ('shown_at', models.DateTimeField(null=True)),
                ('closed_at', models.DateTimeField(null=True)),
                ('closing', models.CharField(blank=True, choices=[('answered', 'Answered'), ('not_taught', 'Not Taught'), ('swapped', 'Swapped'), ('replaced', 'Replaced'), ('shown', 'Shown'), ('withdrawn', 'Withdrawn')], max_length=12)),
                ('telling', models.CharField(choices=[('nothing', 'Nothing'), ('outcome', 'Outcome'), ('answers', 'Answers'), ('all', 'All')], default='all', max_length=8)),
                ('in_open_test', models.BooleanField(default=False)),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.familyrevision')),
                ('root', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='work.presentation')),
            ],
        ),
        migrations.CreateModel(
            name='Run',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('purpose', models.CharField(choices=[('diagnostic', 'Diagnostic'), ('practice', 'Practice'), ('missed', 'Missed'), ('recheck', 'Recheck'), ('quiz', 'Quiz'), ('test', 'Test')], max_length=12)),
                ('title', models.CharField(max_length=120)),
                ('scope', models.JSONField(default=dict)),
                ('note', models.JSONField(default=dict)),
                ('presented', models.PositiveIntegerField(default=0)),
                ('answered', models.PositiveIntegerField(default=0)),
                ('started_at', models.DateTimeField()),
                ('touched_at', models.DateTimeField()),
                ('deadline_at', models.DateTimeField(null=True)),
                ('ended_at', models.DateTimeField(null=True)),
                ('spell', models.PositiveIntegerField(null=True)),
                ('current', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='work.presentation')),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='runs', to='groups.enrolment')),
            ],
        ),
        migrations.AddField(
            model_name='presentation',
            name='run',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='presentations', to='work.run'),
        ),
        migrations.CreateModel(
            name='Try',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('replay_key', models.CharField(max_length=64)),
                ('kind', models.CharField(choices=[('answer', 'Answer'), ('not_taught', 'Not Taught'), ('taken_back', 'Taken Back'), ('set_aside', 'Set Aside')], max_length=12)),
                ('number', models.PositiveSmallIntegerField()),
                ('response', models.JSONField(default=dict)),
                ('first', models.BooleanField(default=False)),
                ('confidence', models.PositiveSmallIntegerField(null=True)),
                ('working', models.JSONField(null=True)),
                ('seconds', models.FloatField()),
                ('reply', models.JSONField(null=True)),
                ('at', models.DateTimeField()),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tries', to='groups.enrolment')),
                ('family', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.family')),
                ('leads_to', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='work.presentation')),
                ('presentation', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tries', to='work.presentation')),
                ('takes_back', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='work.try')),
                ('topic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic')),
            ],
        ),
        migrations.CreateModel(
            name='Mark',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('part', models.CharField(max_length=30)),
                ('verdict', models.CharField(max_length=12)),
                ('share', models.CharField(blank=True, max_length=40)),
                ('canonical', models.TextField(blank=True)),
                ('says', models.TextField(blank=True)),
                ('rule', models.CharField(choices=[('key', 'Key'), ('person', 'Person'), ('regrade', 'Regrade')], max_length=10)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('replaces', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='work.mark')),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.familyrevision')),
                ('tried', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='marks', to='work.try')),
            ],
        ),
        migrations.CreateModel(
            name='HelpOpened',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('hint', 'Hint'), ('solution', 'Solution'), ('study', 'Study'), ('answer', 'Answer')], max_length=10)),
                ('number', models.PositiveSmallIntegerField(default=0)),
                ('topic', models.SlugField(blank=True)),
                ('section', models.SlugField(blank=True)),
                ('at', models.DateTimeField()),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='help', to='groups.enrolment')),
                ('presentation', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='help', to='work.presentation')),
            ],
            options={
                'indexes': [models.Index(fields=['enrolment', 'topic', 'section'], name='help_section')],
            },
        ),
        migrations.AddIndex(
            model_name='run',
            index=models.Index(fields=['enrolment', 'ended_at', '-touched_at'], name='run_open'),
        ),
        migrations.AddIndex(
            model_name='run',
            index=models.Index(fields=['deadline_at'], name='run_deadline'),
        ),
        migrations.AddIndex(
            model_name='presentation',
            index=models.Index(condition=models.Q(('in_open_test', True)), fields=['run'], name='question_in_open_test'),
        ),
        migrations.AddConstraint(
            model_name='presentation',
            constraint=models.UniqueConstraint(fields=('run', 'number'), name='question_number'),
        ),
        migrations.AddIndex(
            model_name='try',
            index=models.Index(fields=['enrolment', 'topic', '-at'], name='try_topic'),
        ),
        migrations.AddConstraint(
            model_name='try',
            constraint=models.UniqueConstraint(fields=('enrolment', 'replay_key'), name='try_replay_key'),
        ),
        migrations.AddConstraint(
            model_name='try',
            constraint=models.UniqueConstraint(fields=('presentation', 'number'), name='try_number'),
        ),
        append_only("work_try"),
        append_only("work_mark"),
        append_only("work_helpopened"),
        # How long a question usually takes: what practice learners take says nothing about it.
        after_insert(
            "work_try",
            "work_try_family_time",
            'NEW."first"',
            "UPDATE bank_family SET timed_answers = timed_answers + 1, timed_seconds = "
            "timed_seconds + CASE WHEN NEW.seconds > 600.0 THEN 600.0 ELSE NEW.seconds END "
            "WHERE id = NEW.family_id AND NOT EXISTS (SELECT 1 FROM groups_enrolment JOIN "
            "people_user ON people_user.id = groups_enrolment.person_id WHERE "
            "groups_enrolment.id = NEW.enrolment_id AND people_user.practice_for_id IS NOT NULL)",
        ),
    ]
