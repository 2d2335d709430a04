"""Publishing a draft: all checked first, what it touches said first, then in force at once."""

from __future__ import annotations

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.actions import refresh_digest
from vendaval.bank.loading import load_families
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.errors import Changed, Conflict, Unprocessable
from vendaval_core.authoring.changes import Change, changes, in_words, keep_answers

from .all_versions import problems_of
from .families import Opened, opened
from .models import Draft
from .schemas import ChangeOut, PublishIn, PublishingOut
from .touching import touched
from .workbench import draft_state, draft_version


def publishing(family: Opened, by: User) -> PublishingOut:
    """What publishing a draft would do now, with all its versions checked."""
    found = _changes(family)
    return PublishingOut(
        version=draft_version(family.text),
        problems=problems_of(family, family.text, by),
        changes=[ChangeOut(says=in_words(one), kind=one.kind.value) for one in found],
        keeps=keep_answers(found),
        means=[*_older(family), *touched(family.course, family.family)],
    )


def _older(family: Opened) -> list[str]:
    """That something was published since the draft was begun."""
    draft, published = family.draft, family.published
    if draft is None or published is None or draft.base_id in {None, published.pk}:
        return []
    says = gettext("Revision {number} was published after this draft was begun. It is replaced.")
    return [says.format(number=published.number)]


def _changes(family: Opened) -> list[Change]:
    before = family.published_text
    new = family.read(family.text).data
    if before is None or new is None:
        return []
    return changes(family.read(before).data or {}, new)


def publish(family: Opened, body: PublishIn, by: User) -> Opened:
    """Put a draft in force. Unprocessable, with everything that is wrong with it; Changed if it is
    not the one that was looked at."""
    if family.draft is None:
        raise Conflict(gettext("Nothing was changed."), code="nothing_changed")
    if draft_version(family.text) != body.version:
        raise Changed(draft_version(family.text), draft_state(family).model_dump(mode="json"))
    problems = problems_of(family, family.text, by)
    if problems:
        raise Unprocessable(
            gettext("It can’t be published yet."), fields={p.field: p.says for p in problems}
        )
    read = family.read(family.text).read
    assert read is not None, "it has no problems"
    with transaction.atomic():
        draft = Draft.objects.select_for_update().filter(pk=family.draft.pk).first()
        if draft is None or draft.text != family.text:
            raise Conflict(gettext("Somebody else changed or published it."), code="changed_since")
        load_families(
            family.topic,
            {family.key: read},
            clock.now(),
            rehearsal=family.rehearsal,
            by=by,
            why=body.why.strip(),
            fresh=not body.keeps,
            collection=draft.collection,
        )
        draft.delete()
        refresh_digest(family.course)
        says = gettext("{key} published: {why}").format(key=family.key, why=body.why.strip())
        audit(AuditKind.PUBLISHED, by=by, account=by, says=says)
    return opened(family.course, family.key, by)
