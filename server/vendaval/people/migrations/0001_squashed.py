from vendaval.shared.triggers import append_only
import django.contrib.auth.models
import django.contrib.auth.validators
import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [("people", "0001_initial"), ("people", "0002_audit_log"), ("people", "0003_guardian_codes"), ("people", "0004_practice_learner"), ("people", "0005_audit_kinds"), ("people", "0006_office"), ("people", "0007_undo_mail"), ("people", "0008_second_marking"), ("people", "0009_allowed"), ("people", "0010_sitting_steps")]

    initial = True

    dependencies = [
        ('auth', '0012_alter_user_first_name_max_length'),
    ]

    operations = [
        migrations.CreateModel(
            name='Erasing',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
            ],
        ),
        migrations.CreateModel(
            name='School',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120, unique=True)),
                ('consent_until', models.PositiveSmallIntegerField(default=16)),
                ('consent_wording', models.TextField(default='I am the guardian of {learner}. I agree that {school} keeps an account for them in Vendaval. It stores their answers, how long each took and the results, so that they, their tutors and I can see their progress. I can withdraw this at any time.')),
            ],
        ),
        migrations.CreateModel(
            name='User',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('password', models.CharField(max_length=128, verbose_name='password')),
                ('last_login', models.DateTimeField(blank=True, null=True, verbose_name='last login')),
                ('is_superuser', models.BooleanField(default=False, help_text='Designates that this user has all permissions without explicitly assigning them.', verbose_name='superuser status')),
                ('username', models.CharField(error_messages={'unique': 'A user with that username already exists.'}, help_text='Required. 150 characters or fewer. Letters, digits and @/./+/-/_ only.', max_length=150, unique=True, validators=[django.contrib.auth.validators.UnicodeUsernameValidator()], verbose_name='username')),
                ('first_name', models.CharField(blank=True, max_length=150, verbose_name='first name')),
                ('last_name', models.CharField(blank=True, max_length=150, verbose_name='last name')),
                ('email', models.EmailField(blank=True, max_length=254, verbose_name='email address')),
                ('is_staff', models.BooleanField(default=False, help_text='Designates whether the user can log into this admin site.', verbose_name='staff status')),
                ('is_active', models.BooleanField(default=True, help_text='Designates whether this user should be treated as active. Unselect this instead of deleting accounts.', verbose_name='active')),
                ('date_joined', models.DateTimeField(default=django.utils.timezone.now, verbose_name='date joined')),
                ('display_name', models.CharField(max_length=80)),
                ('born', models.DateField(blank=True, null=True)),
                ('consented', models.BooleanField(blank=True, null=True)),
                ('demo_note', models.CharField(blank=True, max_length=200)),
                ('groups', models.ManyToManyField(blank=True, help_text='The groups this user belongs to. A user will get all permissions granted to each of their groups.', related_name='user_set', related_query_name='user', to='auth.group', verbose_name='groups')),
                ('practice_for', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='practice_learner', to=settings.AUTH_USER_MODEL)),
                ('user_permissions', models.ManyToManyField(blank=True, help_text='Specific permissions for this user.', related_name='user_set', related_query_name='user', to='auth.permission', verbose_name='user permissions')),
            ],
            options={
                'verbose_name': 'user',
                'verbose_name_plural': 'users',
                'abstract': False,
            },
            managers=[
                ('objects', django.contrib.auth.models.UserManager()),
            ],
        ),
        migrations.CreateModel(
            name='AccountSession',
            fields=[
                ('session_key', models.CharField(max_length=40, primary_key=True, serialize=False, verbose_name='session key')),
                ('session_data', models.TextField(verbose_name='session data')),
                ('expire_date', models.DateTimeField(db_index=True, verbose_name='expire date')),
                ('since', models.DateTimeField(null=True)),
                ('address', models.GenericIPAddressField(null=True)),
                ('agent', models.CharField(blank=True, max_length=200)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='account_sessions', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'verbose_name': 'session',
                'verbose_name_plural': 'sessions',
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Consent',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('agreed', models.BooleanField()),
                ('named', models.CharField(max_length=80)),
                ('wording', models.TextField()),
                ('on_paper', models.BooleanField(default=False)),
                ('at', models.DateTimeField()),
                ('address', models.GenericIPAddressField(null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('learner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='consents', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='GuardianCode',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('code', models.CharField(max_length=8, unique=True)),
                ('made_at', models.DateTimeField()),
                ('ends_at', models.DateTimeField()),
                ('used_at', models.DateTimeField(null=True)),
                ('learner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='guardian_codes', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='SecondFactor',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('secret', models.CharField(max_length=64)),
                ('confirmed_at', models.DateTimeField(null=True)),
                ('last_step', models.BigIntegerField(default=0)),
                ('spares', models.JSONField(default=list)),
                ('person', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='second_factor', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='AuditEntry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('kind', models.CharField(choices=[('signed_in', 'Signed in'), ('sign_in_failed', 'A sign-in failed'), ('sign_in_refused', 'A sign-in was refused'), ('signed_out', 'Signed out'), ('signed_out_all', 'Signed out everywhere'), ('invited', 'Invited'), ('imported', 'A list was imported'), ('accepted', 'An invitation was accepted'), ('reset_asked', 'A new password was asked for'), ('password_set', 'A password was set'), ('mail_changed', 'A mail address was changed'), ('second_factor', 'Two-step sign-in was changed'), ('consent', 'A guardian’s consent'), ('role', 'A role was given or ended'), ('group', 'A group was changed'), ('person', 'A person’s data was changed'), ('closed', 'An account was closed'), ('reopened', 'An account was opened again'), ('settings', 'A setting was changed'), ('job', 'A job was started again'), ('exported', 'Data was exported'), ('erased', 'A person was deleted'), ('guardian_linked', 'A guardian was linked'), ('guardian_ended', 'A guardian’s link ended'), ('joined_group', 'Joined a group'), ('left_group', 'Left a group'), ('practising', 'Became the practice learner'), ('voided', 'An answer no longer counts'), ('handed_in_for', 'Handed in for somebody'), ('allowed', 'A learner got more time or attempts in a test'), ('sitting', 'A running test was paused, resumed or given more time'), ('test_reopened', 'A test was reopened for somebody'), ('waived', 'Marks released without a second marking')], max_length=20)),
                ('named', models.CharField(blank=True, max_length=32)),
                ('address', models.GenericIPAddressField(null=True)),
                ('says', models.CharField(blank=True, max_length=200)),
                ('account', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'indexes': [models.Index(fields=['kind', 'named', 'address', 'at'], name='audit_named'), models.Index(fields=['kind', 'address', 'at'], name='audit_address')],
            },
        ),
        migrations.CreateModel(
            name='Guardianship',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('vouched', models.BooleanField(default=False)),
                ('since', models.DateTimeField()),
                ('until', models.DateTimeField(null=True)),
                ('guardian', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='wards', to=settings.AUTH_USER_MODEL)),
                ('learner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='guardians', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'constraints': [models.UniqueConstraint(condition=models.Q(('until', None)), fields=('guardian', 'learner'), name='guardian_once')],
            },
        ),
        migrations.CreateModel(
            name='OneTimeLink',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('welcome', 'Welcome'), ('reset', 'Reset'), ('mail', 'Mail'), ('undo', 'Undo Mail')], max_length=8)),
                ('mail', models.EmailField(max_length=254)),
                ('nonce', models.CharField(max_length=32)),
                ('made_at', models.DateTimeField()),
                ('ends_at', models.DateTimeField()),
                ('mailed_at', models.DateTimeField(null=True)),
                ('used_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='one_time_links', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'indexes': [models.Index(fields=['person', 'kind'], name='link_of_person')],
            },
        ),
        migrations.CreateModel(
            name='Membership',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('role', models.CharField(choices=[('learner', 'Learner'), ('guardian', 'Guardian'), ('tutor', 'Tutor'), ('author', 'Author'), ('office', 'Office')], max_length=10)),
                ('since', models.DateTimeField()),
                ('until', models.DateTimeField(null=True)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to=settings.AUTH_USER_MODEL)),
                ('school', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to='people.school')),
            ],
            options={
                'constraints': [models.UniqueConstraint(condition=models.Q(('until', None)), fields=('person', 'school', 'role'), name='role_held_once')],
            },
        ),
        append_only("people_auditentry"),
    ]
