"""A group's calendar, and what learners and tutors read of it in calendars of their own."""

from __future__ import annotations

from datetime import timedelta

from django.test import Client
from icalendar import Calendar

from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import put_in_charge, set_up_group
from vendaval.groups.columns import GroupSettings
from vendaval.groups.models import Group
from vendaval.levels.models import LearnerState
from vendaval.people.models import Role, User
from vendaval.today.calendar import feed, make_calendar_key
from vendaval.work.tests.builders import with_role


class DaysTests(ExamTestCase):
    """The clock stands at Monday 2 March 2026, 9:00."""

    def setUp(self) -> None:
        super().setUp()
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)
        now = self.clock()
        self.given(opens=now - timedelta(days=2), due=now + timedelta(days=1))
        self.given(due=now + timedelta(days=90))
        goal = {"kind": "target", "topics": ["tidal-terms"]}
        closes = (now + timedelta(days=3)).isoformat()
        work = TaskIn.model_validate({"goal": goal, "closes": closes})
        set_task(self.group, work, self.tutor)
        exam = (now + timedelta(days=60)).date()
        set_up_group(self.group, "Tuesday", GroupSettings(exam_on=exam))

    def test_days_in_order_with_the_exam_however_far(self) -> None:
        with self.assertNumQueries(6):
            page = self.desk.get(f"/api/groups/{self.group.pk}/calendar").json()
        days = [(one["on"], [entry["kind"] for entry in one["entries"]]) for one in page["days"]]
        self.assertEqual(
            days,
            [
                ("2026-02-28", ["opens"]),
                ("2026-03-03", ["due"]),
                ("2026-03-05", ["closes"]),
                ("2026-05-01", ["exam"]),
            ],
        )

    def test_rechecks_are_counted_by_learner_and_day(self) -> None:
        self.practise("tidal-terms")
        row = LearnerState.objects.get()
        for topic, days in (("tidal-terms", 4), ("buoyage", 4), ("compass-errors", -3)):
            history = row.topics.get(topic) or next(iter(row.topics.values())).model_copy()
            history.recheck_at = self.clock() + timedelta(days=days)
            row.topics[topic] = history
        row.save()
        page = self.desk.get(f"/api/groups/{self.group.pk}/calendar").json()
        rechecks = {
            one["on"]: entry["learners"]
            for one in page["days"]
            for entry in one["entries"]
            if entry["kind"] == "recheck"
        }
        self.assertEqual(rechecks, {"2026-03-02": 1, "2026-03-06": 1}, "overdue ones are due now")

    def summaries(self, person: User) -> list[str]:
        calendar = Calendar.from_ical(feed(make_calendar_key(person).key))
        return [str(event["summary"]) for event in calendar.walk("vevent")]

    def test_calendars_of_ones_own(self) -> None:
        """A learner's has the work set for them; a tutor's what is due in their groups."""
        own = self.summaries(self.learner)
        self.assertIn("Tides and buoys is due (Inshore Navigation)", own)
        self.assertTrue(any("closes" in one for one in own))
        self.assertIn("Tides and buoys is due (Tuesday)", self.summaries(self.tutor))
        stranger = with_role(self.course, Role.AUTHOR)
        put_in_charge(Group.objects.create(course=self.course, title="Friday"), stranger)
        self.assertEqual(self.summaries(stranger), [])
