import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("today", "0001_step_choices"), ("today", "0002_calendar_key")]

    initial = True

    dependencies = [
        ('groups', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='CalendarKey',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=43, unique=True)),
                ('made_at', models.DateTimeField()),
                ('ended_at', models.DateTimeField(null=True)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='calendar_keys', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='StepChoice',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('step', models.CharField(max_length=140)),
                ('title', models.CharField(max_length=160)),
                ('until', models.DateField(null=True)),
                ('at', models.DateTimeField()),
                ('undone_at', models.DateTimeField(null=True)),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='step_choices', to='groups.enrolment')),
            ],
            options={
                'constraints': [models.UniqueConstraint(condition=models.Q(('undone_at', None)), fields=('enrolment', 'step'), name='one_choice_a_step')],
            },
        ),
    ]
