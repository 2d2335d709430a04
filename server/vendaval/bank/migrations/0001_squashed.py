from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("bank", "0001_initial"), ("bank", "0002_resources")]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='Course',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.SlugField(unique=True)),
                ('title', models.CharField(max_length=120)),
                ('open_to_all', models.BooleanField(default=False)),
                ('prior', models.JSONField(null=True)),
                ('rehearsal', models.JSONField(default=dict)),
                ('files', models.CharField(default='', max_length=64)),
                ('content', models.CharField(default='', max_length=64)),
                ('digest', models.CharField(default='', max_length=64)),
            ],
        ),
        migrations.CreateModel(
            name='Family',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.SlugField(max_length=60)),
                ('live', models.BooleanField(default=True)),
                ('pack', models.SlugField(blank=True)),
                ('timed_answers', models.PositiveIntegerField(default=0)),
                ('timed_seconds', models.FloatField(default=0.0)),
            ],
        ),
        migrations.CreateModel(
            name='FamilyCurve',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('a', models.FloatField()),
                ('b', models.FloatField()),
                ('c', models.FloatField()),
                ('steps', models.JSONField(default=dict)),
                ('errors', models.JSONField(default=dict)),
                ('answers', models.PositiveIntegerField()),
                ('calibration', models.PositiveIntegerField()),
                ('applied_by', models.CharField(max_length=150)),
                ('applied_at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='FamilyRevision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('data', models.JSONField(null=True)),
                ('digest', models.CharField(max_length=64)),
            ],
        ),
        migrations.CreateModel(
            name='Resource',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.SlugField()),
                ('title', models.CharField(max_length=120)),
                ('kind', models.CharField(choices=[('video', 'Video'), ('file', 'File'), ('link', 'Link')], max_length=5)),
                ('section', models.SlugField()),
                ('minutes', models.PositiveSmallIntegerField()),
                ('file', models.CharField(blank=True, max_length=120)),
                ('captions', models.CharField(blank=True, max_length=120)),
                ('url', models.CharField(blank=True, max_length=300)),
                ('position', models.PositiveSmallIntegerField()),
            ],
        ),
        migrations.CreateModel(
            name='StudySection',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.SlugField()),
                ('title', models.CharField(max_length=160)),
                ('markdown', models.TextField()),
                ('figure', models.JSONField(null=True)),
                ('minutes', models.PositiveSmallIntegerField()),
                ('position', models.PositiveSmallIntegerField()),
            ],
        ),
        migrations.CreateModel(
            name='Subject',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.SlugField()),
                ('title', models.CharField(max_length=120)),
                ('position', models.PositiveSmallIntegerField()),
            ],
        ),
        migrations.CreateModel(
            name='Topic',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.SlugField()),
                ('title', models.CharField(max_length=120)),
                ('position', models.PositiveSmallIntegerField()),
                ('target', models.FloatField()),
                ('importance', models.FloatField()),
                ('after', models.JSONField(default=dict)),
                ('pack', models.SlugField(blank=True)),
                ('digest', models.CharField(default='', max_length=64)),
            ],
        ),
    ]
