import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("keeping", "0003_copies_of_a_school")]

    initial = True

    dependencies = [
        ('privacy', '0001_squashed'),
        ('people', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='datacopy',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='datacopy',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='data_copies', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='datacopy',
            name='school',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, to='people.school'),
        ),
        migrations.AddConstraint(
            model_name='datacopy',
            constraint=models.UniqueConstraint(condition=models.Q(('ready_at', None), ('school', None)), fields=('person',), name='own_copy_once_at_a_time'),
        ),
        migrations.AddConstraint(
            model_name='datacopy',
            constraint=models.UniqueConstraint(condition=models.Q(('ready_at', None)), fields=('person', 'school'), name='office_copy_once_at_a_time'),
        ),
    ]
