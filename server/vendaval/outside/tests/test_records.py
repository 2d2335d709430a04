"""Learning records sent to a store: each is there once, whatever the store and the network do."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any
from unittest.mock import patch
from urllib.request import Request, urlopen

from django.test import Client, override_settings

from standins.running import Standins, running
from vendaval.exams.models import Attempt
from vendaval.exams.taking.state import bring_up_to_date
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.outside import records
from vendaval.outside.models import RecordStore, ToTell, ToTellState
from vendaval.people.models import Role, School
from vendaval.shared import clock
from vendaval.shared.outgoing import Unreachable, ask
from vendaval.work.models import Try
from vendaval.work.tests.builders import right, with_role

OFFICE = "/api/office/record-store"
SCORE = {"scaled": 0.5, "raw": 2.0, "min": 0.0, "max": 4.0}


class RecordsTests(ExamTestCase):
    standins: Standins

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.standins = cls.enterClassContext(running())

    def setUp(self) -> None:
        super().setUp()
        self.standins.forget("store")
        now = clock.now()
        self.store = RecordStore.objects.create(
            school=School.objects.get(),
            address=f"{self.standins.address}/xapi/",
            name="vendaval",
            secret="what-happened",
            on=True,
            since=now - timedelta(days=400),
            next_at=now,
        )

    def send(self) -> int:
        """Send what is due; how many more statements the store has."""
        records.send(self.store)
        self.store.refresh_from_db()
        return self.standins.counts()["statements"]

    def arrived(self, verb: str) -> list[dict[str, Any]]:
        headers = records._headers(self.store)
        with urlopen(Request(f"{self.standins.address}/xapi/statements", headers=headers)) as reply:
            every = json.load(reply)["statements"]
        return [one for one in every if one["verb"]["id"].endswith(f"/{verb}")]

    def some_tries(self, many: int) -> int:
        """Questions answered in practice; how many tries that were."""
        question = self.practise("tidal-terms")
        for _ in range(many):
            reply = self.answer(question["id"], right(question["id"]), after=40)
            question = self.onward(reply)
        return Try.objects.count()

    def test_a_store_has_everything_once_whatever_its_replies_do(self) -> None:
        tries = self.some_tries(4)
        self.standins.behave("store", "loses")
        self.assertGreater(self.send(), 0)
        self.assertEqual((self.store.sent, self.store.failures), (0, 1))
        self.assertIn("504 lost", self.store.says)
        self.standins.behave("store", "down")
        self.send()
        self.assertEqual(self.store.failures, 2)
        self.standins.behave("store", "well")
        found = self.send()
        self.assertEqual((self.store.failures, self.store.says), (0, ""))
        self.assertEqual(found, self.store.sent)
        self.assertEqual(len(self.arrived("answered")), tries)
        before = self.standins.counts()["arrived"]
        self.assertEqual(self.send(), found)
        self.assertEqual(self.standins.counts()["arrived"], before, "nothing is sent again")

    def test_half_of_the_time_down(self) -> None:
        self.some_tries(3)
        self.standins.behave("store", "half")
        with patch.object(records, "BATCH", 2):
            for _ in range(60):
                found = self.send()
                if not ToTell.objects.filter(state=ToTellState.DUE).exists():
                    break
        self.assertEqual(found, self.store.sent)
        self.assertEqual(ToTell.objects.exclude(state=ToTellState.SENT).count(), 0)

    def test_what_a_test_holds_back_waits_until_it_may_be_told(self) -> None:
        held = dict.fromkeys(("score", "correctness", "answers", "solutions"), "closed")
        closes = clock.now() + timedelta(hours=2)
        self.taken(self.given(release=held, closes=closes), 2)
        self.send()
        self.assertEqual((self.arrived("answered"), self.arrived("completed")), ([], []))
        self.clock.forward(hours=3)
        for attempt in Attempt.objects.all():
            bring_up_to_date(attempt.pk)
        self.send()
        self.assertEqual(len(self.arrived("answered")), 3)
        (completed,) = self.arrived("completed")
        self.assertEqual(completed["result"]["score"], SCORE)

    def test_a_statement_that_the_store_refuses_holds_up_no_other(self) -> None:
        self.some_tries(2)
        with patch.object(records, "tell", _with_a_fault(records.tell)):
            self.send()
        refused = ToTell.objects.get(state=ToTellState.REFUSED)
        self.assertIn("verb has no id", refused.says)
        self.assertEqual(ToTell.objects.filter(state=ToTellState.DUE).count(), 0)
        self.assertGreater(self.store.sent, 1)

    def test_a_wrong_secret_is_said_and_nothing_lost(self) -> None:
        self.store.secret = "guessed"
        self.store.save()
        self.some_tries(1)
        self.assertEqual(self.send(), 0)
        self.assertIn("401", self.store.says)
        self.assertIn("401", records.problem_of(self.store))

    def test_an_office_moves_the_day_and_the_store(self) -> None:
        self.store.since = clock.now() + timedelta(days=1)
        self.store.save()
        self.some_tries(2)
        self.assertEqual(self.send(), 0)
        desk = Client()
        desk.force_login(with_role(self.course, Role.OFFICE))

        def put(**change: object) -> Any:
            shown = desk.get(OFFICE).json()
            form = {name: shown[name] for name in ("address", "name", "on", "since", "version")}
            return desk.put(OFFICE, form | change, "application/json").json()

        shown = put(since="2020-01-01")
        self.assertEqual((shown["has_secret"], "what-happened" in str(shown)), (True, False))
        self.store.refresh_from_db()
        found = self.send()
        self.assertGreater(found, 2)
        put(since="2019-01-01")
        self.store.refresh_from_db()
        self.assertEqual((self.send(), self.store.sent), (found, found), "known again")
        moved = put(address="http://127.0.0.1:9/other/")
        self.assertEqual((moved["has_secret"], moved["sent"]), (False, 0))
        wrong = put(address="store.example")
        self.assertIn("whole address", wrong["fields"]["address"])
        self.assertIn("can’t be reached", desk.post(f"{OFFICE}/try").json()["problem"])

    @override_settings(PRIVATE_ADDRESSES=False)
    def test_nothing_goes_to_addresses_inside(self) -> None:
        for url in (
            "https://127.0.0.1/",
            "https://localhost/",
            "https://[::1]/",
            "https://10.1.2.3/",
            "https://169.254.169.254/",
            "http://store.example/",
            "ftp://store.example/",
            "https://a:b@store.example/",
        ):
            with self.assertRaises(Unreachable, msg=url):
                ask("GET", url)


def _with_a_fault(tell: Any) -> Any:
    def faulty(asked: Any) -> Any:
        told = tell(asked)
        for kind in told.values():
            for number, one in kind.statements.items():
                if one["verb"]["id"].endswith("/answered"):
                    kind.statements[number] = one | {"verb": {}}
                    return told
        return told

    return faulty
