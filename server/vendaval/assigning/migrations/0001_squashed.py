from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("assigning", "0001_initial")]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='Task',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('opens', models.DateTimeField(null=True)),
                ('due', models.DateTimeField(null=True)),
                ('closes', models.DateTimeField(null=True)),
                ('whole_group', models.BooleanField(default=True)),
                ('first', models.JSONField(default=dict)),
                ('given_at', models.DateTimeField()),
                ('taken_back_at', models.DateTimeField(null=True)),
                ('title', models.CharField(max_length=120)),
                ('goal', models.JSONField(default=dict)),
            ],
            options={
                'abstract': False,
            },
        ),
    ]
