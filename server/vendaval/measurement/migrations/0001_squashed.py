import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("measurement", "0001_initial")]

    initial = True

    dependencies = [
        ('bank', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Calibration',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('proposals', models.JSONField()),
                ('responses', models.PositiveIntegerField()),
                ('made_by', models.CharField(max_length=150)),
                ('made_at', models.DateTimeField()),
                ('applied_by', models.CharField(blank=True, max_length=150)),
                ('applied_at', models.DateTimeField(null=True)),
                ('course', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='calibrations', to='bank.course')),
            ],
        ),
    ]
