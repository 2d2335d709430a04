"""What goes out of each table when somebody's data is written out, and to whom.

Every table of the installation is named here, and of those that go out every column, so that
nothing new goes out unless somebody decided that it should (tests/test_own_data.py).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from .withheld import Held, entered, mark, presentation, told_only, tried

Row = dict[str, Any]
Shape = Callable[[Any, Row, Held], Row | None]


@dataclass(frozen=True, slots=True)
class Table:
    """What goes out of a table.

    path: from its rows to the person; also: another path, of rows that belong to them as well. out:
    columns that go out. kept_back: columns that never do. office: whether the office gets it too,
    by the path to the school whose office asks, or "" where there is none; an office sees no
    answers. only: which of those rows, by columns. needs: relations that are loaded along. shape:
    what goes out of a row, or None for nothing of it: what the rules of a test hold back stays
    back here too.
    """

    path: str
    out: str
    kept_back: str = ""
    office: str | None = None
    also: str = ""
    only: Mapping[str, Any] = field(default_factory=dict)
    needs: tuple[str, ...] = ()
    shape: Shape | None = None


TABLES: dict[str, Table] = {
    "people.User": Table(
        "pk",
        "id username display_name email born consented date_joined last_login is_active came_by",
        "password is_superuser is_staff first_name last_name demo_note practice_for",
        office="",
    ),
    "people.Membership": Table("person", "school role since until", "id person", office="school"),
    "people.Guardianship": Table(
        "guardian", "learner vouched since until", "id guardian", office=""
    ),
    "people.GuardianCode": Table("learner", "made_at ends_at used_at", "id learner code"),
    "people.Consent": Table(
        "learner", "agreed named wording on_paper at", "id learner by address", office=""
    ),
    "people.OneTimeLink": Table(
        "person",
        "kind mail made_at ends_at mailed_at used_at",
        "id person nonce by",
        office=None,
    ),
    "people.SecondFactor": Table("person", "confirmed_at", "id person secret last_step spares"),
    "people.AccountSession": Table(
        "person", "since address agent expire_date", "session_key session_data person"
    ),
    "people.AuditEntry": Table("account", "at kind says address", "id account named by"),
    "groups.Enrolment": Table(
        "person", "id course since until own aims", "person seed", office="course__school"
    ),
    "groups.GroupMember": Table(
        "enrolment__person", "group since until", "id enrolment", office="group__course__school"
    ),
    "groups.GroupTutor": Table(
        "person", "group since until", "id person", office="group__course__school"
    ),
    "groups.CourseAuthor": Table(
        "person", "course since until", "id person", office="course__school"
    ),
    "work.Run": Table(
        "enrolment__person",
        "id enrolment purpose title scope presented answered started_at touched_at ended_at "
        "rehearsal",
        "note deadline_at spell current",
    ),
    "work.Presentation": Table(
        "run__enrolment__person",
        "id run number tried hints_shown helped made_at shown_at closed_at closing",
        "revision seed order root why visibility in_open_test",
        needs=("run__enrolment", "revision__family__topic"),
        shape=presentation,
    ),
    "work.Try": Table(
        "enrolment__person",
        "id presentation kind number response first confidence working seconds reply at",
        "enrolment family topic replay_key leads_to undoes",
        needs=("presentation__run__enrolment", "presentation__revision__family__topic"),
        shape=tried,
    ),
    "work.Mark": Table(
        "tried__enrolment__person",
        "tried part verdict share says at",
        "id canonical rule by revision replaces",
        needs=(
            "tried__presentation__run__enrolment",
            "tried__presentation__revision__family__topic",
        ),
        shape=mark,
    ),
    "work.HelpOpened": Table(
        "enrolment__person", "presentation kind number topic section at", "id enrolment"
    ),
    "levels.LearnerState": Table(
        "enrolment__person",
        "enrolment standing answers sitting pace freshened_at last_answer_at",
        "id version state families topics to_study digest base presented idle_days effort",
    ),
    "levels.Observation": Table(
        "enrolment__person",
        "tried topic outcome of counts weight reason sitting days at",
        "id enrolment family learning lapse before after replaces",
        needs=(
            "tried__presentation__run__enrolment",
            "tried__presentation__revision__family__topic",
        ),
        shape=told_only,
    ),
    "levels.LevelRecord": Table(
        "enrolment__person", "topic level low high target chance reason at", "id enrolment sd"
    ),
    "levels.TargetMet": Table("enrolment__person", "topic level chance at", "id enrolment"),
    "levels.Voided": Table("tried__enrolment__person", "tried why at until", "id by"),
    "review.Miss": Table(
        "enrolment__person",
        "topic state sure failed_mends opened_at closed_at",
        "id enrolment family presentation mend mends mends_sitting",
    ),
    "review.Studied": Table("enrolment__person", "topic section at undone_at", "id enrolment"),
    "recheck.Recheck": Table(
        "enrolment__person", "topic held level chance days at", "id enrolment"
    ),
    "files.StoredFile": Table(
        "enrolment__person",
        "id enrolment place presentation part name kind size made_at arrived_at drawn",
        "",
    ),
    "assigning.HandIn": Table(
        "enrolment__person",
        "task links handed_in_at points comment marked_at",
        "id enrolment marked_by",
    ),
    "marks.Entered": Table(
        "enrolment__person",
        "term work kind share why at",
        "id enrolment by",
        needs=("term__group__course", "enrolment__person"),
        shape=entered,
    ),
    "marks.TermMark": Table("enrolment__person", "id term data", "enrolment"),
    "marks.Correction": Table("mark_of__enrolment__person", "mark_of mark why at", "id by"),
    "exams.Accommodation": Table(
        "enrolment__person",
        "times minutes large_print reader separate_room why at",
        "id enrolment by",
    ),
    "exams.Allowance": Table(
        "enrolment__person",
        "assignment times minutes attempts opens due closes why at",
        "id enrolment by",
    ),
    "exams.Attempt": Table(
        "enrolment__person",
        "id test assignment number confirmed_at due handed_in_at receipt",
        "version enrolment run rules places standing loaded_at marked by_hand total "
        "released_at paper levels",
    ),
    "exams.AnswerSoFar": Table(
        "attempt__enrolment__person",
        "attempt number data unreadable seconds saved_at late",
        "id presentation counter seen",
    ),
    "exams.Intervention": Table("attempt__enrolment__person", "attempt kind why at", "id by says"),
    "exams.Page": Table(
        "attempt__enrolment__person", "id attempt place questions turns came at", ""
    ),
    "exams.Marking": Table(
        "answer__attempt__enrolment__person",
        "answer part data at",
        "id role by withdrawn_at",
        only={"withdrawn_at": None},
        needs=(
            "answer__attempt",
            "answer__presentation__run__enrolment",
            "answer__presentation__revision__family__topic",
        ),
        shape=told_only,
    ),
    "notices.Notice": Table("person", "kind title text path at read_at mailed_at", "id person"),
    "notices.NotByMail": Table("person", "kind", "id person"),
    "notices.Digest": Table("person", "at", "id person"),
    "threads.Thread": Table(
        "enrolment__person",
        "id kind topic shows_answer shows_working to_tutor state says opened_at settled_at",
        "enrolment presentation family waits_since",
    ),
    "threads.Asked": Table("person", "thread", "id person"),
    # What somebody wrote, and what was answered in threads of their own.
    "threads.Post": Table(
        "author",
        "thread text quotes_solution at",
        "id author",
        also="thread__enrolment__person",
    ),
    "threads.Seen": Table("person", "thread", "id person post"),
    # Guardian and tutors write about a learner, who reads none of it.
    "threads.Talk": Table("guardian", "id enrolment", "guardian waits_since"),
    "threads.TalkPost": Table(
        "author",
        "talk text at",
        "id author",
        also="talk__guardian",
    ),
    "planning.Spell": Table(
        "enrolment__person", "minutes started_at touched_at ended_at", "id enrolment pieces"
    ),
    "planning.PlanForecast": Table(
        "enrolment__person", "made_on exam_on minutes chance low high topics at", "id enrolment"
    ),
    "today.StepChoice": Table("enrolment__person", "step title until at undone_at", "id enrolment"),
    "lti.PlatformAccount": Table(
        "person", "platform subject made since", "id person", office="platform__school"
    ),
    "lti.ScoreSent": Table(
        "account__person", "link given of at state sent_at", "id account says tries next_at"
    ),
    "today.CalendarKey": Table("person", "made_at ended_at", "id person key"),
    # Notes that tutors keep for themselves stay theirs.
    "tutor.Note": Table(
        "enrolment__person",
        "text at",
        "id enrolment by shared",
        only={"shared": True},
    ),
}

NOT_OUT: dict[str, str] = {
    **dict.fromkeys(
        ("auth.Permission", "auth.Group", "contenttypes.ContentType", "sessions.Session"),
        "of the framework",
    ),
    **dict.fromkeys(
        (
            "bank.Course",
            "bank.Subject",
            "bank.Topic",
            "bank.StudySection",
            "bank.Resource",
            "bank.Collection",
            "bank.Family",
            "bank.FamilyRevision",
            "bank.FamilyCurve",
            "bank.StoppedFamily",
            "bank.RevisionSource",
            "bank.CourseFile",
            "bank.Trial",
            "authoring.Draft",
            "authoring.DraftStep",
            "authoring.BankState",
            "authoring.BankLine",
            "exchange.Import",
            "exchange.ImportRow",
            "exchange.ImportedItem",
            "exchange.Export",
            "measurement.Calibration",
            "measurement.CalibrationRun",
        ),
        "of a course: nobody’s own, and keys are in it",
    ),
    **dict.fromkeys(
        ("outside.RecordStore", "outside.RecordCursor", "outside.ToTell"),
        "what is sent elsewhere: it says nothing that is not in the record itself",
    ),
    **dict.fromkeys(
        ("lti.Platform", "lti.PlatformContext", "lti.PlatformLink", "lti.ToolKey", "lti.Pending"),
        "of platforms: nobody’s own, and keys are in it",
    ),
    **dict.fromkeys(
        (
            "people.School",
            "groups.Group",
            "groups.JoinCode",
            "exams.Test",
            "exams.Assignment",
            "exams.Criteria",
            "exams.Regrade",
            "exams.SecondMarker",
            "assigning.Task",
            "marks.Term",
            "tutor.GroupMessage",
            "tutor.Cover",
        ),
        "of a school, a group or a test",
    ),
    "django_tasks_database.DBTaskResult": "jobs",
    "shared.Heartbeat": "of the installation",
    "shared.CheckDone": "of the installation",
    "shared.Worker": "of the installation",
    "people.Erasing": "of the installation",
    "privacy.DataCopy": "copies like this one",
    "assigning.HandInFile": "says which files belong to which work",
    "files.FileChunk": "goes out as files beside the rows",
    "files.FilePage": "drawn from what goes out as files",
    "exams.PageImage": "goes out as files beside the rows",
    "exams.RegradedAttempt": "totals that may be held back; notices say what changed",
    "notices.Letter": "was sent to them, and may carry links that open something",
    "tutor.LookedAt": "notes of tutors that may name others",
}
