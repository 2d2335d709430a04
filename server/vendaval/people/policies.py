"""Who may do what with what: one table of operation × role × relation.

An operation is named as in the API's document. Whoever has no relation that the table names gets
404 and not 403, so that ids tell nothing.
"""

from __future__ import annotations

from collections.abc import Mapping, Set
from enum import StrEnum

from vendaval.shared.errors import NotFound

from .models import Role


class Relation(StrEnum):
    """What somebody is to a learner's work: their own, of a group of mine, of a learner I am the
    guardian of, of a course I write for."""

    OWN = "own"
    GROUP = "group"
    CHILD = "child"
    COURSE = "course"


Rule = frozenset[tuple[Role, Relation]]

OWN_WORK: Rule = frozenset({(Role.LEARNER, Relation.OWN)})

READS = (
    "get_today",
    "get_practice_plan",
    "list_topics",
    "get_topic",
    "get_study",
    "get_rehearsal",
    "get_run",
    "why_question",
    "list_misses",
    "get_miss",
)
WRITES = (
    "open_study",
    "question_shown",
    "start_run",
    "go_on",
    "finish_run",
    "answer_question",
    "take_back",
    "swap_question",
    "open_hint",
    "show_working",
    "fresh_version",
    "set_aside_miss",
    "try_rehearsal",
)
RULES: Mapping[str, Rule] = dict.fromkeys(READS + WRITES, OWN_WORK)


def may(operation: str, roles: Set[Role], relation: Relation | None) -> bool:
    """Whether somebody with these roles, standing in this relation, may do something."""
    if relation is None:
        return False
    return any((role, relation) in RULES[operation] for role in roles)


def require(operation: str, roles: Set[Role], relation: Relation | None) -> None:
    """NotFound unless they may."""
    if not may(operation, roles, relation):
        raise NotFound("There is nothing of yours at this address.")
