"""Nobody saves over what they have not seen, whatever they change."""

from __future__ import annotations

import json
from typing import Any
from unittest.mock import patch

from django.test import Client

from vendaval.config.api import api
from vendaval.config.tests.policy_case import PolicyCase
from vendaval.config.tests.policy_table import BODIES, NO_EDITS, OWN
from vendaval.groups.actions import put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import Role
from vendaval.work.tests.builders import CourseTestCase, with_role


class EditingTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        self.tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, self.tutor)
        self.desk = Client()
        self.desk.force_login(self.tutor)
        self.at = f"/api/groups/{self.group.pk}/settings"

    def put(self, body: dict[str, Any]) -> Any:
        return self.desk.put(self.at, json.dumps(body), "application/json")

    def test_every_change_names_the_version_it_began_from(self) -> None:
        """A new PUT or PATCH either takes part or says why it need not."""
        document = api.get_openapi_schema()
        schemas, without = document["components"]["schemas"], set()
        for methods in document["paths"].values():
            for method, operation in methods.items():
                if method not in {"put", "patch"}:
                    continue
                body = operation["requestBody"]["content"].get("application/json")
                told = body["schema"]["$ref"].split("/")[-1] if body else ""
                if "version" not in schemas.get(told, {}).get("required", ()):
                    without.add(operation["operationId"])
        self.assertEqual(without, set(NO_EDITS))

    def test_the_older_page_is_refused_with_what_stands_and_can_put_both_together(self) -> None:
        seen = self.desk.get(self.at).json()["version"]
        mine = {"title": "Wednesday", "tries": 2, "version": seen}
        theirs = {"title": "Tuesday", "targets": {"buoyage": 85}, "not_taught": ["tidal-terms"]}
        kept = self.put(theirs | {"version": seen}).json()
        refused = self.put(mine)
        told = refused.json()
        self.assertEqual((refused.status_code, told["code"]), (409, "changed"))
        self.assertEqual(told["version"], kept["version"])
        current = told["current"]
        self.assertEqual((current["title"], current["targets"]), ("Tuesday", {"buoyage": 85.0}))
        self.assertEqual(self.desk.get(self.at).json(), kept, "nothing was stored")
        both = current | {"title": "Wednesday", "tries": 2, "version": told["version"]}
        merged = self.put(both).json()
        self.assertEqual((merged["title"], merged["tries"]), ("Wednesday", 2))
        self.assertIn(85, [one["target"] for one in merged["topics"]])

    def test_what_is_sent_twice_is_no_conflict_with_itself(self) -> None:
        seen = self.desk.get(self.at).json()["version"]
        body = {"title": "Wednesday", "not_taught": ["tidal-terms", "buoyage"], "version": seen}
        first, again = self.put(body), self.put(body)
        self.assertEqual((first.status_code, again.status_code), (200, 200))
        self.assertEqual(first.json(), again.json())

    def test_whoever_may_not_change_it_is_told_nothing_of_it(self) -> None:
        self.desk.force_login(with_role(self.course, Role.AUTHOR))
        self.assertEqual(self.put({"title": "Mine", "version": "old"}).status_code, 404)


class EveryEditTests(PolicyCase):
    def test_every_change_of_what_others_edit_refuses_an_old_version(self) -> None:
        related = self.relate()
        by = related | {Role.OFFICE: related["office"], "own": self.ana}
        replies = {}

        def send_old(client: Client, path: str, body: dict[str, Any]) -> Any:
            old = json.dumps(body | {"version": "old"})
            replies[path] = client.put(path, old, "application/json")
            return replies[path]

        more = {
            "set_criteria": {"criteria": [{"says": "Right", "points": 2}]},
            "set_second_marker": {"person": related["tutor"].pk},
            "set_mail_choices": {"unwanted": ["target_met"]},
            "change_given": {"due": "2026-03-09T09:00:00Z"},
        }
        edits = [o for o in self.listed() if o.method == "put" and o.name not in NO_EDITS]
        with (
            patch("vendaval.config.tests.policy_case.put_over", send_old),
            patch.dict(BODIES, more),
        ):
            for operation in edits:
                client = Client()
                whose = "own" if operation.name in OWN else "tutor"
                whose = "author" if "/authoring/" in operation.address else whose
                client.force_login(by[Role.OFFICE if "/office/" in operation.address else whose])
                self.assertEqual(self.ask(client, operation), 409, operation.name)
        for path, reply in replies.items():
            told = reply.json()
            self.assertEqual((told["code"], len(told["version"])), ("changed", 16), path)
            self.assertGreater(len(told["current"]), 0, path)
        self.assertEqual(len(replies), 17)
