import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("notices", "0008_second_marking")]

    initial = True

    dependencies = [
        ('notices', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='digest',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='digests', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='notbymail',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='not_by_mail', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='notice',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='notices', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddConstraint(
            model_name='notbymail',
            constraint=models.UniqueConstraint(fields=('person', 'kind'), name='not_by_mail_once'),
        ),
        migrations.AddIndex(
            model_name='notice',
            index=models.Index(fields=['person', 'read_at', '-id'], name='notice_unread'),
        ),
    ]
