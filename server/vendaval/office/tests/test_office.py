"""The office: people changed, closed and deleted, jobs, the log."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import GroupMember
from vendaval.measurement.jobs import apply_in_background
from vendaval.measurement.models import Calibration
from vendaval.notices.models import Letter
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.link_mails import MailRefused, mail_links
from vendaval.people.models import Membership, Role, School, User
from vendaval.privacy.jobs import make_copy
from vendaval.privacy.models import Audience, DataCopy
from vendaval.privacy.tests.reading import data_of
from vendaval.shared.jobs import WAITS, mind_jobs, note_alive
from vendaval.threads.models import Thread
from vendaval.work.models import Try
from vendaval.work.tests.builders import (
    an_account,
    enrolment_of,
    run_command,
    wrong,
)

from .builders import HEAD, KEPT, OfficeTestCase


class JobTests(OfficeTestCase):
    def failed(self) -> DBTaskResult:  # type: ignore[type-arg]
        copy = DataCopy.objects.create(
            person=self.learner, audience=Audience.PERSON, asked_at=self.clock()
        )
        make_copy.enqueue(copy.pk)
        row = DBTaskResult.objects.latest("enqueued_at")
        row.status, row.traceback = TaskResultStatus.FAILED, "Traceback\nMailRefused: 2 refused\n"
        row.save()
        return row

    def test_a_mail_that_is_refused_holds_up_no_other(self) -> None:
        self.upload(HEAD + "A,a@x.example,tutor,,,,\nB,b@x.example,tutor,,,,\n", "/list")
        sent: list[str] = []

        def send(subject: str, body: str, sender: str, to: list[str]) -> None:
            if to == ["a@x.example"]:
                raise ConnectionRefusedError("no such mailbox")
            sent.extend(to)

        refused = self.assertRaisesRegex(
            MailRefused, "1 sent, 1 refused; first ConnectionRefusedError"
        )
        with patch("vendaval.people.link_mails.send_mail", send), refused:
            mail_links.func()
        self.assertEqual(sent, ["b@x.example"])
        self.assertEqual(mail_links.func(), 1, "only who was left")

    def test_what_keeps_failing_is_listed_and_begun_again_by_hand(self) -> None:
        failed = self.failed()
        DBTaskResult.objects.update(worker_ids=["one"])
        job = self.read("/system")["jobs"][0]
        self.assertEqual((job["state"], job["again"]), ("ready", False), "tried again by itself")
        self.assertNotIn("failed job", str(self.read("")["todo"]))
        refused = self.ask(f"/system/jobs/{failed.pk}")
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "job_not_failed"))
        DBTaskResult.objects.update(worker_ids=["one"] * (len(WAITS) + 1))
        job = self.read("/system")["jobs"][0]
        self.assertEqual(
            (job["state"], job["why"], job["again"]), ("failed", "MailRefused: 2 refused", True)
        )
        self.assertIn("failed job", str(self.read("")["todo"]))
        self.assertEqual(self.ask(f"/system/jobs/{failed.pk}").status_code, 200)
        failed.refresh_from_db()
        self.assertEqual((failed.status, failed.worker_ids), (TaskResultStatus.READY, []))

    def test_a_job_of_another_school_is_nobody_elses(self) -> None:
        failed = self.failed()
        DBTaskResult.objects.update(worker_ids=["one"] * (len(WAITS) + 1))
        other = School.objects.create(name="Elsewhere")
        Membership.objects.filter(role=Role.OFFICE).update(school=other)
        self.assertEqual(self.read("/system")["jobs"], [])
        self.assertEqual(self.ask(f"/system/jobs/{failed.pk}").status_code, 404)

    def test_failures_wait_longer_each_time(self) -> None:
        self.failed()
        DBTaskResult.objects.update(finished_at=self.clock())
        for tries, wait in enumerate(WAITS, start=1):
            DBTaskResult.objects.update(
                status=TaskResultStatus.FAILED, worker_ids=["w"] * tries, finished_at=self.clock()
            )
            self.clock.time += wait - timedelta(seconds=1)
            self.assertEqual(mind_jobs(), 0)
            self.clock.forward(seconds=1)
            self.assertEqual(mind_jobs(), 1)
        DBTaskResult.objects.update(
            status=TaskResultStatus.FAILED,
            worker_ids=["w"] * (len(WAITS) + 1),
            finished_at=self.clock(),
        )
        self.clock.forward(hours=8)
        self.assertEqual(mind_jobs(), 0)

    def test_a_job_whose_worker_was_killed_is_taken_up_by_another(self) -> None:
        mail_links.enqueue()
        row = DBTaskResult.objects.get()
        row.claim("worker-1")
        note_alive("worker-1")
        self.clock.forward(seconds=30)
        self.assertEqual(mind_jobs(), 0, "it may be slow")
        note_alive("worker-1")
        self.clock.forward(seconds=46)
        self.assertEqual((mind_jobs(), mind_jobs()), (1, 0))
        row.refresh_from_db()
        self.assertEqual(row.status, TaskResultStatus.READY)

    def test_a_calibration_is_put_in_force_once(self) -> None:
        row = Calibration.objects.create(
            course=self.course,
            proposals=[{"item": "rock", "proposed": None, "asks": ["check which answer is right"]}],
            responses=7,
            made_by="rui",
            made_at=self.clock(),
        )
        line = self.read("/system")["calibrations"][0]
        self.assertEqual(line["answers"], 7)
        asked = {"family": "rock", "says": "check which answer is right"}
        self.assertEqual(line["asks"], [asked])
        page = self.ask(f"/system/calibrations/{row.pk}").json()
        self.assertTrue(page["calibrations"][0]["waits"])
        again = self.ask(f"/system/calibrations/{row.pk}")
        self.assertEqual((again.status_code, again.json()["code"]), (409, "already_applied"))
        apply_in_background.func(row.pk, "office")
        DBTaskResult.objects.all().delete()
        line = self.read("/system")["calibrations"][0]
        self.assertEqual((line["applied_by"], line["waits"]), ("office", False))
        self.assertEqual(self.ask(f"/system/calibrations/{row.pk}").status_code, 409)

    def test_the_last_check_of_levels_is_shown(self) -> None:
        def levels() -> Any:
            checks = self.read("/system")["checks"]
            return next(one for one in checks if one["what"] == "Levels against the log")

        self.assertIsNone(levels()["well"])
        run_command("check_states")
        self.assertTrue(levels()["well"])


@KEPT
class PeopleTests(OfficeTestCase):
    def person(self, pk: int) -> Any:
        return self.read(f"/people/{pk}")

    def test_people_are_found_by_name_role_and_state(self) -> None:
        self.ask("/people", {"name": "Nel Reis", "mail": "nel@x.example", "role": "tutor"})
        self.ask(f"/people/{self.learner.pk}/close")

        def found(query: str) -> list[str]:
            return [one["name"] for one in self.read(f"/people?{query}")["people"]]

        self.assertEqual(found(""), ["Ana Lima", "Nel Reis", "Olga Sá"])
        self.assertEqual(found("text=NEL@"), ["Nel Reis"])
        self.assertEqual(found("role=learner"), ["Ana Lima"])
        self.assertEqual(found("state=invited"), ["Nel Reis"])
        self.assertEqual(found("state=closed"), ["Ana Lima"])
        self.assertEqual(found("state=open"), ["Olga Sá"])

    def test_the_list_takes_as_many_queries_for_more_people(self) -> None:
        counts = []
        for many in (2, 30):
            young = "2014-01-01,Vera,vera@x.example"
            rows = [f"P{many}{n},p{many}{n}@x.example,learner,Tuesday,{young}" for n in range(many)]
            self.upload(HEAD + "\n".join(rows), "/list")
            User.objects.filter(email__startswith="p").update(password="not empty")
            with CaptureQueriesContext(connection) as queries:
                self.read("/people")
            counts.append(len(queries))
        self.assertEqual(counts, [9, 9])

    def test_a_closed_account_opens_nothing_until_it_is_opened_again(self) -> None:
        self.assertIsNotNone(self.client.get("/api/session").json()["account"])
        self.ask(f"/people/{self.learner.pk}/close")
        self.assertIsNone(self.client.get("/api/session").json()["account"])
        body = {"username": "ana", "password": "a long pass phrase"}
        reply = self.client.post("/api/session", json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, 400)
        self.assertEqual(self.person(self.learner.pk)["state"], "closed")
        self.ask(f"/people/{self.learner.pk}/reopen")
        reply = self.client.post("/api/session", json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, 200)

    def test_a_change_that_cannot_be_changes_nothing(self) -> None:
        """Roles and data are one change: an address that somebody has keeps the roles as well."""
        body = {"name": "Ana Lima", "mail": "OFFICE@school.example", "roles": ["learner", "tutor"]}
        refused = self.change(f"/people/{self.learner.pk}", body)
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(
            refused.json()["fields"], {"mail": "Somebody else already has this mail address."}
        )
        for name in ("Ana\nBcc: b@x.example", "Ana \u202eamiL", "   "):
            refused = self.change(f"/people/{self.learner.pk}", body | {"name": name})
            self.assertRegex(
                next(iter(refused.json()["fields"].values())), "^(Write the|Enter a) name"
            )
        self.assertEqual(self.person(self.learner.pk)["roles"], ["learner"])
        self.assertEqual(self.read("/log?kind=role")["entries"], [])
        changed = self.change(f"/people/{self.learner.pk}", body | {"mail": "ana@x.example"})
        self.assertEqual(changed.json()["roles"], ["learner", "tutor"])
        says = [one["says"] for one in self.read("/log")["entries"][:2]]
        self.assertEqual(says, ["mail", "tutor given"])

    def test_a_mail_that_is_refused_waits_and_the_person_is_there(self) -> None:
        """The mail server does not take it now: nothing is lost, and a job tries again."""
        body = {"name": "Nel Reis", "mail": "nel@x.example", "role": "tutor"}
        with patch(
            "vendaval.people.link_mails.send_mail", side_effect=ConnectionRefusedError("no")
        ):
            nel = self.ask("/people", body)
        self.assertEqual(nel.status_code, 200)
        self.assertIsNone(nel.json()["link"]["mailed_at"])
        self.assertEqual(self.read("/mails")["waiting"], 1)
        self.assertIn(
            "One mail with a link not sent yet", [one["what"] for one in self.read("")["todo"]]
        )
        self.assertEqual(DBTaskResult.objects.filter(status=TaskResultStatus.READY).count(), 1)
        self.assertEqual(mail_links.func(), 1)
        self.assertIsNotNone(self.person(nel.json()["id"])["link"]["mailed_at"])
        self.assertEqual(self.read("/mails")["waiting"], 0)

    def test_what_waits_is_said_with_its_reason(self) -> None:
        """An invitation is old a week after it was last written, and not before."""
        young = {"born": "2014-01-01", "guardian_name": "Vera", "guardian_mail": "vera@x.example"}
        body = {"name": "Pia", "mail": "pia@x.example", "role": "learner"} | young
        pia = self.ask("/people", body).json()

        def people_todo() -> list[str]:
            todo = self.read("")["todo"]
            return [one["what"] for one in todo if "/people" in one["path"]]

        self.assertEqual(people_todo(), ["One learner needs consent"])
        self.clock.forward(days=8)
        self.assertIn("Two invitations are old", people_todo())
        self.ask(f"/people/{pia['id']}/letter")
        self.assertIn("One invitation is old", people_todo())
        self.ask(f"/people/{pia['id']}/consent", {"agreed": True, "guardian": "Vera"}, "put")
        self.assertNotIn("One learner needs consent", people_todo())

    def test_nobody_locks_themselves_out(self) -> None:
        own = self.office.pk
        body = {"name": "Olga Sá", "mail": "office@school.example", "roles": ["tutor"]}
        self.assertEqual(self.change(f"/people/{own}", body).json()["code"], "own_office")
        self.assertEqual(self.ask(f"/people/{own}/close").json()["code"], "own_account")
        gone = self.ask(f"/people/{own}", {"name": "Olga Sá"}, "delete")
        self.assertEqual(gone.json()["code"], "own_account")

    def test_a_word_on_paper(self) -> None:
        body = {
            "name": "Pia Sá",
            "mail": "pia@x.example",
            "role": "learner",
            "born": "2025-01-01",
            "guardian_name": "Vera Sá",
            "guardian_mail": "vera@x.example",
        }
        pia = self.ask("/people", body).json()
        self.assertEqual([one["name"] for one in pia["guardians"]], ["Vera Sá"])
        self.assertEqual(Letter.objects.count(), 2)
        word = {"agreed": True, "guardian": "Vera Sá"}
        kept = self.ask(f"/people/{pia['id']}/consent", word, "put").json()["consents"][0]
        self.assertEqual(
            (kept["named"], kept["noted_by"], kept["on_paper"]), ("Vera Sá", "Olga Sá", True)
        )
        self.assertIn("Pia Sá", kept["wording"])

    def test_the_office_sees_no_answers_and_no_links_of_others(self) -> None:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        page = json.dumps(self.person(self.learner.pk))
        for answer in wrong(question["id"]).values():
            self.assertNotIn(answer, page)
        self.ask("/people", {"name": "Nel", "mail": "nel@x.example", "role": "tutor"})
        letter = self.read("/mails")["letters"][0]
        self.assertIn("/open/…", letter["body"])
        self.assertNotRegex(letter["body"], r"/open/\d")

    def test_a_deleted_person_is_gone_and_the_log_stays(self) -> None:
        """Name, mail, threads and notices go; answers stay under a number that leads to nobody."""
        User.objects.filter(pk=self.learner.pk).update(email="ana@home.example")
        self.ask(
            f"/people/{self.learner.pk}/places", {"group": self.group.pk, "role": "learner"}, "put"
        )
        put_in_charge(self.group, an_account("tutor"))
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        asked = {"text": "I am Ana, help", "to_tutor": True, "classmates": []}
        asked |= {"shows_answer": True, "shows_working": False}
        self.post(f"/questions/{question['id']}/ask", asked)
        self.ask(f"/people/{self.learner.pk}/letter")
        tries = Try.objects.count()
        slip = self.ask(f"/people/{self.learner.pk}", {"name": "Ana"}, "delete")
        self.assertEqual(slip.status_code, 422)
        self.assertEqual(
            self.ask(f"/people/{self.learner.pk}", {"name": "Ana Lima"}, "delete").json(),
            {"number": self.learner.pk},
        )
        self.assertEqual((Try.objects.count(), Thread.objects.count()), (tries, 0))
        left = User.objects.get(pk=self.learner.pk)
        self.assertEqual((left.display_name, left.email, left.is_active), ("", "", False))
        self.assertFalse(Letter.objects.filter(to="ana@home.example").exists())
        self.assertEqual(self.read("/people")["all"], 2)
        self.assertFalse(GroupMember.objects.filter(group=self.group, until=None).exists())
        entry = self.read("/log?kind=erased")["entries"][0]
        self.assertEqual((entry["by"], entry["name"], entry["address"]), ("Olga Sá", None, None))
        for word in ("Ana", "ana@home"):
            self.assertNotIn(word, str(data_of(left)))

    def test_the_log_is_searched(self) -> None:
        self.ask(f"/people/{self.learner.pk}/close")
        self.ask("/groups", {"course": "inshore", "title": "Friday"})
        self.change(
            "/school",
            {"name": "Molhe", "consent_until": 13, "wording": "I agree to all this."},
        )

        def lines(query: str) -> list[tuple[str, str | None, str | None]]:
            found = self.read(f"/log?{query}")["entries"]
            return [(one["kind"], one["name"], one["by"]) for one in found]

        self.assertEqual(lines("kind=closed"), [("closed", "Ana Lima", "Olga Sá")])
        self.assertEqual(lines("text=Friday"), [("group", None, "Olga Sá")])
        self.assertEqual(len(lines("text=olga")), 3)
        self.assertEqual(lines("text=127.0&kind=settings"), [("settings", None, "Olga Sá")])
        self.assertEqual(lines("since=2026-03-03"), [])
        self.assertEqual(len(lines("since=2026-03-02&until=2026-03-02")), 3)

    def test_schools_do_not_see_one_another(self) -> None:
        other = School.objects.create(name="Elsewhere")
        stranger = an_account("stranger", display_name="Sara", email="sara@y.example")
        give_role(stranger, other, Role.OFFICE)
        theirs = Client()
        theirs.force_login(stranger)
        people = theirs.get("/api/office/people").json()["people"]
        self.assertEqual([one["name"] for one in people], ["Sara"])
        self.ask(f"/people/{self.learner.pk}/close")
        self.assertEqual(theirs.get("/api/office/log?kind=closed").json()["entries"], [])
        self.assertEqual(theirs.get(f"/api/office/groups/{self.group.pk}").status_code, 404)

    def test_what_a_role_brought_ends_with_it(self) -> None:
        """Else a group would wait for a tutor who may not read what it asks."""
        tutor = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, tutor)
        give_role(tutor, self.course.school, Role.GUARDIAN)
        link_guardian(tutor, self.learner)
        join_group(self.group, enrolment_of(self.learner))
        body = {"name": "Clara Nunes", "mail": "clara@x.example", "roles": ["author"]}
        changed = self.change(f"/people/{tutor.pk}", body).json()
        self.assertEqual((changed["places"], changed["wards"]), ([], []))
        theirs = Client()
        theirs.force_login(tutor)
        self.change(f"/people/{tutor.pk}", body | {"roles": ["tutor", "guardian"]})
        self.assertEqual(theirs.get("/api/groups").json()["groups"], [])
        at = f"/api/learners/{enrolment_of(self.learner).pk}"
        self.assertEqual(theirs.get(at).status_code, 404)
        own = {"name": "Ana Lima", "mail": "", "roles": ["tutor"]}
        self.assertEqual(self.change(f"/people/{self.learner.pk}", own).json()["places"], [])
        self.assertFalse(GroupMember.objects.filter(until=None).exists())

    def test_tutors_of_a_group_come_and_go(self) -> None:
        nel = self.ask("/people", {"name": "Nel", "mail": "nel@x.example", "role": "tutor"}).json()
        body = {"title": "Tuesday", "tutors": [nel["id"]]}
        group = self.change(f"/groups/{self.group.pk}", body).json()
        self.assertEqual([one["name"] for one in group["tutors"]], ["Nel"])
        self.assertEqual(self.person(nel["id"])["places"][0]["role"], "tutor")
        stranger = an_account("stranger")
        bad = self.change(f"/groups/{self.group.pk}", body | {"tutors": [stranger.pk]})
        self.assertEqual(bad.status_code, 422)
        left = self.change(f"/groups/{self.group.pk}", body | {"tutors": []}).json()
        self.assertEqual(left["tutors"], [])
        self.assertEqual(enrolment_of(self.learner).groups.count(), 0)
