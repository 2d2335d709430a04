"""Slips of the finger follow one rule: stored families don't count them themselves any more."""

from django.db import migrations


def without_slips(data):
    """The data of a family without `slips` of its words, in tables too."""
    if isinstance(data, list):
        return [without_slips(one) for one in data]
    if not isinstance(data, dict):
        return data
    words = data.get("kind") == "text_entry" and data.get("value") == "text"
    return {
        key: without_slips(value) for key, value in data.items() if not (words and key == "slips")
    }


def forwards(apps, schema_editor):
    rows = apps.get_model("bank", "FamilyRevision").objects.only("data")
    for row in rows.iterator():
        data = without_slips(row.data)
        if data != row.data:
            row.data = data
            row.save(update_fields=["data"])


class Migration(migrations.Migration):
    dependencies = [("bank", "0002_squashed")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
