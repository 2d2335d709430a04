"""Somebody at the office, and how they ask."""

from __future__ import annotations

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, override_settings

from vendaval.groups.models import Group
from vendaval.people.actions import give_role
from vendaval.people.models import Role
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import (
    CourseTestCase,
    an_account,
)

HEAD = "name,mail,role,group,born,guardian,guardian mail\n"
KEPT = override_settings(EMAIL_BACKEND="vendaval.notices.outbox.OutboxBackend")


class OfficeTestCase(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        self.office = an_account("office", display_name="Olga Sá", email="office@school.example")
        give_role(self.office, self.course.school, Role.OFFICE)
        self.at_office = Client()
        self.at_office.force_login(self.office)

    def ask(self, path: str, body: object = None, method: str = "post") -> Any:
        return self.at_office.generic(
            method.upper(), f"/api/office{path}", json.dumps(body or {}), "application/json"
        )

    def change(self, path: str, body: dict[str, Any]) -> Any:
        """Change what was just read."""
        return put_over(self.at_office, f"/api/office{path}", body)

    def read(self, path: str) -> Any:
        reply = self.at_office.get(f"/api/office{path}")
        self.assertEqual(reply.status_code, 200, reply.content[:300])
        return reply.json()

    def upload(self, content: bytes | str, path: str = "/list/check") -> Any:
        data = content.encode() if isinstance(content, str) else content
        return self.at_office.post(
            f"/api/office{path}", {"file": SimpleUploadedFile("people", data)}
        )
