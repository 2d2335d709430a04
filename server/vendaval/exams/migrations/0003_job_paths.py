"""Jobs that wait for an attempt's end are found under their new name."""

from django.db import migrations

OLD, NEW = "vendaval.exams.jobs.hand_in_at_the_end", "vendaval.exams.taking.jobs.hand_in_at_the_end"


def rename(apps, schema_editor):
    jobs = apps.get_model("django_tasks_database", "DBTaskResult")
    jobs.objects.filter(task_path=OLD).update(task_path=NEW)


def rename_back(apps, schema_editor):
    jobs = apps.get_model("django_tasks_database", "DBTaskResult")
    jobs.objects.filter(task_path=NEW).update(task_path=OLD)


class Migration(migrations.Migration):
    dependencies = [
        ("exams", "0002_squashed"),
        ("django_tasks_database", "__first__"),
    ]
    operations = [migrations.RunPython(rename, rename_back)]
