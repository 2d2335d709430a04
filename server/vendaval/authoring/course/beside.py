"""Films, files and links beside a study page, as its author changes them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from pathlib import PurePosixPath

from django.core.files.storage import default_storage
from django.utils.translation import gettext

from vendaval.bank.kept import content_of, current_files, file_row
from vendaval.bank.models import Course, CourseFile, Topic
from vendaval.bank.resources import load_resources
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval_core.authoring.beside import listed
from vendaval_core.authoring.keys import free_key
from vendaval_core.packs.resources import (
    ResourceModel,
    fault_of,
    resources_in,
    resources_path,
)

from .page_schemas import PageResourceIn

# Those of a page, films with their captions, and some that nothing names yet.
MOST_FILES = 100


class _Folder:
    """The files beside a topic's study page by their names, its list among them."""

    def __init__(self, course: Course, topic: Topic) -> None:
        self.topic = topic.key
        self.path = f"topics/{topic.key}/resources/"
        found = current_files(course, self.path)
        self.files = {path[len(self.path) :]: row for path, row in found.items()}
        self.sections = list(topic.sections.values_list("key", flat=True))
        self.sizes = {name: _size(row) for name, row in self.files.items()}

    @property
    def text(self) -> str:
        """Its list; "" if there is none."""
        return self.files["list.yaml"].text if "list.yaml" in self.files else ""

    def standing(self) -> tuple[ResourceModel, ...]:
        """What the list has now."""
        return resources_in(self.text, self.topic, self.sections, self.sizes)[0]

    def content(self, name: str) -> bytes:
        """The bytes of a file."""
        return content_of(self.files[name])


def _size(row: CourseFile) -> int:
    return default_storage.size(row.stored) if row.stored else len(row.text.encode())


def resources_to_edit(course: Course, topic: Topic) -> list[PageResourceIn]:
    """What stands beside a study page, in its order."""
    return [_to_edit(one) for one in _Folder(course, topic).standing()]


def _to_edit(one: ResourceModel) -> PageResourceIn:
    fields = one.model_dump(exclude_none=True)
    return PageResourceIn.model_validate(fields)


class Beside:
    """What is wanted beside a page. text: of its list, as it will be. faults: why it can't be."""

    def __init__(
        self,
        course: Course,
        topic: Topic,
        wanted: Sequence[PageResourceIn],
        sections: Sequence[str],
    ) -> None:
        self._course, self._topic = course, topic
        self._folder = _Folder(course, topic)
        self._before = self._folder.standing()
        self.text = self._folder.text
        self.changed = list(wanted) != [_to_edit(one) for one in self._before]
        if self.changed:
            taken = {one.key for one in wanted}
            self.text = listed(self.text, [_model(one, taken) for one in wanted])
        self._resources, problems = resources_in(self.text, topic.key, sections, self._folder.sizes)
        self.faults = {f"resources {n}": one.what for n, one in enumerate(problems)}

    def put_in_force(self, at: datetime, by: User, why: str) -> None:
        """Store the list; files that it names no more go."""
        if not self.changed:
            return
        path = resources_path(self._topic.key)
        file_row(self._course, path, self.text.encode(), at, by=by, why=why).save()
        for name in sorted(_named(self._before) - _named(self._resources)):
            CourseFile.objects.create(
                course=self._course,
                path=f"{self._folder.path}{name}",
                gone=True,
                at=at,
                by=by,
                why=why,
                in_pack=False,
            )
        load_resources(self._topic, self._resources, self._folder.content)


def _named(resources: Sequence[ResourceModel]) -> set[str]:
    return {name for one in resources for name in (one.file, one.captions) if name}


def _model(one: PageResourceIn, taken: set[str]) -> ResourceModel:
    key = one.key or free_key(one.title, "resource", taken)
    taken.add(key)
    # What is wrong with it is said of the list, once that is read.
    return ResourceModel.model_construct(
        key=key,
        title=one.title,
        kind=one.kind.value,
        section=one.section,
        minutes=one.minutes,
        file=one.file or None,
        captions=one.captions or None,
        url=one.url or None,
    )


def keep_file(course: Course, topic: Topic, name: str, content: bytes, by: User) -> str:
    """Keep a file for a study page to name, and return its name there. One of the same name with
    another content gets a number. Unprocessable if it isn't what its ending says."""
    fault = fault_of(name, content)
    if fault is not None:
        raise Unprocessable(gettext("This file can’t be used."), fields={"file": fault})
    folder = _Folder(course, topic)
    if name in folder.files and folder.content(name) == content:
        return name
    if len(folder.files) >= MOST_FILES:
        raise Conflict(gettext("This topic has enough files."), code="too_many_files")
    ending = PurePosixPath(name).suffix
    stems = {PurePosixPath(one).stem for one in folder.files if one.endswith(ending)}
    free = f"{free_key(PurePosixPath(name).stem, 'file', stems)}{ending}"
    file_row(course, f"{folder.path}{free}", content, clock.now(), by=by).save()
    return free
