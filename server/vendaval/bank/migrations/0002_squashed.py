import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("bank", "0003_open_to_all")]

    initial = True

    dependencies = [
        ('bank', '0001_squashed'),
        ('people', '0001_squashed'),
    ]

    operations = [
        migrations.AddField(
            model_name='course',
            name='school',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='courses', to='people.school'),
        ),
        migrations.AddField(
            model_name='family',
            name='course',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='families', to='bank.course'),
        ),
        migrations.AddField(
            model_name='familycurve',
            name='family',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='curves', to='bank.family'),
        ),
        migrations.AddField(
            model_name='familyrevision',
            name='family',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='revisions', to='bank.family'),
        ),
        migrations.AddField(
            model_name='family',
            name='latest',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='bank.familyrevision'),
        ),
        migrations.AddField(
            model_name='subject',
            name='course',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='subjects', to='bank.course'),
        ),
        migrations.AddField(
            model_name='topic',
            name='course',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='topics', to='bank.course'),
        ),
        migrations.AddField(
            model_name='topic',
            name='subject',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='topics', to='bank.subject'),
        ),
        migrations.AddField(
            model_name='studysection',
            name='topic',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sections', to='bank.topic'),
        ),
        migrations.AddField(
            model_name='resource',
            name='topic',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='resources', to='bank.topic'),
        ),
        migrations.AddField(
            model_name='family',
            name='topic',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='families', to='bank.topic'),
        ),
        migrations.AddIndex(
            model_name='familycurve',
            index=models.Index(fields=['family', '-id'], name='curve_latest'),
        ),
        migrations.AddConstraint(
            model_name='familyrevision',
            constraint=models.UniqueConstraint(fields=('family', 'number'), name='revision_number'),
        ),
        migrations.AddConstraint(
            model_name='subject',
            constraint=models.UniqueConstraint(fields=('course', 'key'), name='subject_key'),
        ),
        migrations.AddConstraint(
            model_name='topic',
            constraint=models.UniqueConstraint(fields=('course', 'key'), name='topic_key'),
        ),
        migrations.AddConstraint(
            model_name='studysection',
            constraint=models.UniqueConstraint(fields=('topic', 'key'), name='section_key'),
        ),
        migrations.AddConstraint(
            model_name='resource',
            constraint=models.UniqueConstraint(fields=('topic', 'key'), name='resource_key'),
        ),
        migrations.AddConstraint(
            model_name='family',
            constraint=models.UniqueConstraint(fields=('course', 'key'), name='family_key'),
        ),
    ]
