"""Nobody takes somebody else's account: not by a link of before, not by another address, not by a
name that is somebody's address, and no office alone where two schools know a person."""

from __future__ import annotations

import io
import json
import logging
from typing import Any

from django.core import mail
from django.test import Client

from vendaval.people.actions import end_role, give_role
from vendaval.people.models import LinkKind, OneTimeLink, Role, School, User
from vendaval.people.one_time_links import new_link, token_of
from vendaval.shared.logs import JsonFormatter
from vendaval.work.tests.builders import an_account

from .test_accounts import MAILED, PHRASE, AccountCase

OTHER = "another long phrase"


@MAILED
class TakingTests(AccountCase):
    def links(self) -> tuple[OneTimeLink, OneTimeLink]:
        """What somebody who knew the old password may have asked for."""
        return (
            new_link(self.ana, LinkKind.RESET, self.ana.email),
            new_link(self.ana, LinkKind.MAIL, "thief@x.example"),
        )

    def opens(self, link: OneTimeLink) -> bool:
        return bool(Client().get(f"/api/open/{token_of(link)}").status_code == 200)

    def test_whatever_changes_the_way_in_ends_every_open_link(self) -> None:
        self.sign_in()
        changes: list[tuple[str, Any]] = [
            (
                "password",
                lambda: self.send("/account/password", {"old": PHRASE, "password": OTHER}),
            ),
            ("sessions", lambda: self.send("/account/sessions", method="delete")),
            ("reset", lambda: self.reset()),
            ("address", lambda: self.new_address()),
        ]
        for what, change in changes:
            links = self.links()
            self.assertTrue(all(map(self.opens, links)), what)
            reply = change()
            self.assertEqual(reply.status_code, 200, (what, reply.content))
            self.assertFalse(any(map(self.opens, links)), what)

    def reset(self) -> Any:
        link = new_link(self.ana, LinkKind.RESET, self.ana.email)
        return self.send(f"/open/{token_of(link)}", {"password": PHRASE})

    def new_address(self) -> Any:
        other = an_account("other", email="other@x.example")
        OneTimeLink.objects.filter(person=other).delete()
        link = OneTimeLink.objects.filter(person=self.ana, kind=LinkKind.MAIL).get()
        link.mail = "new@home.example"
        link.save()
        return self.send(f"/open/{token_of(link)}")

    def undo(self) -> str:
        """The address in the mail that went to the address of before."""
        (letter,) = [one for one in mail.outbox if one.to == ["ana@home.example"]]
        return letter.body.split("/open/")[1].split()[0]

    def test_another_address_is_undone_from_the_old_one_for_a_week(self) -> None:
        self.sign_in()
        thief = Client()
        self.sign_in_as(thief)
        link = new_link(self.ana, LinkKind.MAIL, "thief@x.example")
        self.send(f"/open/{token_of(link)}", client=thief)
        self.assertEqual(User.objects.get(pk=self.ana.pk).email, "thief@x.example")
        self.send("/account/password", {"old": PHRASE, "password": OTHER}, client=thief)
        token = self.undo()
        self.clock.forward(days=6, hours=23)
        mail.outbox.clear()
        done = self.send(f"/open/{token}", client=Client())
        self.assertEqual((done.status_code, done.json()["kind"]), (200, "undo"))
        ana = User.objects.get(pk=self.ana.pk)
        self.assertEqual(ana.email, "ana@home.example")
        self.assertIsNone(thief.get("/api/session").json()["account"])
        for password in (PHRASE, OTHER):
            self.assertFalse(ana.check_password(password), "the thief knows these")
        self.assertEqual([one.to for one in mail.outbox], [["ana@home.example"]])
        self.assertEqual(self.send(f"/open/{token}", client=Client()).status_code, 404)

    def sign_in_as(self, client: Client) -> None:
        body = {"username": "ana", "password": PHRASE, "code": ""}
        self.send("/session", body, client=client)

    def test_after_a_week_it_stays(self) -> None:
        link = new_link(self.ana, LinkKind.MAIL, "new@home.example")
        self.send(f"/open/{token_of(link)}")
        self.clock.forward(days=7, seconds=1)
        self.assertEqual(self.send(f"/open/{self.undo()}").status_code, 404)

    def test_a_name_is_nobody_elses_address(self) -> None:
        new = User.objects.create(username="new-1", email="new@home.example")
        new.set_unusable_password()
        new.save()
        link = new_link(new, LinkKind.WELCOME, new.email)
        body = {"username": "ana@home.example", "password": OTHER}
        refused = self.send(f"/open/{token_of(link)}", body)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("mail address", refused.json()["fields"]["username"])
        own = self.send(f"/open/{token_of(link)}", body | {"username": "new@home.example"})
        self.assertEqual(own.status_code, 200)
        self.sign_in()
        taken = self.send("/account/mail", {"old": PHRASE, "mail": "new@home.example"})
        self.assertEqual(taken.status_code, 422)
        # One that was there before the rule opens its own account by its own address alone.
        User.objects.filter(pk=new.pk).update(username="ana@home.example", email="")
        self.send("/session", method="delete")
        self.assertEqual(self.sign_in("ana@home.example").json()["account"]["name"], "Ana Lima")

    def test_tokens_stay_out_of_logs_and_referrers(self) -> None:
        out = io.StringIO()
        handler = logging.StreamHandler(out)
        handler.setFormatter(JsonFormatter())
        loggers = [logging.getLogger(name) for name in ("vendaval.requests", "django.request")]
        for logger in loggers:
            logger.addHandler(handler)
            self.addCleanup(logger.removeHandler, handler)
        paths = ("/api/open/1-s3cret", "/api/phone/s3cret/pages", "/api/calendar/s3cret.ics")
        for path in (*paths, "/open/1-s3cret"):
            reply = self.client.get(path)
            self.assertEqual(reply.headers["Referrer-Policy"], "no-referrer", path)
        logged = [json.loads(line) for line in out.getvalue().splitlines()]
        self.assertGreaterEqual(len(logged), len(paths))
        self.assertNotIn("s3cret", out.getvalue())


class OfficePowerTests(AccountCase):
    def setUp(self) -> None:
        super().setUp()
        self.office = an_account("office")
        give_role(self.office, self.school, Role.OFFICE)
        give_role(self.ana, self.school, Role.LEARNER)
        self.client.force_login(self.office)

    CALLS = (
        ("put", "", {"name": "Ana", "mail": "thief@x.example", "born": None, "roles": ["learner"]}),
        ("post", "/close", {}),
        ("delete", "/second-factor", {}),
        ("delete", "", {"name": "Ana Lima"}),
    )

    def refused(self, calls: tuple[Any, ...], code: str) -> None:
        for method, path, body in calls:
            address = f"/office/people/{self.ana.pk}{path}"
            edits = method == "put"
            reply = self.change(address, body) if edits else self.send(address, body, method)
            self.assertEqual(
                (reply.status_code, reply.json().get("code")), (409, code), (method, path)
            )
        kept = User.objects.get(pk=self.ana.pk)
        self.assertEqual((kept.email, kept.is_active), ("ana@home.example", True))

    def test_powers_end_with_the_membership(self) -> None:
        end_role(self.ana, self.school, Role.LEARNER)
        more = (("post", "/letter", {}), ("post", "/sign-out", {}), ("post", "/data", {}))
        self.refused((*self.CALLS, *more), "left_school")
        kept = self.send(f"/office/people/{self.ana.pk}", method="get").json()
        self.assertEqual((kept["present"], kept["mail"], kept["username"]), (False, "", ""))
        listed = self.send("/office/people", method="get").json()["people"]
        self.assertEqual([one["mail"] for one in listed if one["id"] == self.ana.pk], [""])

    def test_no_office_alone_takes_an_account_of_two_schools(self) -> None:
        other = School.objects.create(name="Elsewhere")
        give_role(self.ana, other, Role.LEARNER)
        self.refused(self.CALLS, "two_schools")
        body = {"name": "Ana Lima", "mail": "ana@home.example", "born": None, "roles": []}
        path = f"/office/people/{self.ana.pk}"
        self.assertEqual(self.change(path, body).status_code, 200, "a role of its own it ends")
        self.assertTrue(self.ana.memberships.filter(school=other, until=None).exists())

    def test_another_address_by_the_office_is_announced_too(self) -> None:
        body = {"name": "Ana Lima", "mail": "new@home.example", "born": None, "roles": ["learner"]}
        self.assertEqual(self.change(f"/office/people/{self.ana.pk}", body).status_code, 200)
        undo = OneTimeLink.objects.get(person=self.ana, kind=LinkKind.UNDO_MAIL)
        self.assertEqual(undo.mail, "ana@home.example")
