from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("notices", "0001_initial"), ("notices", "0002_handed_in"), ("notices", "0003_work_set"), ("notices", "0004_marking"), ("notices", "0005_regrading"), ("notices", "0006_challenge"), ("notices", "0007_talks")]

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='Digest',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='Letter',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('to', models.CharField(max_length=254)),
                ('subject', models.CharField(max_length=200)),
                ('body', models.TextField()),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='NotByMail',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('help_asked', 'Somebody asks for help'), ('answered', 'My question has an answer'), ('fault', 'Somebody reports a faulty question'), ('settled', 'News about a question I reported'), ('target_met', 'I reach a target'), ('recheck_due', 'It’s time to check a topic again'), ('handed_in', 'I’ve handed in a test'), ('marks_out', 'Marks for one of my tests are released'), ('regraded', 'A mark in one of my tests changes'), ('work_set', 'I get new work'), ('due_soon', 'My work is due tomorrow'), ('talk', 'A guardian or a tutor writes about a learner'), ('marking', 'A test needs my second marking'), ('challenge', 'Set work is too hard or too easy for a learner')], max_length=12)),
            ],
        ),
        migrations.CreateModel(
            name='Notice',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('help_asked', 'Somebody asks for help'), ('answered', 'My question has an answer'), ('fault', 'Somebody reports a faulty question'), ('settled', 'News about a question I reported'), ('target_met', 'I reach a target'), ('recheck_due', 'It’s time to check a topic again'), ('handed_in', 'I’ve handed in a test'), ('marks_out', 'Marks for one of my tests are released'), ('regraded', 'A mark in one of my tests changes'), ('work_set', 'I get new work'), ('due_soon', 'My work is due tomorrow'), ('talk', 'A guardian or a tutor writes about a learner'), ('marking', 'A test needs my second marking'), ('challenge', 'Set work is too hard or too easy for a learner')], max_length=12)),
                ('title', models.CharField(max_length=160)),
                ('text', models.CharField(blank=True, max_length=400)),
                ('path', models.CharField(max_length=200)),
                ('at', models.DateTimeField()),
                ('read_at', models.DateTimeField(null=True)),
                ('mailed_at', models.DateTimeField(null=True)),
            ],
        ),
    ]
