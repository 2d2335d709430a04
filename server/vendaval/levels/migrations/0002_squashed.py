from vendaval.shared.triggers import append_only
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("levels", "0004_hold_untold_outcomes")]

    initial = True

    dependencies = [
        ('bank', '0002_squashed'),
        ('groups', '0002_squashed'),
        ('levels', '0001_squashed'),
        ('work', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='observation',
            name='tried',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='observations', to='work.try'),
        ),
        migrations.AddField(
            model_name='targetmet',
            name='enrolment',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='targets', to='groups.enrolment'),
        ),
        migrations.AddField(
            model_name='targetmet',
            name='topic',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.topic'),
        ),
        migrations.AddField(
            model_name='voided',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='voided',
            name='tried',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='voided', to='work.try'),
        ),
        migrations.AddIndex(
            model_name='levelrecord',
            index=models.Index(fields=['enrolment', 'topic', '-id'], name='level_latest'),
        ),
        migrations.AddIndex(
            model_name='observation',
            index=models.Index(fields=['enrolment', 'topic', '-id'], name='observed_topic'),
        ),
        migrations.AddConstraint(
            model_name='targetmet',
            constraint=models.UniqueConstraint(fields=('enrolment', 'topic'), name='met_once'),
        ),
        migrations.AddConstraint(
            model_name='voided',
            constraint=models.UniqueConstraint(condition=models.Q(('until', None)), fields=('tried',), name='voided_once'),
        ),
        append_only("levels_observation"),
        append_only("levels_levelrecord"),
    ]
