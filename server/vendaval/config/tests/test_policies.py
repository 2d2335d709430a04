"""Every operation × role × relation. An operation that is not listed here fails the test."""

from __future__ import annotations

from django.test import Client

from vendaval.groups.actions import enrol, put_in_charge
from vendaval.groups.models import Enrolment, Group, GroupMember
from vendaval.groups.queries import relations_to
from vendaval.people.actions import end_role, give_role, link_guardian
from vendaval.people.backends import account_with_roles
from vendaval.people.models import Guardianship, Role, School, User
from vendaval.people.policies import RULES, Relation, may
from vendaval.shared import clock
from vendaval.work.tests.builders import (
    a_learner,
    an_account,
    enrolment_of,
    with_role,
)

from .policy_case import Operation, PolicyCase, api_paths
from .policy_table import (
    BY_ADDRESS,
    OPEN,
    OWN,
    RELATED,
    SIGNED_IN,
    TOKEN_ONLY,
)


class PolicyTests(PolicyCase):
    def test_every_operation_is_listed(self) -> None:
        listed = OPEN | TOKEN_ONLY | SIGNED_IN | set(OWN) | set(RELATED)
        self.assertEqual({operation.name for operation in self.operations()}, listed)
        self.assertEqual(set(RULES), set(OWN) | set(RELATED))

    def test_own(self) -> None:
        self.relate()
        fresh = self.post(f"/questions/{self.question}/fresh")["question"]["id"]
        self.question, closed = fresh, self.question
        order = list(OWN)
        own = [operation for operation in self.listed() if operation.name in OWN]
        for operation in sorted(own, key=lambda o: order.index(o.name)):
            if OWN[operation.name] == 409:
                address = operation.address.replace(str(fresh), str(closed))
                operation = Operation(operation.name, operation.method, address)
            self.assertEqual(self.ask(self.client, operation), OWN[operation.name], operation)

    def in_course(self) -> list[Operation]:
        return [o for o in self.listed() if o.name in OWN and "/courses/inshore/" in o.address]

    def assert_all(
        self,
        person: User | None,
        status: int,
        why: str,
        operations: list[Operation] | None = None,
    ) -> None:
        client = Client()
        if person is not None:
            client.force_login(person)
        for operation in operations or self.listed():
            self.assertEqual(self.ask(client, operation), status, (operation.name, why))

    def test_strangers_and_relations_that_may_not(self) -> None:
        """404 and not 403: ids tell nothing to whom they do not concern."""
        related = self.relate()
        operations = self.listed()
        own = {"{run_id}", "{question_id}", "{miss_id}", "{thread_id}", "{spell_id}", "{try_id}"}
        own |= {"{group_id}", "{enrolment_id}", "{ref}", "{attempt_id}", "{person_id}"}
        paths = {o["operationId"]: p for p, m in api_paths().items() for o in m.values()}
        stranger, other = Client(), Client()
        stranger.force_login(a_learner(self.course, "rui"))
        tutor_elsewhere = an_account("elsewhere")
        put_in_charge(Group.objects.create(course=self.course, title="Friday"), tutor_elsewhere)
        other.force_login(tutor_elsewhere)
        other_office, office = an_account("office elsewhere"), Client()
        give_role(other_office, School.objects.create(name="Elsewhere"), Role.OFFICE)
        office.force_login(other_office)
        for operation in operations:
            if operation.address.startswith(f"/api/office/people/{self.pupil.pk}"):
                self.assertEqual(self.ask(office, operation), 404, operation.name)
            if any(place in paths[operation.name] for place in own):
                self.assertEqual(self.ask(stranger, operation), 404, operation.name)
                self.assertEqual(self.ask(other, operation), 404, operation.name)
        nobody = {"nobody": an_account("nobody")}
        for what, person in (related | nobody).items():
            if what != "classmate":
                barred = [o for o in operations if what not in RELATED.get(o.name, set())]
                self.assert_all(person, 404, what, barred)

    def test_who_else_may(self) -> None:
        """Each relation opens what the table names, until the day it ends."""
        related = self.relate()
        operations = sorted(self.listed(), key=lambda o: [*RELATED, *OWN].index(o.name))
        for what, person in related.items():
            allowed = [o for o in operations if what in RELATED.get(o.name, set())]
            self.assertTrue(allowed, what)
            if what != "tutor":
                self.assert_all(person, 200, what, allowed)
        of_tutor = [o for o in operations if "tutor" in RELATED.get(o.name, set())]
        self.assert_all(related["tutor"], 200, "tutor", of_tutor)
        Guardianship.objects.filter(guardian=related["guardian"]).update(until=clock.now())
        for what in ("tutor", "guardian", "classmate"):
            about = [o for o in of_tutor if "learner" in o.name or "thread" in o.name]
            self.assert_all(related[what], 404, f"{what}, after it ended", about[:5])

    def test_signed_out(self) -> None:
        self.assert_all(None, 403, "signed out")
        for operation in self.operations():
            if operation.name in SIGNED_IN:
                self.assertEqual(self.ask(Client(), operation), 403, operation.name)

    def test_who_has_left_and_whose_role_has_ended(self) -> None:
        self.relate()
        gone = a_learner(self.course, "gone")
        Enrolment.objects.filter(person=gone).update(until=clock.now())
        self.assert_all(gone, 404, "left the course", self.in_course())
        operations = self.in_course()
        end_role(self.ana, self.course.school, Role.LEARNER)
        self.assert_all(self.ana, 404, "no learner any more", operations)
        enrol(self.ana, self.course)
        self.assertEqual(self.client.get("/api/courses/inshore/today").status_code, 200)

    def test_changes_need_the_csrf_token(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.ana)
        for operation in self.operations():
            if operation.method != "get" and operation.name not in BY_ADDRESS:
                self.assertEqual(self.ask(strict, operation), 403, operation.name)

    def test_relations_come_and_go_with_their_dates(self) -> None:
        enrolment = enrolment_of(self.ana)
        tutor, guardian = with_role(self.course, Role.TUTOR), with_role(self.course, Role.GUARDIAN)
        self.assertEqual(relations_to(self.ana, enrolment), {Relation.OWN})
        self.assertEqual(relations_to(tutor, enrolment), set())
        put_in_charge(self.group, tutor)
        link_guardian(guardian, self.ana)
        self.assertEqual(relations_to(tutor, enrolment), {Relation.GROUP})
        self.assertEqual(relations_to(guardian, enrolment), {Relation.CHILD})
        GroupMember.objects.update(until=clock.now())
        Guardianship.objects.filter(guardian=guardian).update(until=clock.now())
        self.assertEqual(relations_to(tutor, enrolment), set())
        self.assertEqual(relations_to(guardian, enrolment), set())

    def test_several_roles_are_held_at_once(self) -> None:
        put_in_charge(self.group, self.ana)
        ana = account_with_roles(self.ana.pk)
        assert ana is not None
        self.assertEqual(ana.roles, {Role.LEARNER, Role.TUTOR})
        self.assertTrue(may("get_today", ana.roles, Relation.OWN))
        self.assertFalse(may("get_today", ana.roles, Relation.GROUP))
        account = self.client.get("/api/session").json()["account"]
        self.assertEqual(account["roles"], ["learner", "tutor"])
