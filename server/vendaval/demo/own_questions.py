"""What Clara wrote for her group: one question it gets, and one that she began."""

from __future__ import annotations

from datetime import datetime, timedelta

from vendaval.authoring.access import Begun
from vendaval.authoring.drafts import begin_family, keep_text
from vendaval.authoring.publishing import publish
from vendaval.authoring.schemas import NewFamilyIn, PublishIn
from vendaval.authoring.workbench import draft_version
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock

LOCK = """\
title: Depth in the lock
difficulty: 2
seconds: 45
source: Clara’s sheet for Tuesday
study: under-keel
variables:
  depth: {range: [3.0, 5.0, 0.1]}
  draught: {range: [1.4, 2.2, 0.1]}
constraints:
  - abs(depth - 2 * draught) > 0.15
prompt: >-
  The lock at Porto Sível has **[[fixed(depth, 1)]] m** of water, and you draw
  **[[fixed(draught, 1)]] m**. How much water is under your keel?
parts:
  - kind: text_entry
    id: under
    value: number
    unit: m
    digits: 1
    answer: depth - draught
    tolerance: 0.05
    near_misses:
      - answer: depth + draught
        says: You added the draught. The keel is that far below the surface, so take it away.
hints:
  - Your keel is your draught below the surface.
solution:
  - >-
    Depth less draught: [[fixed(depth, 1)]] − [[fixed(draught, 1)]] =
    [[fixed(depth - draught, 1)]] m.
"""


def own_questions(group: Group, tutor: User, now: datetime) -> None:
    """Three days ago one was published; another was begun last night."""
    begun = Begun(group.course, group)
    with clock.held_by(lambda: now - timedelta(days=3)):
        body = NewFamilyIn(topic="clearance-windows", title="Depth in the lock", start="number")
        family = keep_text(begin_family(begun, body, tutor), LOCK, tutor)
        wanted = PublishIn(version=draft_version(family.text), why="For Tuesday.", keeps=True)
        publish(family, wanted, tutor)
    with clock.held_by(lambda: now - timedelta(hours=16)):
        body = NewFamilyIn(topic="clearance-windows", title="Two bridges", start="choice")
        begin_family(begun, body, tutor)
