"""Learning records sent to a store: looked for, sent in batches, tried again until they are there.

The id of a statement is made from its row, so a store that gets one twice knows it: a reply that
was lost costs one more request and nothing else.
"""

from __future__ import annotations

import json
from base64 import b64encode
from collections.abc import Sequence
from datetime import datetime, timedelta
from urllib.parse import urlencode, urljoin

from django.conf import settings
from django.db import transaction
from django.db.models import Exists, F, OuterRef
from django.utils.translation import gettext

from vendaval.record.statements import VERSION, Statement
from vendaval.record.telling import KINDS, tell
from vendaval.shared import clock
from vendaval.shared.outgoing import Reply, Unreachable, ask

from .models import RecordCursor, RecordStore, ToTell, ToTellState

BATCH, AT_ONCE = 100, 2_000
# A row may become visible after later ones, so this many before the last are looked through again.
LOOKED_BACK = 2_000
WAITS = tuple(timedelta(seconds=s) for s in (5, 15, 60, 300, 900, 3600))
LEAST_WAIT, LONGEST_WAIT = timedelta(minutes=2), timedelta(days=1)


def look_for(store: RecordStore) -> int:
    """Note what happened since it was last looked; how much that is."""
    return sum(_of_kind(store, kind) for kind in KINDS)


def _of_kind(store: RecordStore, kind: str) -> int:
    source = KINDS[kind]
    known = ToTell.objects.filter(store=store, kind=kind, number=OuterRef("pk"))
    with transaction.atomic():
        RecordCursor.objects.get_or_create(store=store, kind=kind)
        cursor = RecordCursor.objects.select_for_update().get(store=store, kind=kind)
        rows = source.rows().filter(
            **{
                "pk__gt": max(0, cursor.upto - LOOKED_BACK),
                f"{source.at}__gte": store.since,
                f"{source.path}__course__school": store.school_id,
                f"{source.path}__person__practice_for": None,
            }
        )
        new = list(
            rows.exclude(Exists(known)).order_by("pk").values_list("pk", flat=True)[:AT_ONCE]
        )
        now = clock.now()
        ToTell.objects.bulk_create(
            ToTell(store=store, kind=kind, number=number, found_at=now, after=now) for number in new
        )
        if new:
            cursor.upto = max(cursor.upto, new[-1])
            cursor.save(update_fields=["upto"])
        old = ToTell.objects.filter(store=store, kind=kind, state=ToTellState.SENT)
        old.filter(number__lte=cursor.upto - LOOKED_BACK).delete()
    return len(new)


def begin_anew(store: RecordStore) -> None:
    """Look through the log from its beginning: the store knows again what it has."""
    store.cursors.all().delete()
    store.to_tell.filter(state=ToTellState.SENT).delete()
    RecordStore.objects.filter(pk=store.pk).update(sent=0)


def send(store: RecordStore) -> None:
    """Send all that may be told, until nothing is left or the store doesn't take it."""
    while True:
        found = look_for(store)
        sent = _send_batch(store)
        if sent is None or (not sent and not found):
            return


def _send_batch(store: RecordStore) -> int | None:
    """Look at some rows and send what may be told of them; how many rows, None where the store
    failed."""
    now = clock.now()
    due = ToTell.objects.filter(store=store, state=ToTellState.DUE, after__lte=now)
    rows = list(due.order_by("after", "pk")[:BATCH])
    told = tell((row.kind, row.number) for row in rows)
    ready: list[tuple[ToTell, Statement]] = []
    for row in rows:
        of = told[row.kind]
        if row.number in of.statements:
            ready.append((row, of.statements[row.number]))
        elif row.number in of.waiting:
            row.after = now + min(LONGEST_WAIT, max(LEAST_WAIT, (now - row.found_at) / 4))
        else:
            row.state = ToTellState.SENT
    failure = ""
    try:
        _deliver(store, ready)
    except Unreachable as error:
        failure = str(error)
    ToTell.objects.bulk_update(rows, ["state", "after", "says"])
    sent = sum(row.state == ToTellState.SENT for row, _ in ready)
    this = RecordStore.objects.filter(pk=store.pk)
    if sent:
        this.update(sent=F("sent") + sent, sent_at=now, failures=0, says="")
    if failure:
        _failed(store, failure)
        return None
    return len(rows)


def _failed(store: RecordStore, says: str) -> None:
    store.refresh_from_db()
    wait = WAITS[min(store.failures, len(WAITS) - 1)]
    RecordStore.objects.filter(pk=store.pk).update(
        failures=F("failures") + 1, says=says[:300], next_at=clock.now() + wait
    )


def _deliver(store: RecordStore, ready: Sequence[tuple[ToTell, Statement]]) -> None:
    """Send statements; of a batch that the store refuses, find those that it won't have."""
    if not ready:
        return
    reply = _post(store, [statement for _, statement in ready])
    if reply.status in {200, 204}:
        for row, _ in ready:
            row.state = ToTellState.SENT
    elif reply.status in {400, 409, 413}:
        if len(ready) > 1:
            middle = len(ready) // 2
            _deliver(store, ready[:middle])
            _deliver(store, ready[middle:])
        elif reply.status == 409 and _has(store, ready[0][1]):
            ready[0][0].state = ToTellState.SENT
        else:
            ready[0][0].state = ToTellState.REFUSED
            ready[0][0].says = _words(reply)
    else:
        raise Unreachable(gettext("the store answered {what}").format(what=_words(reply)))


def _words(reply: Reply) -> str:
    said = " ".join(reply.body.decode("utf-8", "replace").split())
    return f"{reply.status} {said}".strip()[:200]


def _post(store: RecordStore, statements: Sequence[Statement]) -> Reply:
    body = json.dumps(statements, ensure_ascii=False).encode()
    kind = {"Content-Type": "application/json"}
    return ask("POST", _at(store, "statements"), body=body, headers=_headers(store) | kind)


def _has(store: RecordStore, statement: Statement) -> bool:
    query = urlencode({"statementId": statement["id"]})
    reply = ask("GET", f"{_at(store, 'statements')}?{query}", headers=_headers(store))
    return reply.status == 200


def problem_of(store: RecordStore) -> str:
    """Why a store can't be used, "" where it answers as one that takes statements."""
    try:
        reply = ask("GET", f"{_at(store, 'statements')}?limit=1", headers=_headers(store))
    except Unreachable as error:
        return str(error)
    if reply.status != 200:
        return gettext("the store answered {what}").format(what=_words(reply))
    return ""


def _at(store: RecordStore, name: str) -> str:
    return urljoin(store.address.rstrip("/") + "/", name)


def _headers(store: RecordStore) -> dict[str, str]:
    pair = b64encode(f"{store.name}:{store.secret}".encode()).decode()
    return {"X-Experience-API-Version": VERSION, "Authorization": f"Basic {pair}"}


def stores_due(now: datetime) -> Sequence[RecordStore]:
    """Stores that are to be sent to now."""
    return list(RecordStore.objects.filter(on=True, next_at__lte=now))


def send_again_after(store: RecordStore) -> None:
    """A store that took all is looked at again in a while."""
    now = clock.now()
    wait = timedelta(seconds=settings.RECORDS_EVERY)
    RecordStore.objects.filter(pk=store.pk, next_at__lte=now).update(next_at=now + wait)
