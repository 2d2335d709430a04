from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("exams", "0003_job_paths")]
    operations = [
        migrations.RenameField("assignment", "taken_back_at", "withdrawn_at"),
        migrations.RenameField("marking", "taken_back_at", "withdrawn_at"),
        migrations.RenameField("attempt", "out_at", "released_at"),
    ]
