"""How much of a question may be shown: `telling` becomes `visibility`."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("work", "0002_undone")]
    operations = [migrations.RenameField("presentation", "telling", "visibility")]
