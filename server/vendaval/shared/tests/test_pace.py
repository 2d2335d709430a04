"""A burst is let through, a flood is not."""

from django.test import TestCase, override_settings

from vendaval.shared.pace import Pace


class PaceTests(TestCase):
    def test_a_burst_then_so_many_a_second(self) -> None:
        pace = Pace(burst=3, per_second=0.5)
        self.assertEqual([pace.allows("ana", 10.0) for _ in range(4)], [True] * 3 + [False])
        self.assertTrue(pace.allows("rui", 10.0))
        self.assertFalse(pace.allows("ana", 11.9))
        self.assertTrue(pace.allows("ana", 12.0))
        self.assertEqual([pace.allows("ana", 99.0) for _ in range(4)], [True] * 3 + [False])

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
