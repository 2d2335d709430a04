"""Messages in the application and by mail: one digest a day, nothing twice."""

from datetime import timedelta

from vendaval.levels.columns import TopicHistory
from vendaval.notices.actions import note_rechecks_due, send_digests, tell
from vendaval.notices.models import Letter, Notice, NoticeKind
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import CourseTestCase, learning_for


class NoticeTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.learner.email = "ana@molhe.example"
        self.learner.save()
        self.enterContext(self.settings(EMAIL_BACKEND="vendaval.notices.outbox.OutboxBackend"))

    def say(self, title: str, kind: NoticeKind = NoticeKind.ANSWERED) -> None:
        tell([self.learner], kind, title, "/threads/1")

    def test_one_mail_a_day_with_what_is_unread_and_wanted(self) -> None:
        self.say("First")
        self.say("Second")
        self.say("Not by mail", NoticeKind.TARGET_MET)
        unwanted = {"unwanted": ["target_met"]}
        put_over(self.client, "/api/notices/mail", unwanted)
        self.assertEqual(send_digests(), 1)
        letter = Letter.objects.get()
        self.assertEqual(
            (letter.to, letter.subject), ("ana@molhe.example", "2 messages from Vendaval")
        )
        self.assertIn("First", letter.body)
        self.assertNotIn("Not by mail", letter.body)
        self.say("Third")
        self.assertEqual(send_digests(), 0, "not again on the same day")
        self.clock.forward(days=1)
        self.assertEqual((send_digests(), send_digests()), (1, 0))
        self.assertEqual(Letter.objects.latest("pk").subject, "Third")
        self.assertEqual(self.client.get("/api/outbox").json()["letters"][0]["subject"], "Third")

    def test_what_was_read_is_not_mailed(self) -> None:
        self.say("First")
        page = self.client.get("/api/notices").json()
        self.assertEqual((page["unread"], page["notices"][0]["read"]), (1, False))
        upto = {"upto": page["notices"][0]["id"]}
        self.client.post("/api/notices/read", upto, "application/json")
        self.assertEqual((send_digests(), Letter.objects.count()), (0, 0))

    def test_a_recheck_that_is_due_is_said_once(self) -> None:
        learning = learning_for(self.learner)
        due = self.clock() - timedelta(hours=1)
        learning.row.topics["buoyage"] = TopicHistory(met_at=due, recheck_at=due, recheck_days=7)
        learning.claim()
        self.assertEqual((note_rechecks_due(), note_rechecks_due()), (1, 0))
        self.clock.forward(days=3)
        self.assertEqual(note_rechecks_due(), 0, "not while it is unread")
        Notice.objects.update(read_at=self.clock())
        self.assertEqual(note_rechecks_due(), 1)

    def test_the_outbox_is_shut_where_demo_accounts_are_off(self) -> None:
        with self.settings(DEMO_ACCOUNTS=False):
            self.assertEqual(self.client.get("/api/outbox").status_code, 404)

    def test_pages_of_messages(self) -> None:
        for n in range(35):
            self.say(f"Message {n}")
        first = self.client.get("/api/notices").json()
        rest = self.client.get(f"/api/notices?older={first['older']}").json()
        titles = [n["title"] for page in (first, rest) for n in page["notices"]]
        self.assertEqual(titles, [f"Message {n}" for n in range(34, -1, -1)])
        self.assertIsNone(rest["older"])
