"""Changing what others may edit too, as a page does that has just read it."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client


def put_over(client: Client, path: str, body: dict[str, Any]) -> Any:
    """PUT as somebody who has seen what stands now; returns the reply."""
    reply = _put(client, path, body, "unseen")
    if reply.status_code == 409 and reply.json()["code"] == "changed":
        reply = _put(client, path, body, reply.json()["version"])
    return reply


def _put(client: Client, path: str, body: dict[str, Any], version: str) -> Any:
    return client.put(path, json.dumps(body | {"version": version}), "application/json")
