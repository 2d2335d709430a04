"""Data of earlier versions comes along."""

from typing import Any

from django.db import connection, utils
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase
from django.utils import timezone

BEFORE = ("evidence", "0005_family_time")
AFTER = ("evidence", "0006_outcomes_so_far")


class OutcomesTests(TransactionTestCase):
    """First tries that did not say of how many outcomes get the number they had."""

    def migrated(self, target: tuple[str, str]) -> Any:
        executor = MigrationExecutor(connection)
        executor.migrate([target])
        return executor.loader.project_state([target]).apps

    def tearDown(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_it_is_one_more_than_the_marked_parts(self) -> None:
        apps = self.migrated(BEFORE)
        now = timezone.now()
        make = {name: apps.get_model("bank", name).objects.create for name in (
            "Course", "Subject", "Topic", "Family", "FamilyRevision",
        )}  # fmt: skip
        learner = apps.get_model("people", "User").objects.create(username="old")
        course = make["Course"](key="c", title="C", school="S", prior={})
        subject = make["Subject"](course=course, key="s", title="S", position=0)
        topic = make["Topic"](
            course=course, subject=subject, key="t", title="T", position=0, target=80, importance=1
        )
        run = apps.get_model("evidence", "Run").objects.create(
            learner=learner, course=course, purpose="practice", title="T", scope=["t"],
            started_at=now, touched_at=now,
        )  # fmt: skip

        def tried(key: str, kinds: list[str], outcomes: int, first: bool = True) -> int:
            family = make["Family"](topic=topic, course=course, key=key)
            data = {"parts": [{"id": f"p{i}", "kind": kind} for i, kind in enumerate(kinds)]}
            revision = make["FamilyRevision"](family=family, number=1, data=data, digest=key)
            presentation = apps.get_model("evidence", "Presentation").objects.create(
                learner=learner, run=run, revision=revision, purpose="practice", seed=1, number=1,
                made_at=now,
            )  # fmt: skip
            row = apps.get_model("evidence", "Try").objects.create(
                presentation=presentation, learner=learner, family=family, topic=topic,
                replay_key=key, kind="answer", number=1, seconds=9, sitting=1, at=now,
                first=first, outcome=1, outcomes=outcomes,
            )  # fmt: skip
            return int(row.pk)

        two = tried("two", ["text_entry", "choice"], 2)
        one = tried("one", ["choice"], 2)
        written = tried("written", ["extended_text", "choice"], 2)
        shares = tried("shares", ["match", "choice"], 6)
        later = tried("later", ["choice", "choice"], 2, first=False)
        rows = self.migrated(AFTER).get_model("evidence", "Try").objects
        found = dict(rows.values_list("pk", "outcomes"))
        self.assertEqual(found, {two: 3, one: 2, written: 2, shares: 6, later: 2})
        with self.assertRaisesMessage(utils.IntegrityError, "only ever added to"):
            rows.filter(pk=two).update(outcomes=9)
