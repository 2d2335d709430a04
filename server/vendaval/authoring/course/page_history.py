"""How a study page was before: who changed it, when and why."""

from __future__ import annotations

from vendaval.bank.models import Course, CourseFile, Topic
from vendaval_core.authoring.structure import study_path

from .page_schemas import PageHistoryOut, PageRevisionOut
from .pages import sections_to_edit

# With their texts, so not all there ever were.
MOST = 12


def page_history(course: Course, topic: Topic) -> PageHistoryOut:
    """A study page as it is and as it was, the newest first."""
    rows = CourseFile.objects.filter(course=course, path=study_path(topic.key), gone=False)
    found = rows.select_related("by").order_by("-pk")[:MOST]
    return PageHistoryOut(
        revisions=[
            PageRevisionOut(
                by="" if row.by is None else row.by.display_name,
                at=row.at,
                why=row.why,
                sections=sections_to_edit(row.text),
            )
            for row in found
        ]
    )
