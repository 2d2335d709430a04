"""The revision plan: study sections for what was missed."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime

from django.db.models import Max

from vendaval.bank.models import Resource
from vendaval.bank.snapshot import version_of
from vendaval.delivery.schemas import PlaceOut, StudyLinkOut
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import learning_of
from vendaval.work.models import HelpKind, HelpOpened

from .models import Miss, Studied
from .order import MOST_SHOWN, open_misses
from .schemas import RevisionItemOut, RevisionOut

Place = tuple[str, str]


def revision(enrolment: Enrolment) -> RevisionOut:
    """Sections that explain the open misses, those that answer most first; what was marked as
    studied comes last and takes no minutes."""
    bank = learning_of(enrolment).bank
    by_place: dict[Place, list[Miss]] = defaultdict(list)
    for miss in open_misses(enrolment).select_related("family")[:MOST_SHOWN]:
        item = bank.families.get(miss.family.key)
        if item is not None:
            topic, section = bank.section(item.family.study, item.family.topic)
            by_place[topic.key, section.key].append(miss)
    read, studied = _read(enrolment), _studied(enrolment)
    beside: dict[Place, list[str]] = defaultdict(list)
    for topic_key, key, title in Resource.objects.filter(
        topic__course=enrolment.course, topic__key__in={place[0] for place in by_place}
    ).values_list("topic__key", "section", "title"):
        beside[topic_key, key].append(title)
    items = []
    for place, misses in by_place.items():
        topic, section = bank.section_of(*place, place[0])
        since = min(miss.opened_at for miss in misses)
        opened = read.get(place)
        items.append(
            RevisionItemOut(
                study=StudyLinkOut(
                    topic=topic.key,
                    section=section.key,
                    title=section.title,
                    minutes=section.minutes,
                ),
                topic=PlaceOut(key=topic.key, title=topic.title),
                answers=[_title(miss) for miss in misses],
                families=sorted({m.family.key for m in misses if _in(topic.key, m)}),
                resources=beside.get(place, []),
                read_at=opened if opened is not None and opened > since else None,
                studied=place in studied,
            )
        )
    items.sort(key=lambda one: (one.studied, -len(one.answers), one.topic.title))
    return RevisionOut(
        misses=sum(map(len, by_place.values())),
        minutes=sum(one.study.minutes for one in items if not one.studied),
        items=items,
    )


def _in(topic: str, miss: Miss) -> bool:
    return miss.topic.key == topic


def _title(miss: Miss) -> str:
    shown = miss.presentation
    return version_of(shown.revision, shown.seed, shown.order).title


def _read(enrolment: Enrolment) -> dict[Place, datetime]:
    """When each section was opened last."""
    rows = HelpOpened.objects.filter(enrolment=enrolment, kind=HelpKind.STUDY)
    latest = rows.values_list("topic", "section").annotate(Max("at")).order_by()
    return {(topic, section): at for topic, section, at in latest}


def _studied(enrolment: Enrolment) -> set[Place]:
    rows = Studied.objects.filter(enrolment=enrolment, undone_at=None)
    return set(rows.values_list("topic", "section"))
