"""What was the app `keeping` stands in tables and jobs of its new name."""

from django.db import migrations

OLD, NEW = "keeping_datacopy", "privacy_datacopy"
OLD_JOB, NEW_JOB = "vendaval.keeping.jobs.make_copy", "vendaval.privacy.jobs.make_copy"


def rename(apps, schema_editor):
    tables = schema_editor.connection.introspection.table_names()
    if OLD in tables:
        schema_editor.alter_db_table(apps.get_model("privacy", "DataCopy"), OLD, NEW)
    jobs = apps.get_model("django_tasks_database", "DBTaskResult")
    jobs.objects.filter(task_path=OLD_JOB).update(task_path=NEW_JOB)


class Migration(migrations.Migration):
    dependencies = [("privacy", "0002_squashed"), ("django_tasks_database", "__first__")]
    operations = [migrations.RunPython(rename, migrations.RunPython.noop)]
