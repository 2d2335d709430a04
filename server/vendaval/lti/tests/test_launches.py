"""Launches: who gets in, as what and to what; and tokens that are refused.

The messages: 1EdTech, Learning Tools Interoperability Core 1.3 and its Security Framework 1.0,
from memory; the platform of these tests signs with a key of its own.
"""

from __future__ import annotations

import json
from contextlib import AbstractContextManager
from typing import Any
from unittest.mock import patch
from urllib.parse import parse_qs, urlsplit

import jwt
from django.test import Client, RequestFactory
from jwcrypto.jwk import JWK
from pylti1p3.contrib.django.message_launch import DjangoMessageLaunch
from pylti1p3.registration import Registration

from vendaval.exams.models import Assignment
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.models import GroupMember, GroupTutor
from vendaval.lti import keys, registering
from vendaval.lti.models import Platform, PlatformAccount, PlatformContext, ToolKey
from vendaval.lti.tool import Launch, Platforms, our_requests
from vendaval.people.actions import give_role
from vendaval.people.models import Role, School
from vendaval.shared import clock
from vendaval.shared.outgoing import Reply
from vendaval.work.tests.builders import with_role

CLAIM = "https://purl.imsglobal.org/spec/lti/claim/"
MEMBER = "http://purl.imsglobal.org/vocab/lis/v2/membership#"
ISSUER, CLIENT = "https://campus.example", "here-1"
KEY, OTHER = (JWK.generate(kty="RSA", size=2048) for _ in range(2))


def pem(key: JWK) -> bytes:
    return bytes(key.export_to_pem(private_key=True, password=None))


def kid(key: JWK) -> str:
    return str(Registration.get_jwk(key.export_to_pem().decode())["kid"])


class LaunchTestCase(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.platform = Platform.objects.create(
            school=School.objects.get(),
            name="Campus",
            issuer=ISSUER,
            client_id=CLIENT,
            login_url=f"{ISSUER}/auth",
            token_url=f"{ISSUER}/token",
            keys_url=f"{ISSUER}/keys",
            deployments=["1"],
            tutors=True,
            made_at=clock.now(),
        )
        self.visitor = Client()

    def begun(self, client: Client | None = None) -> dict[str, str]:
        """What a launch is begun with: its state and nonce."""
        said = {"iss": ISSUER, "login_hint": "u", "client_id": CLIENT, "target_link_uri": "x"}
        reply = (client or self.visitor).post("/lti/login", said)
        self.assertEqual(reply.status_code, 302, reply.content)
        asked = parse_qs(urlsplit(reply["Location"]).query)
        self.assertEqual(asked["response_mode"], ["form_post"])
        return {name: asked[name][0] for name in ("state", "nonce")}

    def says(self, nonce: str, role: str = "Learner", **more: Any) -> dict[str, Any]:
        now = int(clock.now().timestamp())
        return {
            "iss": ISSUER,
            "aud": CLIENT,
            "sub": "u-1",
            "name": "Noa Brás",
            "iat": now,
            "exp": now + 300,
            "nonce": nonce,
            f"{CLAIM}version": "1.3.0",
            f"{CLAIM}deployment_id": "1",
            f"{CLAIM}target_link_uri": "https://here/lti/launch",
            f"{CLAIM}roles": [f"{MEMBER}{role}"],
            f"{CLAIM}context": {"id": "c-7", "title": "Mondays"},
            f"{CLAIM}message_type": "LtiResourceLinkRequest",
            f"{CLAIM}resource_link": {"id": "item-1"},
            **more,
        }

    def believing(self) -> AbstractContextManager[Any]:
        """The platform's public key, without asking for it over the network."""
        known = {"keys": [Registration.get_jwk(KEY.export_to_pem().decode())]}
        return patch.object(Launch, "fetch_public_key", return_value=known)

    def posted(
        self, says: dict[str, Any], state: str, client: Client | None = None, **how: Any
    ) -> Any:
        key = how.get("key", KEY)
        headers = {"kid": how.get("kid", kid(KEY))}
        token = jwt.encode(says, pem(key), algorithm="RS256", headers=headers)
        with self.believing(), _real_time(says):
            return (client or self.visitor).post("/lti/launch", {"id_token": token, "state": state})

    def launched(self, role: str = "Learner", client: Client | None = None, **more: Any) -> Any:
        """A launch that is valid, as far as the page that it leads to."""
        begun = self.begun(client)
        reply = self.posted(self.says(begun["nonce"], role, **more), begun["state"], client)
        self.assertEqual(reply.status_code, 302, reply.content)
        return (client or self.visitor).get(reply["Location"])


def _real_time(says: dict[str, Any]) -> AbstractContextManager[Any]:
    """The library looks at the real clock, and these tests have one of their own."""
    return patch("jwt.api_jwt.PyJWT._validate_claims")


class LaunchTests(LaunchTestCase):
    def test_a_learner_comes_in_and_has_one_account_ever_after(self) -> None:
        reply = self.launched()
        self.assertEqual((reply.status_code, reply["Location"]), (302, "/"))
        account = PlatformAccount.objects.get()
        self.assertEqual(account.person.roles, {Role.LEARNER})
        self.assertFalse(account.person.has_usable_password())
        self.assertEqual(self.visitor.session["_auth_user_id"], str(account.person_id))
        self.launched(client=Client(), name="Noa B.")
        self.assertEqual(PlatformAccount.objects.count(), 1)

    def test_what_is_forged_replayed_old_or_for_others_is_refused(self) -> None:
        now = int(clock.now().timestamp())
        for more, how in (
            ({}, {"key": OTHER}),
            ({}, {"kid": "another"}),
            ({"aud": "elsewhere"}, {}),
            ({"aud": [CLIENT, "elsewhere"]}, {}),
            ({"aud": [CLIENT, "elsewhere"], "azp": "elsewhere"}, {}),
            ({"iss": "https://other.example"}, {}),
            ({"exp": now - 1}, {}),
            ({"iat": now - 3600}, {}),
            ({"nonce": "invented"}, {}),
            ({f"{CLAIM}deployment_id": "2"}, {}),
            ({f"{CLAIM}message_type": "SomethingElse"}, {}),
            ({f"{CLAIM}version": "1.1"}, {}),
            ({"sub": ""}, {}),
        ):
            begun = self.begun()
            reply = self.posted(self.says(begun["nonce"]) | more, begun["state"], **how)
            self.assertEqual(reply.status_code, 400, (more, how))
        begun = self.begun()
        says = self.says(begun["nonce"])
        self.assertEqual(self.posted(says, "state-invented").status_code, 400)
        self.assertEqual(self.posted(says, begun["state"], Client()).status_code, 400, "no cookie")
        begun = self.begun()
        says = self.says(begun["nonce"])
        self.assertEqual(self.posted(says, begun["state"]).status_code, 302)
        self.assertEqual(self.posted(says, begun["state"]).status_code, 400, "replayed")
        unsigned = jwt.encode(says, None, algorithm="none", headers={"kid": kid(KEY)})
        with self.believing():
            body = {"id_token": unsigned, "state": begun["state"]}
            self.assertEqual(self.visitor.post("/lti/launch", body).status_code, 400)
        self.assertEqual(PlatformAccount.objects.count(), 0, "nobody got that far")

    def test_an_arrival_is_used_once(self) -> None:
        begun = self.begun()
        there = self.posted(self.says(begun["nonce"]), begun["state"])["Location"]
        self.assertEqual(Client().get(there).status_code, 410, "another browser")
        self.assertEqual(self.visitor.get(there).status_code, 302)
        self.assertEqual(self.visitor.get(there).status_code, 410)

    def test_the_office_says_whether_tutors_may_come(self) -> None:
        self.assertEqual(self.launched("Instructor").status_code, 302)
        self.assertEqual(PlatformAccount.objects.get().person.roles, {Role.TUTOR})
        Platform.objects.update(tutors=False)
        reply = self.launched("Instructor", sub="u-2")
        self.assertContains(reply, "lets only learners come", status_code=409)
        self.assertEqual(self.launched("Mentor", sub="u-3").status_code, 409)
        self.assertEqual(PlatformAccount.objects.count(), 1)

    def test_an_account_here_is_joined_once_its_owner_is_signed_in(self) -> None:
        self.visitor.force_login(self.learner)
        reply = self.launched()
        self.assertContains(reply, "Is this you?")
        there = reply.request["PATH_INFO"]
        self.assertEqual(PlatformAccount.objects.count(), 0)
        self.assertEqual(self.visitor.post(there, {"whose": "mine"}).status_code, 302)
        account = PlatformAccount.objects.get()
        self.assertEqual((account.person, account.made), (self.learner, False))
        elsewhere = Client()
        self.assertEqual(self.launched(client=elsewhere).status_code, 302)
        self.assertEqual(elsewhere.session["_auth_user_id"], str(self.learner.pk))

    def test_no_launch_opens_an_account_that_may_do_more(self) -> None:
        office = with_role(self.course, Role.OFFICE)
        self.visitor.force_login(office)
        self.assertEqual(self.launched().status_code, 302, "not asked: a new account")
        self.assertNotEqual(PlatformAccount.objects.get().person, office)
        PlatformAccount.objects.update(person=office, made=False)
        reply = self.launched(client=Client())
        self.assertContains(reply, "not from the platform", status_code=409)

    def test_an_account_that_became_more_is_opened_no_more_and_nothing_happens(self) -> None:
        self.launched("Instructor")
        person = PlatformAccount.objects.get().person
        give_role(person, School.objects.get(), Role.OFFICE)
        given = self.given()
        PlatformContext.objects.create(platform=self.platform, context="c-7", group=self.group)
        wanted = {f"{CLAIM}custom": {"work": f"test {given.pk}"}}
        reply = self.launched("Instructor", client=Client(), **wanted)
        self.assertContains(reply, "not from the platform", status_code=409)
        self.assertFalse(GroupTutor.objects.filter(person=person).exists())

    def test_the_platforms_keys_are_asked_for_once_and_again_for_a_new_one(self) -> None:
        key = Registration.get_jwk(KEY.export_to_pem().decode())
        with patch.object(DjangoMessageLaunch, "fetch_public_key") as asked:
            asked.return_value = {"keys": [dict(key)]}
            launch = Launch(
                RequestFactory().post("/"), Platforms(), requests_session=our_requests()
            )
            for known, times in ((kid(KEY), 1), (kid(KEY), 1), ("new", 1)):
                launch._jwt = {"header": {"kid": known}, "body": {}}
                launch.fetch_public_key(f"{ISSUER}/keys")
                self.assertEqual(asked.call_count, times, known)
            self.clock.forward(minutes=2)
            launch.fetch_public_key(f"{ISSUER}/keys")
            self.assertEqual(asked.call_count, 2)

    def test_who_registers_us_is_asked_who_they_are(self) -> None:
        there = f"/lti/register?openid_configuration={ISSUER}/openid"
        self.assertEqual(self.visitor.get(there).status_code, 403)
        self.visitor.force_login(with_role(self.course, Role.OFFICE))
        says = dict.fromkeys(registering.NEEDED, f"{ISSUER}/x")
        for found, why in (
            (b"no JSON", "how it is configured"),
            (json.dumps(says | {"issuer": 1}).encode(), "how it is configured"),
            (json.dumps(says | {"issuer": "https://other.example"}).encode(), "another server"),
            (json.dumps(says | {"jwks_uri": "ftp://x"}).encode(), "jwks_uri"),
        ):
            with patch.object(registering, "ask", return_value=Reply(200, found, {})):
                self.assertContains(self.visitor.get(there), why, status_code=422)

    def test_a_tutor_picks_a_test_and_its_learners_are_led_to_it(self) -> None:
        test = self.given().test
        settings = {
            "deep_link_return_url": f"{ISSUER}/back",
            "accept_types": ["ltiResourceLink"],
            "accept_presentation_document_targets": ["window"],
        }
        picking = {
            f"{CLAIM}message_type": "LtiDeepLinkingRequest",
            "https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings": settings,
        }
        there = self.launched("Instructor", sub="u-9", **picking)["Location"]
        page = self.visitor.get(there)
        self.assertContains(page, test.title)
        self.assertEqual(Client().get(there).status_code, 403)
        back = self.visitor.post(there, {"work": f"test {test.pk}"})
        self.assertContains(back, f'action="{ISSUER}/back"')
        self.assertIn(f"form-action 'self' {ISSUER}", back["Content-Security-Policy"])
        given = Assignment.objects.latest("pk")
        group = PlatformContext.objects.get().group
        self.assertEqual((given.group, given.test, group.title), (group, test, "Mondays"))
        self.assertTrue(GroupTutor.objects.filter(group=group, until=None).exists())
        custom = {f"{CLAIM}custom": {"work": f"test {given.pk}"}}
        learner = Client()
        reply = self.launched(client=learner, **custom)
        self.assertEqual(reply["Location"], f"/courses/inshore/tests/given-{given.pk}")
        self.assertEqual(GroupMember.objects.filter(group=group, until=None).count(), 1)
        other = {f"{CLAIM}context": {"id": "c-8", "title": "Other"}, **custom}
        self.assertContains(self.launched(**other), "any more", status_code=409)

    def test_our_key_changes_and_the_one_before_holds_for_a_day(self) -> None:
        first = {one["kid"] for one in self.visitor.get("/lti/keys").json()["keys"]}
        keys.new_key()
        both = {one["kid"] for one in self.visitor.get("/lti/keys").json()["keys"]}
        self.assertEqual((len(both), first < both), (2, True))
        self.clock.forward(hours=25)
        later = {one["kid"] for one in self.visitor.get("/lti/keys").json()["keys"]}
        self.assertEqual(later, both - first)
        self.clock.forward(days=91)
        keys.current_key()
        self.assertEqual(ToolKey.objects.filter(ends_at=None).count(), 1)
