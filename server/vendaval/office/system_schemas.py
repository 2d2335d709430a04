"""The log, mails and the health of the system, as the office sees them in the browser."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from vendaval.people.models import AuditKind


class AuditLineOut(BaseModel):
    """Something that was done. person: whose account it is about; by: who did it, null when it
    was themselves or the server. Who was deleted has no name."""

    id: int
    at: datetime
    kind: AuditKind
    what: str
    person: int | None
    name: str | None
    by: str | None
    address: str | None
    says: str


class AuditKindOut(BaseModel):
    kind: AuditKind
    what: str


class AuditOut(BaseModel):
    """The newest first. older: id to ask for older ones with, null at the end."""

    entries: list[AuditLineOut]
    older: int | None
    kinds: list[AuditKindOut]


class SentOut(BaseModel):
    id: int
    to: str
    subject: str
    body: str
    at: datetime


class SentListOut(BaseModel):
    """Mails in the outbox, the newest first. kept: whether mails are kept here; with a mail server
    they leave no copy. waiting: mails with links that have still to go out."""

    letters: list[SentOut]
    older: int | None
    kept: bool
    waiting: int


class SystemCheckOut(BaseModel):
    """Something that is looked at. well: null where it was never looked at."""

    what: str
    well: bool | None
    says: str
    at: datetime | None


class JobOut(BaseModel):
    id: str
    what: str
    state: Literal["ready", "running", "failed", "successful", "lost"]
    at: datetime
    ended: datetime | None
    why: str
    again: bool


class CalibrationAskOut(BaseModel):
    """A family that a calibration doubts, and why."""

    family: str
    says: str


class CalibrationLineOut(BaseModel):
    """A calibration of a course: so many families would have another curve, from so many answers.
    applied_by: empty while it is a proposal; waits: a job is about to put it in force. asks: what
    authors should look at."""

    id: int
    course: str
    made_by: str
    made_at: datetime
    families: int
    answers: int
    applied_by: str
    applied_at: datetime | None
    waits: bool
    asks: list[CalibrationAskOut]


class SystemOut(BaseModel):
    """How the system is: checks, calibrations of the school's courses, and the latest jobs."""

    checks: list[SystemCheckOut]
    calibrations: list[CalibrationLineOut]
    jobs: list[JobOut]


class ToDoOut(BaseModel):
    """Something that waits for the office, why, and where it is done."""

    what: str
    why: str
    path: str


class OfficeOut(BaseModel):
    """What the office does now, and how many people there are."""

    school: str
    todo: list[ToDoOut]
    people: int
    learners: int
    groups: int
