import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("planning", "0001_initial")]

    initial = True

    dependencies = [
        ('groups', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='PlanForecast',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('made_on', models.DateField()),
                ('exam_on', models.DateField()),
                ('minutes', models.PositiveIntegerField()),
                ('chance', models.FloatField()),
                ('topics', models.JSONField(default=dict)),
                ('at', models.DateTimeField()),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='forecasts', to='groups.enrolment')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('enrolment', 'made_on', 'exam_on'), name='one_forecast_a_day')],
            },
        ),
        migrations.CreateModel(
            name='Spell',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('minutes', models.PositiveSmallIntegerField()),
                ('pieces', models.JSONField(default=dict)),
                ('started_at', models.DateTimeField()),
                ('touched_at', models.DateTimeField()),
                ('ended_at', models.DateTimeField(null=True)),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='spells', to='groups.enrolment')),
            ],
            options={
                'indexes': [models.Index(fields=['enrolment', 'ended_at', '-id'], name='spell_open')],
            },
        ),
    ]
