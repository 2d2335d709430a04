from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("shared", "0001_heartbeat"), ("shared", "0002_office"), ("shared", "0003_worker")]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='CheckDone',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('what', models.SlugField(unique=True)),
                ('at', models.DateTimeField()),
                ('well', models.BooleanField()),
                ('says', models.CharField(max_length=300)),
            ],
        ),
        migrations.CreateModel(
            name='Heartbeat',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='Worker',
            fields=[
                ('name', models.CharField(max_length=64, primary_key=True, serialize=False)),
                ('at', models.DateTimeField()),
            ],
        ),
    ]
