import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("levels", "0001_initial"), ("levels", "0002_pace"), ("levels", "0003_voided")]

    initial = True

    dependencies = [
        ('bank', '0001_squashed'),
        ('groups', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='TargetMet',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('level', models.FloatField()),
                ('chance', models.FloatField()),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='Voided',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('why', models.CharField(max_length=200)),
                ('at', models.DateTimeField()),
                ('until', models.DateTimeField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name='LearnerState',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('version', models.PositiveIntegerField(default=0)),
                ('state', models.BinaryField(default=bytes)),
                ('families', models.JSONField(default=dict)),
                ('topics', models.JSONField(default=dict)),
                ('standing', models.JSONField(default=dict)),
                ('to_study', models.JSONField(default=dict)),
                ('digest', models.CharField(blank=True, max_length=64)),
                ('base', models.CharField(blank=True, max_length=64)),
                ('presented', models.PositiveIntegerField(default=0)),
                ('answers', models.PositiveIntegerField(default=0)),
                ('sitting', models.PositiveIntegerField(default=0)),
                ('idle_days', models.FloatField(default=0.0)),
                ('pace', models.JSONField(default=dict)),
                ('freshened_at', models.DateTimeField(null=True)),
                ('last_answer_at', models.DateTimeField(null=True)),
                ('enrolment', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='state', to='groups.enrolment')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='LevelRecord',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('level', models.FloatField()),
                ('low', models.FloatField()),
                ('high', models.FloatField()),
                ('sd', models.FloatField()),
                ('target', models.FloatField()),
                ('chance', models.FloatField()),
                ('reason', models.CharField(choices=[('answer', 'Answer'), ('calibration', 'Calibration')], default='answer', max_length=12)),
                ('at', models.DateTimeField()),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='levels', to='groups.enrolment')),
                ('topic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic')),
            ],
        ),
        migrations.CreateModel(
            name='Observation',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('outcome', models.PositiveSmallIntegerField(null=True)),
                ('of', models.PositiveSmallIntegerField()),
                ('counts', models.BooleanField(default=True)),
                ('weight', models.FloatField()),
                ('reason', models.CharField(max_length=20)),
                ('sitting', models.PositiveIntegerField()),
                ('days', models.FloatField(default=0.0)),
                ('learning', models.BooleanField(default=False)),
                ('before', models.JSONField(null=True)),
                ('after', models.JSONField(null=True)),
                ('at', models.DateTimeField()),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='observations', to='groups.enrolment')),
                ('family', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.family')),
                ('replaces', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='levels.observation')),
                ('topic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic')),
            ],
        ),
    ]
