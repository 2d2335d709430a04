"""People and groups as the office sees them in the browser."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from vendaval.people.models import Role
from vendaval.people.names import plain_name
from vendaval.shared.editing import Edited, sorted_once

from .people import AccountState

Name = Annotated[str, Field(min_length=1, max_length=80), AfterValidator(plain_name)]
NoNameOrName = Annotated[
    str, Field(max_length=80), AfterValidator(lambda text: plain_name(text) if text else "")
]
Title = Annotated[str, Field(min_length=1, max_length=80)]
Key = Annotated[str, Field(max_length=60)]
Mail = Annotated[str, Field(max_length=254)]
MORE = ConfigDict(extra="forbid")


class PersonLineOut(BaseModel):
    """Somebody in a list. groups: titles."""

    id: int
    name: str
    mail: str
    roles: list[Role]
    groups: list[str]
    state: AccountState


class PeopleListOut(BaseModel):
    """A page of people, by name. all: how many there are in all."""

    people: list[PersonLineOut]
    page: int
    pages: int
    all: int


class GroupPlaceOut(BaseModel):
    """A group somebody learns in or teaches."""

    group: int
    title: str
    course: str
    role: Role


class GuardLinkOut(BaseModel):
    """A guardian of somebody, or a learner they are the guardian of. id: of the link."""

    id: int
    person: int
    name: str
    vouched: bool
    since: datetime


class ConsentLineOut(BaseModel):
    agreed: bool
    named: str
    noted_by: str | None
    wording: str
    on_paper: bool
    at: datetime


class LinkLineOut(BaseModel):
    """The newest link that was mailed to somebody."""

    kind: str
    mailed_at: datetime | None
    ends_at: datetime
    used_at: datetime | None


class PersonOut(BaseModel):
    """Somebody, with everything the office may see of them. own: it is who asks."""

    id: int
    present: bool
    name: str
    username: str
    mail: str
    born: date | None
    state: AccountState
    roles: list[Role]
    writes: list[str]
    places: list[GroupPlaceOut]
    guardians: list[GuardLinkOut]
    wards: list[GuardLinkOut]
    consents: list[ConsentLineOut]
    link: LinkLineOut | None
    since: datetime
    last_here: datetime | None
    sessions: int
    factor: bool
    own: bool
    version: str


class InviteIn(BaseModel):
    """Somebody to invite. group: to learn in, or to teach."""

    model_config = MORE
    name: Name
    mail: Mail
    role: Role
    group: int | None = None
    born: date | None = None
    guardian_name: NoNameOrName = ""
    guardian_mail: Mail = ""


class PersonEdit(BaseModel):
    """What of somebody is edited. `writes`: courses that an author's writing is kept to, none for
    all of the school."""

    model_config = MORE
    name: Name
    mail: Mail = ""
    born: date | None = None
    roles: Annotated[list[Role], Field(max_length=5), AfterValidator(sorted_once)]
    writes: Annotated[list[Key], Field(max_length=200), AfterValidator(sorted_once)] = []


class PersonIn(PersonEdit, Edited):
    """Somebody changed."""


class PaperConsentIn(BaseModel):
    """A guardian's word on paper, and whose it is."""

    model_config = MORE
    agreed: bool
    guardian: Name


class GuardianIn(BaseModel):
    model_config = MORE
    name: Name
    mail: Mail


class PlaceIn(BaseModel):
    """A group, and whether to learn in it or to teach it."""

    model_config = MORE
    group: int
    role: Literal["learner", "tutor"]


class DeleteIn(BaseModel):
    """name: the person's, typed again, so that nobody is deleted by a slip."""

    model_config = MORE
    name: Name


class GoneOut(BaseModel):
    """Who was deleted has no name any more: the number that is left."""

    number: int


class ListRowOut(BaseModel):
    line: int
    name: str
    mail: str
    role: str
    group: str
    faults: list[str]


class ListCheckOut(BaseModel):
    """What a list would bring in. rows: those with faults first. all, faulty: how many rows;
    guardians: who would be invited beside them."""

    rows: list[ListRowOut]
    all: int
    faulty: int
    guardians: int


class ImportedOut(BaseModel):
    """How many were taken in; the mails go out by a job."""

    people: int
    mails: int


class OfficeGroupLineOut(BaseModel):
    id: int
    title: str
    course: str
    course_title: str
    tutors: list[str]
    learners: int


class GroupListOut(BaseModel):
    groups: list[OfficeGroupLineOut]


class MemberOut(BaseModel):
    person: int
    name: str
    since: datetime


class OfficeGroupOut(BaseModel):
    id: int
    title: str
    course: str
    course_title: str
    tutors: list[MemberOut]
    learners: list[MemberOut]
    staff: list[MemberOut]
    version: str


class NewGroupIn(BaseModel):
    model_config = MORE
    course: Annotated[str, Field(max_length=50)]
    title: Title


class GroupEdit(BaseModel):
    """What of a group the office edits."""

    model_config = MORE
    title: Title
    tutors: Annotated[list[int], Field(max_length=20), AfterValidator(sorted_once)]


class GroupIn(GroupEdit, Edited):
    """A group changed."""


class OfficeCourseOut(BaseModel):
    key: str
    title: str
    open_to_all: bool
    groups: int
    learners: int
    version: str


class NewCourseIn(BaseModel):
    """A new course: with a first subject and topic, or as a copy of another, by its key."""

    model_config = MORE
    title: Annotated[str, Field(min_length=3, max_length=120)]
    subject: Annotated[str, Field(max_length=120)] = ""
    topic: Annotated[str, Field(max_length=120)] = ""
    copy_of: Annotated[str, Field(max_length=60)] = ""


class SchoolOut(BaseModel):
    """The school's settings, and its courses. wording: what guardians agree to, with {learner}
    and {school} in it."""

    name: str
    consent_until: int
    wording: str
    version: str
    courses: list[OfficeCourseOut]


class SchoolEdit(BaseModel):
    """What of a school is edited."""

    model_config = MORE
    name: Annotated[str, Field(min_length=1, max_length=120)]
    consent_until: Annotated[int, Field(ge=0, le=18)]
    wording: Annotated[str, Field(min_length=20, max_length=2000)]


class SchoolIn(SchoolEdit, Edited):
    """A school changed."""


class OfficeCourseEdit(BaseModel):
    """What of a course the office edits."""

    model_config = MORE
    open_to_all: bool


class OfficeCourseIn(OfficeCourseEdit, Edited):
    """A course changed."""
