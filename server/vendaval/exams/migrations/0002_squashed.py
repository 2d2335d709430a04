import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("exams", "0011_by_hand")]

    initial = True

    dependencies = [
        ('bank', '0002_squashed'),
        ('exams', '0001_squashed'),
        ('groups', '0001_squashed'),
        ('work', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='allowance',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='allowance',
            name='enrolment',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='groups.enrolment'),
        ),
        migrations.AddField(
            model_name='answersofar',
            name='presentation',
            field=models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='so_far', to='work.presentation'),
        ),
        migrations.AddField(
            model_name='assignment',
            name='given_by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='assignment',
            name='group',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='%(class)ss', to='groups.group'),
        ),
        migrations.AddField(
            model_name='assignment',
            name='learners',
            field=models.ManyToManyField(related_name='+', to='groups.enrolment'),
        ),
        migrations.AddField(
            model_name='allowance',
            name='assignment',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='allowances', to='exams.assignment'),
        ),
        migrations.AddField(
            model_name='attempt',
            name='assignment',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to='exams.assignment'),
        ),
        migrations.AddField(
            model_name='attempt',
            name='enrolment',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to='groups.enrolment'),
        ),
        migrations.AddField(
            model_name='attempt',
            name='run',
            field=models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='attempt', to='work.run'),
        ),
        migrations.AddField(
            model_name='answersofar',
            name='attempt',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='answers', to='exams.attempt'),
        ),
        migrations.AddField(
            model_name='intervention',
            name='attempt',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='interventions', to='exams.attempt'),
        ),
        migrations.AddField(
            model_name='intervention',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='marking',
            name='answer',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='markings', to='exams.answersofar'),
        ),
        migrations.AddField(
            model_name='marking',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.CreateModel(
            name='PageImage',
            fields=[
                ('page', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='image', serialize=False, to='exams.page')),
                ('full', models.BinaryField()),
                ('small', models.BinaryField()),
            ],
        ),
        migrations.AddField(
            model_name='page',
            name='attempt',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pages', to='exams.attempt'),
        ),
        migrations.AddField(
            model_name='regrade',
            name='assignment',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='regrades', to='exams.assignment'),
        ),
        migrations.AddField(
            model_name='regrade',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='regrade',
            name='undone_by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='regradedattempt',
            name='attempt',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='regrades', to='exams.attempt'),
        ),
        migrations.AddField(
            model_name='regradedattempt',
            name='regrade',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to='exams.regrade'),
        ),
        migrations.AddField(
            model_name='secondmarker',
            name='assignment',
            field=models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='second_marker', to='exams.assignment'),
        ),
        migrations.AddField(
            model_name='secondmarker',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='test',
            name='author',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='test',
            name='course',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tests', to='bank.course'),
        ),
        migrations.AddField(
            model_name='test',
            name='mirror_of',
            field=models.OneToOneField(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='mirror', to='exams.test'),
        ),
        migrations.AddField(
            model_name='criteria',
            name='test',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='criteria', to='exams.test'),
        ),
        migrations.AddField(
            model_name='attempt',
            name='test',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to='exams.test'),
        ),
        migrations.AddField(
            model_name='assignment',
            name='test',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='exams.test'),
        ),
        migrations.AddConstraint(
            model_name='answersofar',
            constraint=models.UniqueConstraint(fields=('attempt', 'number'), name='answer_place'),
        ),
        migrations.AddIndex(
            model_name='marking',
            index=models.Index(fields=['answer', 'part', 'role', '-id'], name='marking_newest'),
        ),
        migrations.AddConstraint(
            model_name='regradedattempt',
            constraint=models.UniqueConstraint(fields=('regrade', 'attempt'), name='regraded_once'),
        ),
        migrations.AddConstraint(
            model_name='criteria',
            constraint=models.UniqueConstraint(fields=('test', 'family', 'part'), name='criteria_once'),
        ),
        migrations.AddConstraint(
            model_name='attempt',
            constraint=models.UniqueConstraint(fields=('enrolment', 'test', 'assignment', 'number'), name='attempt_number'),
        ),
        migrations.AddConstraint(
            model_name='attempt',
            constraint=models.UniqueConstraint(condition=models.Q(('handed_in_at', None)), fields=('enrolment', 'test'), name='attempt_under_way'),
        ),
    ]
