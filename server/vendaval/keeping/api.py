"""All of one's own data, to take along."""

from __future__ import annotations

import json
from io import BytesIO
from zipfile import ZIP_DEFLATED, ZipFile

from django.http import HttpRequest, HttpResponse
from ninja import Router

from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.people.permissions import current_user, signed_in
from vendaval.record.formats import ENDINGS, content_of

from .person import export_person

router = Router(auth=signed_in, tags=["keeping"])


def whole_data(person: User, by: User) -> bytes:
    """A zip: everything that is kept about somebody, and each course's record in every format.
    by: who asked for it, as the audit log says."""
    out = BytesIO()
    with ZipFile(out, "w", ZIP_DEFLATED) as files:
        kept = export_person(person, by=by)
        files.writestr("everything.json", json.dumps(kept, ensure_ascii=False, indent=1))
        for enrolment in Enrolment.objects.filter(person=person).select_related("course", "person"):
            for kind, ending in ENDINGS.items():
                name = f"{enrolment.course.key}/record-{kind}.{ending}"
                files.writestr(name, content_of(kind, enrolment))
    return out.getvalue()


@router.get("/own-data", operation_id="export_own_data")
def own_data(request: HttpRequest) -> HttpResponse:
    """Everything that is kept about me, as a zip of plain files."""
    content = whole_data(current_user(request), by=current_user(request))
    disposition = 'attachment; filename="vendaval-own-data.zip"'
    return HttpResponse(
        content, content_type="application/zip", headers={"Content-Disposition": disposition}
    )
