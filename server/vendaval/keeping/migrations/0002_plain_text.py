import json

from django.db import migrations, models
from django.db.models.functions import Cast

from vendaval.shared.plain_text import plain_text, plain_values
from vendaval.shared.triggers import erasing

# What people typed, by app and model. The log of answers and marks is cleaned too: what is taken
# out are signs that nobody sees.
TYPED = {
    "people": ("User", "School"),
    "groups": ("Group",),
    "work": ("Try", "Mark"),
    "exams": ("Test", "AnswerSoFar", "Marking", "Allowance", "Regrade"),
    "assigning": ("Task",),
    "threads": ("Thread", "Post", "TalkPost"),
    "tutor": ("Note", "LookedAt"),
    "notices": ("Notice", "Letter"),
    "levels": ("Voided",),
}
# No database holds half a surrogate pair, nor can be asked for one.
TYPED_SIGNS = "[\x01-\x08\x0b\x0c\x0e-\x1f\x7f]"
# As JSON writes them.
ESCAPED = r"\\u00(0[0-8bcef]|1[0-9a-f]|7f)|\\ud[89a-f]"


def clean(apps, schema_editor):
    """Take out of what was kept before what is refused from now on."""
    with erasing():
        for app, names in TYPED.items():
            for name in names:
                _clean(apps.get_model(app, name))


def _clean(model):
    for field in model._meta.concrete_fields:
        rows = model._base_manager
        if isinstance(field, models.JSONField):
            where = {f"{field.name}_text__regex": ESCAPED}
            as_text = Cast(field.name, models.TextField())
            found = rows.annotate(**{f"{field.name}_text": as_text}).filter(**where)
            for pk, text in found.values_list("pk", f"{field.name}_text"):
                value = plain_values(json.loads(text))
                rows.filter(pk=pk).update(**{field.name: value})
        elif isinstance(field, (models.CharField, models.TextField)):
            found = rows.filter(**{f"{field.name}__regex": TYPED_SIGNS})
            for pk, text in found.values_list("pk", field.name):
                rows.filter(pk=pk).update(**{field.name: plain_text(text)})


class Migration(migrations.Migration):
    dependencies = [
        ("keeping", "0001_initial"),
        ("people", "0008_second_marking"),
        ("groups", "0002_aims_and_codes"),
        ("work", "0009_in_open_test"),
        ("exams", "0007_mirror_early"),
        ("assigning", "0001_initial"),
        ("threads", "0003_talks"),
        ("tutor", "0002_looked_at"),
        ("notices", "0008_second_marking"),
        ("levels", "0004_hold_untold_outcomes"),
    ]

    operations = [migrations.RunPython(clean, migrations.RunPython.noop)]
