import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("groups", "0002_aims_and_codes")]

    initial = True

    dependencies = [
        ('bank', '0002_squashed'),
        ('groups', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='enrolment',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='enrolments', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='group',
            name='course',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='groups', to='bank.course'),
        ),
        migrations.AddField(
            model_name='groupmember',
            name='enrolment',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='groups', to='groups.enrolment'),
        ),
        migrations.AddField(
            model_name='groupmember',
            name='group',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='members', to='groups.group'),
        ),
        migrations.AddField(
            model_name='grouptutor',
            name='group',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tutors', to='groups.group'),
        ),
        migrations.AddField(
            model_name='grouptutor',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tutored', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='joincode',
            name='group',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='codes', to='groups.group'),
        ),
        migrations.AddField(
            model_name='joincode',
            name='made_by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddConstraint(
            model_name='enrolment',
            constraint=models.UniqueConstraint(fields=('person', 'course'), name='enrolled_once'),
        ),
        migrations.AddConstraint(
            model_name='groupmember',
            constraint=models.UniqueConstraint(condition=models.Q(('until', None)), fields=('group', 'enrolment'), name='member_once'),
        ),
        migrations.AddConstraint(
            model_name='grouptutor',
            constraint=models.UniqueConstraint(condition=models.Q(('until', None)), fields=('group', 'person'), name='tutor_once'),
        ),
    ]
