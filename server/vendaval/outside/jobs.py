"""What is sent to other programs, in the background."""

from __future__ import annotations

from django_tasks import task

from vendaval.shared import clock
from vendaval.shared.jobs import is_going

from . import records
from .models import RecordStore


@task()
def send_records(number: int) -> None:
    """Send a store what it has not got yet."""
    store = RecordStore.objects.filter(pk=number, on=True).first()
    if store is not None:
        records.send(store)
        records.send_again_after(store)


def begin_due() -> None:
    """Begin what is due and not under way."""
    for store in records.stores_due(clock.now()):
        if not is_going(send_records.module_path, [store.pk]):
            send_records.enqueue(store.pk)
