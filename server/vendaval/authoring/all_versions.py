"""Everything that is wrong with a family, with all its versions checked in a process of its own."""

from __future__ import annotations

from hashlib import sha256
from typing import Any

from django.core.cache import cache

from vendaval.bank.kept import current_files, topic_files
from vendaval.people.models import User
from vendaval.shared.sandbox import Limits, in_sandbox
from vendaval_core.packs.located import PackProblem, parse_yaml

from .checking import MODULE, ToCheck
from .families import Opened
from .schemas import ProblemOut
from .workbench import problem_out

KEPT_SECONDS = 900
# Formulas are compared by a worker, which has a gigabyte of its own and takes seconds to load.
ALL_VERSIONS = Limits(megabytes=1100, seconds=20, patience=40)


def problems_of(family: Opened, text: str, by: User) -> list[ProblemOut]:
    """Everything that is wrong with a text of a family, all its versions checked. Never under a
    lock or in a transaction."""
    read = family.read(text)
    if read.problems:
        return [problem_out(one) for one in read.problems]
    sent = ToCheck(
        text,
        family.path,
        family.key,
        family.topic.key,
        topic_files(family.course, family.topic.key).texts,
        _words(family),
    )
    return [
        ProblemOut(line=line, field=field, says=what)
        for line, field, what in check_versions(sent, f"author-{by.pk}")
    ]


def check_versions(sent: ToCheck, who: str) -> list[tuple[int, str, str]]:
    """Line, field and what of everything that is wrong with a family's versions. who: whose turn
    it takes. What was looked at a moment ago needs no second check."""
    packed = sent.packed()
    key = f"versions-{sha256(packed).hexdigest()}"
    says = cache.get(key)
    if says is None:
        says, _ = in_sandbox(MODULE, {}, packed, who=who, limits=ALL_VERSIONS)
        cache.set(key, says, KEPT_SECONDS)
    return [(line, field, what) for line, field, what in says["problems"]]


def _words(family: Opened) -> dict[str, Any]:
    row = current_files(family.course, "course.yaml").get("course.yaml")
    read = None if row is None else parse_yaml(row.text, "course.yaml")
    if read is None or isinstance(read, PackProblem):
        return {}
    return dict(read.data.get("language") or {})
