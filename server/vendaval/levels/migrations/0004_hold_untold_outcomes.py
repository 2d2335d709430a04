from django.db import migrations
from django.db.models import Exists, OuterRef

SAME = ("enrolment_id", "tried_id", "family_id", "topic_id", "of", "weight", "reason")
SAME += ("sitting", "days", "learning", "at")


def hold(apps, schema_editor):
    """Answers of tests whose right or wrong may not be told yet counted at once; from now on they
    wait. The log is only added to: each gets an observation in its place that waits."""
    observations = apps.get_model("levels", "Observation").objects
    later = observations.filter(replaces=OuterRef("pk"))
    counted = observations.filter(
        ~Exists(later), counts=True, tried__presentation__telling="nothing"
    ).select_related("family", "tried__presentation")
    states = apps.get_model("levels", "LearnerState").objects
    for seen in counted.iterator(chunk_size=500):
        kept = {name: getattr(seen, name) for name in SAME}
        observations.create(**kept, replaces=seen, outcome=None, counts=False)
        state = states.get(enrolment=seen.enrolment_id)
        history = state.families.get(seen.family.key)
        if history is not None:
            seed = seen.tried.presentation.seed
            history["count"] = max(0, history.get("count", 0) - 1)
            history["right"] = [one for one in history.get("right", []) if one != seed]
        state.base, state.version = "", state.version + 1
        state.save(update_fields=["families", "base", "version"])


class Migration(migrations.Migration):
    dependencies = [("levels", "0003_voided"), ("work", "0009_in_open_test")]

    operations = [migrations.RunPython(hold, migrations.RunPython.noop)]
