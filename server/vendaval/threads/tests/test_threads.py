"""Help between learner, tutor and classmate, and reports of faults."""

from typing import Any

from django.test import Client

from vendaval.groups.actions import join_group, leave_group, put_in_charge, set_up_group
from vendaval.groups.columns import GroupSettings
from vendaval.groups.models import Group
from vendaval.notices.models import Notice
from vendaval.people.models import Role, User
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    enrolment_of,
    right,
    with_role,
    wrong,
)


class ThreadTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        self.bea, self.tutor = a_learner(self.course, "bea"), with_role(self.course, Role.TUTOR)
        for learner in (self.learner, self.bea):
            join_group(self.group, enrolment_of(learner))
        put_in_charge(self.group, self.tutor)

    def as_(self, person: User) -> Client:
        client = Client()
        client.force_login(person)
        return client

    def ask(self, question: int, *, to: list[User] | None = None, **more: Any) -> Any:
        body = {
            "text": "From where do I count? $h = 3$",
            "to_tutor": True,
            "classmates": [one.pk for one in to or []],
            "shows_answer": True,
            "shows_working": False,
        }
        status = more.pop("status", 200)
        return self.post(f"/questions/{question}/ask", body | more, status=status)

    def write(self, person: User, thread: int, **more: Any) -> Any:
        body = {"text": "From low water.", "quotes_solution": False} | more
        return self.as_(person).post(f"/api/threads/{thread}/posts", body, "application/json")

    def missed(self) -> Any:
        """A question of practice that is closed, missed and told."""
        question = self.practise_family("bridge-clearance")
        self.answer(question["id"], wrong(question["id"]))
        self.post(f"/questions/{question['id']}/working")
        return question

    def test_from_question_to_answer_to_settled(self) -> None:
        question = self.missed()
        thread = self.ask(question["id"], to=[self.bea])["line"]["id"]
        self.assertEqual(
            {(n.person, n.path) for n in Notice.objects.all()},
            {(self.tutor, f"/threads/{thread}"), (self.bea, f"/threads/{thread}")},
        )
        self.clock.forward(hours=2)
        inbox = self.as_(self.tutor).get("/api/inbox?state=open").json()["threads"]
        self.assertEqual((len(inbox), inbox[0]["asker"], inbox[0]["unread"]), (1, "Ana Lima", True))
        self.assertEqual(self.write(self.tutor, thread, quotes_solution=True).status_code, 200)
        page = self.client.get(f"/api/threads/{thread}").json()
        self.assertEqual(page["line"]["state"], "answered")
        self.assertIn('class="math inline"', page["posts"][0]["html"])
        self.assertEqual([post["mine"] for post in page["posts"]], [True, False])
        self.assertEqual(Notice.objects.filter(person=self.learner).count(), 1)
        self.assertEqual(self.as_(self.tutor).get("/api/inbox?state=open").json()["threads"], [])
        settled = self.client.post(
            f"/api/threads/{thread}/settle", {"says": "I see."}, "application/json"
        ).json()
        self.assertEqual((settled["line"]["state"], settled["can"]), ("settled", []))
        self.assertEqual(self.write(self.tutor, thread).status_code, 409)

    def test_a_classmate_sees_the_question_and_what_was_sent_and_never_more(self) -> None:
        question = self.missed()
        thread = self.ask(question["id"], to=[self.bea])["line"]["id"]
        page = self.as_(self.bea).get(f"/api/threads/{thread}").json()
        self.assertEqual(page["given"], wrong(question["id"]))
        shown = page["question"]
        self.assertEqual((shown["solution"], shown["source"], shown["hints"]), (None, None, []))
        self.assertTrue(all(state["right_answer"] is None for state in shown["states"]))
        self.assertNotIn("quote_solution", page["can"])
        self.assertEqual(self.write(self.bea, thread, quotes_solution=True).status_code, 422)
        hidden = self.ask(question["id"], to=[self.bea], shows_answer=False)["line"]["id"]
        page = self.as_(self.bea).get(f"/api/threads/{hidden}").json()
        self.assertIsNone(page["given"])
        tutor = self.as_(self.tutor).get(f"/api/threads/{thread}").json()
        self.assertIsNotNone(tutor["question"]["solution"])

    def test_a_classmate_is_asked_only_where_the_group_allows_and_while_both_are_in_it(
        self,
    ) -> None:
        question = self.missed()
        stranger = a_learner(self.course, "rui")
        self.ask(question["id"], to=[stranger], status=422)
        thread = self.ask(question["id"], to=[self.bea])["line"]["id"]
        set_up_group(self.group, "Tuesday", GroupSettings(classmates=False))
        self.assertEqual(self.get("/classmates")["classmates"], [])
        self.assertEqual(self.as_(self.bea).get(f"/api/threads/{thread}").status_code, 404)
        self.ask(question["id"], to=[self.bea], status=422)
        leave_group(self.group, enrolment_of(self.learner))
        self.assertEqual(self.as_(self.tutor).get(f"/api/threads/{thread}").status_code, 404)
        self.assertEqual(self.as_(self.tutor).get("/api/inbox").json()["threads"], [])
        self.ask(question["id"], status=422)

    def test_an_answer_before_the_first_try_is_help(self) -> None:
        question = self.practise_family("bridge-clearance")
        thread = self.ask(question["id"])["line"]["id"]
        self.write(self.learner, thread)
        self.assertFalse(Presentation.objects.get(pk=question["id"]).helped, "one’s own words")
        self.write(self.tutor, thread)
        self.assertTrue(Presentation.objects.get(pk=question["id"]).helped)
        reply = self.answer(question["id"], right(question["id"]))
        self.assertIn("opened help first", reply["feedback"]["level"]["sentence"])

    def test_a_thread_tells_its_asker_no_more_than_the_question_does(self) -> None:
        question = self.practise_family("bridge-clearance")
        thread = self.ask(question["id"])
        self.assertIsNone(thread["question"]["solution"])
        self.write(self.tutor, thread["line"]["id"], quotes_solution=True)
        page = self.client.get(f"/api/threads/{thread['line']['id']}").json()
        self.assertIsNotNone(page["question"]["solution"], "the tutor sent it")
        rows = Presentation.objects.filter(pk=question["id"])
        rows.update(in_open_test=True)
        page = self.as_(self.learner).get(f"/api/threads/{thread['line']['id']}").json()
        shown = page["question"]
        self.assertIsNone(shown["solution"], "not while the same version is in an open test")
        self.assertTrue(all(one["right_answer"] is None for one in shown["states"]))
        rows.update(in_open_test=False)
        page = self.client.get(f"/api/threads/{thread['line']['id']}").json()
        self.assertIsNotNone(page["question"]["solution"])

    def test_several_who_ask_about_one_idea_are_told_together(self) -> None:
        question = self.missed()
        self.ask(question["id"])
        self.ask(question["id"])
        lines = self.as_(self.tutor).get("/api/inbox?state=open").json()["threads"]
        self.assertEqual([line["same"] for line in lines], [2, 2])
        waits = [line["waits_since"] for line in lines]
        self.assertEqual(waits, sorted(waits), "the longest waiting first")

    def test_a_fault_reaches_the_authors_without_a_name(self) -> None:
        question = self.missed()
        author = with_role(self.course, Role.AUTHOR)
        body = {"text": "The table has a typo."}
        thread = self.post(f"/questions/{question['id']}/fault", body)["line"]["id"]
        self.assertEqual(Notice.objects.get(person=author).kind, "fault")
        faults = self.as_(author).get("/api/faults?state=open").json()["threads"]
        self.assertEqual([line["asker"] for line in faults], ["A learner"])
        page = self.as_(author).get(f"/api/threads/{thread}").json()
        self.assertEqual((page["met_by"], page["others"]), (0, []))
        self.assertRegex(page["edit_at"], r"^/author/bank/inshore/[a-z-]+$")
        self.assertNotIn("Ana", str(page))
        self.assertEqual(self.as_(self.tutor).get(f"/api/threads/{thread}").status_code, 404)

    def test_lists_ask_as_much_for_many_as_for_few(self) -> None:
        question, tutor = self.missed(), self.as_(self.tutor)
        self.ask(question["id"])
        tutor.get("/api/inbox")
        for count in (1, 6):
            while len(tutor.get("/api/inbox").json()["threads"]) < count:
                self.ask(question["id"])
            with self.assertNumQueries(4):
                tutor.get("/api/inbox")
