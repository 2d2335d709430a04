"""A burst is let through, a flood is not."""

import os

from django.test import TestCase, override_settings

from vendaval.shared.pace import Pace
from vendaval.work.tests.builders import an_account


class PaceTests(TestCase):
    def test_a_burst_then_so_many_a_second(self) -> None:
        pace = Pace(burst=3, per_second=0.5)
        self.assertEqual([pace.allows("ana", 10.0) for _ in range(4)], [True] * 3 + [False])
        self.assertTrue(pace.allows("rui", 10.0))
        self.assertFalse(pace.allows("ana", 11.9))
        self.assertTrue(pace.allows("ana", 12.0))
        self.assertEqual([pace.allows("ana", 99.0) for _ in range(4)], [True] * 3 + [False])

    def test_processes_share_their_buckets(self) -> None:
        pace = Pace(burst=30, per_second=0.0)
        reading, writing = os.pipe()
        senders = []
        for _ in range(3):
            sender = os.fork()
            if sender == 0:
                os.write(writing, bytes([sum(pace.allows("ana", 10.0) for _ in range(40))]))
                os._exit(0)
            senders.append(sender)
        for sender in senders:
            os.waitpid(sender, 0)
        os.close(writing)
        self.assertEqual(sum(os.read(reading, 3)), 30)
        os.close(reading)

    @override_settings(CODE_PACE=True)
    def test_nobody_tries_many_codes(self) -> None:
        for name, path in (("ana", "/api/join"), ("rui", "/api/links")):
            self.client.force_login(an_account(name))
            statuses = [
                self.client.post(path, {"code": f"AAAA-BBB{n}"}, "application/json").status_code
                for n in range(10)
            ]
            self.assertEqual(statuses, [404] * 8 + [429] * 2, path)

    @override_settings(ANSWER_PACE=(2, 0.01))
    def test_answers_are_refused_before_anybody_is_asked_who_they_are(self) -> None:
        address = "/api/courses/inshore/questions/1/answer"
        for _ in range(2):
            self.client.cookies["sessionid"] = "somebody"
            reply = self.client.post(address, "{}", "application/json")
            self.assertEqual(reply.status_code, 403)
        self.client.cookies["sessionid"] = "somebody"
        with self.assertNumQueries(0):
            reply = self.client.post(address, "{}", "application/json")
        self.assertEqual((reply.status_code, reply.json()["code"]), (429, "too_fast"))
        self.assertEqual(reply.headers["Retry-After"], "1")

    @override_settings(COSTLY_PACE=True)
    def test_one_person_asks_for_so_many_files_whatever_their_sessions(self) -> None:
        ana, rui = an_account("ana"), an_account("rui")
        path = "/api/courses/none/record/file?kind=csv"
        statuses = []
        for number in range(8):
            if number % 3 == 0:
                self.client.force_login(ana)
            statuses.append(self.client.get(path))
        self.assertEqual([one.status_code for one in statuses], [404] * 6 + [429] * 2)
        told = statuses[-1]
        self.assertEqual((told.json()["code"], told.headers["Retry-After"]), ("too_fast", "10"))
        self.assertEqual(self.client.get("/api/session").status_code, 200, "other things go on")
        self.client.force_login(rui)
        self.assertEqual(self.client.get(path).status_code, 404, "and so do others")

    @override_settings(COSTLY_PACE=True)
    def test_phones_of_a_class_share_an_address_and_no_pace(self) -> None:
        one, other = (f"/api/phone/{name}-phone-token/pages" for name in ("first", "second"))
        statuses = [self.client.post(one).status_code for _ in range(25)]
        self.assertEqual(statuses, [404] * 24 + [429])
        self.assertEqual(self.client.post(other).status_code, 404)
