"""Drafts and authors for tests."""

from __future__ import annotations

from vendaval.authoring.drafts import keep_text
from vendaval.authoring.families import opened
from vendaval.authoring.models import Draft
from vendaval.authoring.workbench import draft_version
from vendaval.bank.models import Course
from vendaval.people.models import User


def a_draft(course: Course, key: str, by: User, old: str = "", new: str = "") -> Draft:
    """A draft of a family in which something is written differently: its title, unless said."""
    family = opened(course, key, by)
    text = family.text
    if not old:
        old = text[: text.index("\n")]
        new = f"{old} again"
    assert old in text, f"{key} doesn’t say {old}"
    keep_text(family, text.replace(old, new, 1), by)
    return Draft.objects.get(course=course, key=key)


def version_of_draft(draft: Draft) -> str:
    """As its page has it."""
    return draft_version(draft.text)
