"""An account of one's own: the way in by a mailed link, a new password, another mail address,
sessions, a guardian's consent, a second factor."""

from __future__ import annotations

import base64
import json
import re
import unittest
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pyotp
from django.conf import settings
from django.core import mail
from django.core.management.base import CommandError
from django.test import Client, TestCase, override_settings
from hypothesis import given
from hypothesis import strategies as st

from vendaval.people.actions import give_role, link_guardian
from vendaval.people.consent import age_on
from vendaval.people.link_mails import mail_link
from vendaval.people.models import (
    LinkKind,
    OneTimeLink,
    Role,
    School,
    SecondFactor,
    User,
)
from vendaval.people.one_time_links import new_link, token_of
from vendaval.shared import clock
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import TestClock, an_account, run_command

PHRASE = "a long pass phrase"
MAILED = override_settings(EMAIL_BACKEND="django.core.mail.backends.locmem.EmailBackend")


class AgeTests(unittest.TestCase):
    def test_years_are_full_on_the_birthday(self) -> None:
        self.assertEqual(age_on(date(2010, 6, 15), date(2026, 6, 14)), 15)
        self.assertEqual(age_on(date(2010, 6, 15), date(2026, 6, 15)), 16)
        self.assertEqual(age_on(date(2012, 2, 29), date(2028, 2, 28)), 15)
        self.assertEqual(age_on(date(2012, 2, 29), date(2027, 2, 28)), 14)
        self.assertEqual(age_on(date(2012, 2, 29), date(2027, 3, 1)), 15)

    @given(st.dates(date(1950, 1, 1), date(2020, 1, 1)), st.integers(0, 90))
    def test_against_counting_birthdays(self, born: date, years: int) -> None:
        """Each birthday adds one, and the day before it does not."""
        if (born.month, born.day) == (2, 29):
            return
        birthday = born.replace(year=born.year + years)
        self.assertEqual(age_on(born, birthday), years)
        self.assertEqual(age_on(born, birthday - timedelta(days=1)), years - 1)


class AccountCase(TestCase):
    """A school, and somebody with an account and an address."""

    def setUp(self) -> None:
        self.clock = TestClock()
        held = clock.held_by(self.clock)
        held.__enter__()
        self.addCleanup(held.__exit__, None, None, None)
        self.school = School.objects.create(name="Molhe", consent_until=16)
        self.ana = an_account(email="ana@home.example")

    def send(self, path: str, body: object = None, method: str = "post", **client: Any) -> Any:
        where = client.get("client", self.client)
        return where.generic(
            method.upper(), f"/api{path}", json.dumps(body or {}), "application/json"
        )

    def change(self, path: str, body: dict[str, Any]) -> Any:
        """Change what was just read."""
        return put_over(self.client, f"/api{path}", body)

    def sign_in(self, name: str = "ana", password: str = PHRASE, code: str = "") -> Any:
        return self.send("/session", {"username": name, "password": password, "code": code})

    def invited(self, role: Role = Role.LEARNER, **more: Any) -> tuple[User, str]:
        person = User.objects.create(
            username="invited-x", display_name="Nel Reis", email="nel@home.example", **more
        )
        person.set_unusable_password()
        person.save()
        give_role(person, self.school, role)
        link = new_link(person, LinkKind.WELCOME, person.email)
        mail_link(link)
        found = re.search(r"/open/(\S+)", str(mail.outbox[-1].body))
        assert found is not None
        return person, found[1]


@MAILED
class AccountTests(AccountCase):
    def test_an_invitation_is_accepted_once(self) -> None:
        person, token = self.invited()
        shown = self.client.get(f"/api/open/{token}").json()
        self.assertEqual((shown["kind"], shown["username"]), ("welcome", "nel"))
        taken = self.send(f"/open/{token}", {"username": "ANA", "password": "green boat 7 oars"})
        self.assertEqual(taken.json()["fields"], {"username": "Somebody else has this user name."})
        weak = self.send(f"/open/{token}", {"username": "nel", "password": "password"})
        self.assertIn("too common", weak.json()["fields"]["password"])
        like = self.send(f"/open/{token}", {"username": "nelreis99", "password": "nelreis99"})
        self.assertIn("too similar", like.json()["fields"]["password"])
        body = {"username": "nel", "password": "green boat 7 oars"}
        self.assertTrue(self.send(f"/open/{token}", body).json()["signed_in"])
        self.assertEqual(self.client.get("/api/session").json()["account"]["id"], person.pk)
        self.assertEqual(self.send(f"/open/{token}", body).status_code, 404)
        self.assertEqual(self.client.get(f"/api/open/{token}").status_code, 404)

    def test_links_run_out_and_cannot_be_guessed(self) -> None:
        _, token = self.invited()
        for bad in (token[:-1] + "x", "1-" + "0" * 40, "x", token.replace("-", "")):
            self.assertEqual(self.client.get(f"/api/open/{bad}").status_code, 404, bad)
        self.clock.forward(days=15)
        self.assertEqual(self.client.get(f"/api/open/{token}").status_code, 404)

    def test_the_database_alone_opens_nothing(self) -> None:
        """A token holds for one server's secret and one row."""
        self.invited()
        link = OneTimeLink.objects.get()
        mine = token_of(link)
        with override_settings(SECRET_KEY="another secret of another server"):
            self.assertNotEqual(token_of(link), mine)

    def test_a_new_password_ends_every_session(self) -> None:
        self.assertEqual(self.sign_in().status_code, 200)
        other = Client()
        for address in ("nobody@home.example", "ANA@home.example"):
            reply = self.send("/reset", {"mail": address}, client=other)
            self.assertEqual(reply.json(), {"asked": True}, "nobody is told who has an account")
        self.assertEqual([letter.to for letter in mail.outbox], [["ana@home.example"]])
        token = re.search(r"/open/(\S+)", str(mail.outbox[0].body))[1]  # type: ignore[index]
        body = {"password": "another long phrase"}
        used = self.send(f"/open/{token}", body, client=other).json()
        self.assertFalse(used["signed_in"], "the new password is typed, with what else is asked")
        self.assertIsNone(self.client.get("/api/session").json()["account"])
        self.assertEqual(self.sign_in().status_code, 400)
        self.assertEqual(self.sign_in(password="another long phrase").status_code, 200)

    def test_no_more_than_three_mails_an_hour(self) -> None:
        for _ in range(6):
            self.send("/reset", {"mail": "ana@home.example"})
        self.assertEqual(len(mail.outbox), 3)
        self.clock.forward(hours=2)
        self.send("/reset", {"mail": "ana@home.example"})
        self.assertEqual(len(mail.outbox), 4)

    def test_another_mail_address_counts_once_it_is_opened(self) -> None:
        self.sign_in()
        bad = self.send("/account/mail", {"mail": "no address", "old": PHRASE})
        self.assertEqual(bad.status_code, 422)
        unknown = self.send("/account/mail", {"mail": "new@home.example", "old": "a guess"})
        self.assertEqual(unknown.json()["code"], "wrong_credentials")
        self.assertEqual(mail.outbox, [], "an open browser is not enough")
        reply = self.send("/account/mail", {"mail": "new@home.example", "old": PHRASE}).json()
        self.assertEqual(
            (reply["mail"], reply["new_mail"]), ("ana@home.example", "new@home.example")
        )
        token = re.search(r"/open/(\S+)", str(mail.outbox[-1].body))[1]  # type: ignore[index]
        self.assertEqual(self.send(f"/open/{token}", client=Client()).status_code, 200)
        self.ana.refresh_from_db()
        self.assertEqual(self.ana.email, "new@home.example")
        self.assertEqual(mail.outbox[-1].to, ["ana@home.example"], "the old one is told")
        self.client.delete("/api/session")
        self.assertEqual(self.sign_in("new@home.example").status_code, 200)

    def test_sessions_are_seen_and_ended(self) -> None:
        self.sign_in()
        other = Client(headers={"User-Agent": "A phone"})
        body = {"username": "ana", "password": PHRASE}
        self.send("/session", body, client=other)
        seen = self.client.get("/api/account").json()["sessions"]
        self.assertEqual(
            sorted((s["agent"], s["here"]) for s in seen), [("", True), ("A phone", False)]
        )
        left = self.send("/account/sessions", method="delete").json()["sessions"]
        self.assertEqual(len(left), 1)
        self.assertIsNone(other.get("/api/session").json()["account"])
        self.send("/session", body, client=other)
        wrong = self.send("/account/password", {"old": "no", "password": "green boat 7 oars"})
        self.assertEqual(wrong.json()["code"], "wrong_credentials")
        self.send("/account/password", {"old": PHRASE, "password": "green boat 7 oars"})
        self.assertIsNotNone(self.client.get("/api/session").json()["account"])
        self.assertIsNone(other.get("/api/session").json()["account"])

    def test_a_cookie_that_opens_nothing_takes_no_other_away(self) -> None:
        """A request that is under way while somebody goes on as another account."""
        stale = Client()
        stale.cookies[settings.SESSION_COOKIE_NAME] = "0123456789abcdef0123456789abcdef"
        reply = stale.get("/api/account")
        self.assertEqual(reply.status_code, 403)
        self.assertNotIn(settings.SESSION_COOKIE_NAME, reply.cookies)
        self.sign_in()
        gone = self.client.delete("/api/session")
        self.assertEqual(gone.cookies[settings.SESSION_COOKIE_NAME].value, "")

    def test_a_young_learner_waits_for_a_guardian(self) -> None:
        """The account works once a guardian whom the office vouches for agrees, and no longer than
        that."""
        person, token = self.invited(born=date(2011, 5, 1))
        body = {"username": "nel", "password": "green boat 7 oars"}
        used = self.send(f"/open/{token}", body).json()
        self.assertEqual((used["signed_in"], used["waits"]), (False, True))
        self.assertEqual(self.sign_in("nel", body["password"]).json()["code"], "consent_waited")
        guardian, friend = an_account("vera", display_name="Vera Reis"), an_account("friend")
        link_guardian(guardian, person, vouched=True)
        link_guardian(friend, person)
        false, true = Client(), Client()
        false.force_login(friend)
        true.force_login(guardian)
        not_theirs = person.guardians.get(guardian=friend).pk
        reply = self.send(f"/consents/{not_theirs}", {"agreed": True}, "put", client=false)
        self.assertEqual(reply.status_code, 404, "a friend’s code is no consent")
        asked = true.get("/api/consents").json()["consents"][0]
        self.assertIn("Nel Reis", asked["wording"])
        self.send(f"/consents/{asked['id']}", {"agreed": True}, "put", client=true)
        kept = person.consents.get()
        self.assertEqual((kept.named, kept.wording), ("Vera Reis", asked["wording"]))
        self.assertEqual(self.sign_in("nel", body["password"]).status_code, 200)
        self.send(f"/consents/{asked['id']}", {"agreed": False}, "put", client=true)
        self.assertIsNone(self.client.get("/api/session").json()["account"], "signed out at once")
        self.clock.time = datetime(2027, 5, 1, 12, tzinfo=UTC)
        self.assertEqual(self.sign_in("nel", body["password"]).status_code, 200, "sixteen today")

    def staff(self) -> str:
        """Ana is a tutor with a second factor; its secret."""
        give_role(self.ana, self.school, Role.TUTOR)
        self.sign_in()
        secret = str(self.send("/account/second-factor", {"old": PHRASE}).json()["secret"])
        wrong = self.send("/account/second-factor", {"code": "000000"}, "put")
        self.assertEqual(wrong.json()["code"], "second_factor_wrong")
        self.assertFalse(SecondFactor.objects.exclude(confirmed_at=None).exists())
        code = pyotp.TOTP(secret).at(self.clock.time)
        self.spares = self.send("/account/second-factor", {"code": code}, "put").json()["spares"]
        self.client.delete("/api/session")
        return secret

    def test_a_second_factor_is_asked_for(self) -> None:
        secret = self.staff()
        self.assertEqual(self.sign_in().json()["code"], "second_factor_wanted")
        self.assertEqual(self.sign_in(password="no").json()["code"], "wrong_credentials")
        code = pyotp.TOTP(secret).at(self.clock.time)
        self.assertEqual(self.sign_in(code=code).json()["code"], "second_factor_wrong", "used")
        self.clock.forward(seconds=30)
        code = pyotp.TOTP(secret).at(self.clock.time)
        self.clock.forward(seconds=29)
        self.assertEqual(self.sign_in(code=code).status_code, 200, "a clock may be a step off")
        self.clock.forward(seconds=61)
        late = pyotp.TOTP(secret).at(self.clock.time - timedelta(seconds=61))
        self.assertEqual(self.sign_in(code=late).json()["code"], "second_factor_wrong")

    def test_a_spare_code_opens_once(self) -> None:
        self.staff()
        self.assertEqual(self.sign_in(code=self.spares[0].lower()).status_code, 200)
        self.assertEqual(self.client.get("/api/account").json()["spares"], 7)
        self.assertEqual(self.sign_in(code=self.spares[0]).json()["code"], "second_factor_wrong")

    def test_it_is_taken_away_by_who_knows_the_password_and_by_nobody_else(self) -> None:
        self.staff()
        self.sign_in(code=self.spares[0])
        refused = self.send("/account/second-factor", {"old": "a guess"}, "delete")
        self.assertEqual(refused.json()["fields"], {"old": "That isn’t your password."})
        self.assertTrue(self.client.get("/api/account").json()["factor"])
        again = self.send("/account/second-factor", {"old": PHRASE})
        self.assertEqual(again.json()["code"], "factor_there", "a second one takes no first away")
        self.send("/account/second-factor", {"old": PHRASE}, "delete")
        self.client.delete("/api/session")
        self.assertEqual(self.sign_in().status_code, 200)

    def test_wrong_digits_count_as_failures(self) -> None:
        self.staff()
        codes = [self.sign_in(code="123456").json()["code"] for _ in range(11)]
        self.assertEqual(codes, ["second_factor_wrong"] * 10 + ["wait"])

    def test_the_digits_are_those_of_the_standard(self) -> None:
        """RFC 6238, appendix B, SHA-1: the last six of its eight digits."""
        secret = base64.b32encode(b"12345678901234567890").decode()
        give_role(self.ana, self.school, Role.TUTOR)
        table = ((59, "94287082"), (1111111109, "07081804"), (1234567890, "89005924"))
        for seconds, digits in table:
            SecondFactor.objects.all().delete()
            SecondFactor.objects.create(person=self.ana, secret=secret, confirmed_at=clock.now())
            self.clock.time = datetime.fromtimestamp(seconds, UTC)
            self.assertEqual(self.sign_in(code=digits[2:]).status_code, 200, seconds)
            self.client.delete("/api/session")

    def test_learners_have_no_second_factor(self) -> None:
        self.sign_in()
        self.assertEqual(self.send("/account/second-factor", {"old": PHRASE}).status_code, 403)
        self.assertIsNone(self.client.get("/api/account").json()["factor"])


class RoleCommandTests(TestCase):
    def test_the_first_of_an_office(self) -> None:
        ana, school = an_account(), School.objects.create(name="Molhe")
        with self.assertRaisesRegex(CommandError, "no school “Mole”; there is “Molhe”"):
            run_command("give_role", "ana", "office", school="Mole")
        said = run_command("give_role", "ana", "office", school="Molhe")
        self.assertEqual(said, "Ana Lima is office at Molhe now.\n")
        self.assertEqual(ana.memberships.get().school, school)
