import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("assigning", "0002_taken_back")]

    initial = True

    dependencies = [
        ('assigning', '0001_squashed'),
        ('groups', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='task',
            name='given_by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='task',
            name='group',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='%(class)ss', to='groups.group'),
        ),
        migrations.AddField(
            model_name='task',
            name='learners',
            field=models.ManyToManyField(related_name='+', to='groups.enrolment'),
        ),
    ]
