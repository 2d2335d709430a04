from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("keeping", "0001_initial"), ("keeping", "0002_plain_text")]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='DataCopy',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('audience', models.CharField(choices=[('person', 'Person'), ('office', 'Office')], max_length=6)),
                ('asked_at', models.DateTimeField()),
                ('ready_at', models.DateTimeField(null=True)),
                ('gone_at', models.DateTimeField(null=True)),
                ('size', models.PositiveBigIntegerField(default=0)),
                ('file', models.CharField(blank=True, max_length=80)),
            ],
        ),
    ]
