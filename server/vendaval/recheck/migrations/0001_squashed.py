from vendaval.shared.triggers import append_only
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("recheck", "0001_initial")]

    initial = True

    dependencies = [
        ('bank', '0001_squashed'),
        ('groups', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Recheck',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('held', models.BooleanField()),
                ('level', models.FloatField()),
                ('chance', models.FloatField()),
                ('days', models.FloatField()),
                ('at', models.DateTimeField()),
                ('enrolment', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='rechecks', to='groups.enrolment')),
                ('topic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic')),
            ],
            options={
                'indexes': [models.Index(fields=['enrolment', 'topic', '-id'], name='recheck_latest')],
            },
        ),
        append_only("recheck_recheck"),
    ]
