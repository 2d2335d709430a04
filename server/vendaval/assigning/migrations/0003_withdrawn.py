from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("assigning", "0002_squashed")]
    operations = [migrations.RenameField("task", "taken_back_at", "withdrawn_at")]
