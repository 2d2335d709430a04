"""The course builder: structure, merged topics, study pages, new courses and copies."""

from __future__ import annotations

import json
from datetime import timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile

from vendaval.bank.kept import current_files
from vendaval.bank.models import Course, Topic
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.groups.actions import enrol
from vendaval.groups.models import Group
from vendaval.people.models import AuditEntry, AuditKind, Role
from vendaval.review.models import Miss
from vendaval.work.tests.builders import learning_for, run_command, with_role, wrong

from .test_publishing import AuthorTestCase


class BuilderTestCase(AuthorTestCase):
    """Rui builds; paths are those below the author's part of the course."""

    def structure(self) -> dict[str, Any]:
        return dict(self.get("/authoring/structure"))

    def wanted(self, **changed: object) -> dict[str, Any]:
        """The structure as it can be sent back, with other values for a topic."""
        now = self.structure()
        for subject in now["subjects"]:
            for topic in subject["topics"]:
                if topic["key"] == "speed-time-distance":
                    topic |= changed
        return {name: now[name] for name in ("version", "title", "subjects", "constants")}

    def put(self, body: object, path: str = "/structure", status: int = 200) -> dict[str, Any]:
        at = self.address(f"/authoring{path}")
        reply = self.client.put(at, json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return dict(reply.json())

    def ask(self, path: str, body: dict[str, Any], status: int = 200) -> dict[str, Any]:
        return dict(self.post(f"/authoring{path}", body, status=status))

    def now(self) -> CourseBank:
        """The course as learners have it now."""
        return course_bank(Course.objects.get(pk=self.course.pk))

    def exported(self) -> dict[str, bytes]:
        with TemporaryDirectory() as folder:
            run_command("export_pack", "inshore", folder, verbosity=0)
            root = Path(folder)
            return {str(p.relative_to(root)): p.read_bytes() for p in root.rglob("*.*")}


class StructureTests(BuilderTestCase):
    def test_a_topic_is_added_and_has_a_page_but_no_learner_sees_it_yet(self) -> None:
        before = self.exported()
        wanted = self.wanted(target=85.0)
        wanted["subjects"][0]["topics"].append({"key": "", "title": "Radar fixes"})
        told = self.ask("/structure/changes", wanted)
        self.assertIn("New topic: Radar fixes.", told["changes"])
        self.assertIn(
            "Learners see Radar fixes once its first question is published.", told["means"]
        )
        saved = self.put(wanted)
        self.assertEqual(saved["subjects"][0]["topics"][-1]["key"], "radar-fixes")
        after = self.exported()
        changed = {path for path in after if before.get(path) != after[path]}
        self.assertEqual(changed, {"course.yaml", "topics/radar-fixes/study.md"})
        bank = self.now()
        self.assertNotIn("radar-fixes", [topic.key for topic in bank.topics])
        self.assertEqual(bank.topic("speed-time-distance").target, 85.0)
        entry = AuditEntry.objects.filter(kind=AuditKind.PUBLISHED).latest("pk")
        self.assertIn("New topic: Radar fixes.", entry.says)

    def test_a_closed_topic_is_asked_of_nobody_until_it_opens_again(self) -> None:
        self.put(self.wanted(closed=True))
        closed = self.now()
        self.assertNotIn("distance-run", closed.families)
        self.put(self.wanted(closed=False))
        self.assertIn("distance-run", self.now().families)

    def test_a_topic_that_a_test_asks_about_stays_open_until_that_is_over(self) -> None:
        composition = CompositionData(
            sections=[SectionData(title="All", entries=[EntryData(families=["distance-run"])])]
        )
        test = make_test(self.course, "Speed, end of unit", composition, RulesData(), None)
        group = Group.objects.create(course=self.course, title="Tuesday")
        give(test, group, None, closes=self.clock() + timedelta(days=2))
        refused = self.put(self.wanted(closed=True), status=422)["fields"]
        self.assertIn("Speed, end of unit", refused["topics.speed-time-distance"])
        self.clock.forward(days=3)
        self.put(self.wanted(closed=True))

    def test_what_cannot_be_changes_nothing_and_says_where(self) -> None:
        before = self.exported()
        circle = self.put(self.wanted(after=["speed-time-distance"]), status=422)
        (field,) = circle["fields"]
        self.assertTrue(field.endswith("after"), field)
        gone = self.wanted()
        for subject in gone["subjects"]:
            subject["topics"] = [t for t in subject["topics"] if t["key"] != "buoyage"]
        self.assertIn("topics.buoyage", self.put(gone, status=422)["fields"])
        stale = self.wanted(title="Speed")
        self.put(self.wanted(title="Speed and time"))
        self.put(stale, status=409)
        self.put(self.wanted(title="Speed, time and distance"))
        self.assertEqual(self.exported(), before)


class MergingTests(BuilderTestCase):
    BODY = {"topic": "speed-time-distance", "into": "latitude-and-distance"}

    def test_questions_pages_and_what_was_learnt_move(self) -> None:
        self.client.force_login(self.learner)
        asked = self.practise_family("distance-run")["id"]
        self.answer(asked, wrong(asked))
        self.client.force_login(self.rui)
        means = self.ask("/structure/merging", self.BODY)["means"]
        self.assertTrue(any(says.startswith("One learner has answered") for says in means), means)
        families = list(self.now().families)
        self.ask("/structure/merge", self.BODY)
        bank = self.now()
        self.assertEqual(list(bank.families), families)
        self.assertNotIn("speed-time-distance", [topic.key for topic in bank.topics])
        number = bank.topic("latitude-and-distance").number
        self.assertEqual(bank.families["distance-run"].topic, number)
        self.assertEqual(Miss.objects.get().topic.key, "latitude-and-distance")
        untouched = bank.topic("buoyage").number
        levels = learning_for(self.learner).readings
        self.assertLess(levels[number].level, levels[untouched].level - 2, "what was wrong counts")

    def test_the_pack_that_results_is_whole(self) -> None:
        self.ask("/structure/merge", self.BODY)
        self.assertFalse(Topic.objects.filter(key="speed-time-distance").exists())
        with TemporaryDirectory() as folder:
            run_command("export_pack", "inshore", folder, verbosity=0)
            run_command("load_pack", folder, checked=True, verbosity=0)
        self.assertFalse(Topic.objects.filter(key="speed-time-distance").exists())

    def test_formulas_are_looked_for_with_the_numbers_of_the_course(self) -> None:
        asked = {
            "text": "A leg is [[miles]] miles long. How many metres is that?",
            "marks": [{"name": "miles", "written": ["3", "5"], "low": 1, "high": 9}],
            "answers": ["5556", "9260"],
        }
        self.assertNotEqual(self.ask("/examples", asked)["state"], "found")
        before = self.exported()
        wanted = self.wanted() | {"constants": [1852, 2, 1]}
        told = self.ask("/structure/changes", wanted)["changes"]
        self.assertEqual(told, ["Numbers a formula may have: 1, 2, 1852."])
        self.put(wanted)
        found = self.ask("/examples", asked)
        self.assertEqual((found["state"], found["fits"][0]["formula"]), ("found", "miles * 1852"))
        after = self.exported()
        self.assertEqual(
            {path for path in after if before.get(path) != after[path]}, {"course.yaml"}
        )
        line = b"constants: [1, 2, 1852]"
        self.assertEqual(
            after["course.yaml"].replace(line, b"").split(), before["course.yaml"].split()
        )
        self.put(self.wanted() | {"constants": [0]}, status=422)

    def test_only_two_topics_of_the_course_can_be_put_together(self) -> None:
        self.ask("/structure/merge", {"topic": "buoyage", "into": "buoyage"}, status=422)
        self.ask("/structure/merge", {"topic": "buoyage", "into": "nowhere"}, status=404)


class PageTests(BuilderTestCase):
    AT = "/pages/speed-time-distance"

    def test_a_section_is_written_seen_and_published(self) -> None:
        page = self.get(f"/authoring{self.AT}")
        before = self.exported()
        body = "A **knot** is one mile an hour.\n\n![A log line](log-line.svg)"
        sections = [*page["sections"], {"key": "", "title": "Why knots", "body": body}]
        wrong = self.ask(f"{self.AT}/preview", {"sections": sections})
        self.assertIn("log-line.svg is missing", wrong["problems"][0]["says"])
        svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M1 1h7"/></svg>'
        self.ask(f"{self.AT}/drawings", {"name": "log-line.svg", "svg": svg})
        shown = self.ask(f"{self.AT}/preview", {"sections": sections})["shown"]
        self.assertIn("<strong>knot</strong>", shown[-1]["html"])
        saved = self.put(self.page_as(page, "Where knots come from.", sections=sections), self.AT)
        self.assertEqual(saved["sections"][-1]["key"], "why-knots")
        after = self.exported()
        path = "topics/speed-time-distance/study.md"
        self.assertTrue(after[path].startswith(before[path].rstrip()))
        topic = Topic.objects.get(key="speed-time-distance")
        self.assertEqual(topic.sections.order_by("position").last().title, "Why knots")  # type: ignore[union-attr]
        now, first = self.get(f"/authoring{self.AT}/history")["revisions"]
        self.assertEqual((now["why"], first["by"]), ("Where knots come from.", ""))
        self.put(self.page_as(saved, "As it was.", sections=first["sections"]), self.AT)
        self.assertEqual(self.exported()[path], before[path])

    def test_a_section_that_explains_a_question_stays(self) -> None:
        page = self.get(f"/authoring{self.AT}")
        used = next(one["key"] for one in page["uses"] if one["explains"])
        left = [one for one in page["sections"] if one["key"] != used]
        refused = self.put(self.page_as(page, "Shorter.", sections=left), self.AT, status=422)
        self.assertIn(used, refused["fields"])

    def test_a_film_with_captions_stands_beside_a_section_once_it_is_published(self) -> None:
        at = "/pages/height-at-a-time"
        page = self.get(f"/authoring{at}")
        before = self.exported()
        film = b"\x1a\x45\xdf\xa3 a film"
        self.assertIn("file", self.keep(at, "neaps.webm", b"GIF89a", status=422)["fields"])
        # A name that is taken by another film is not overwritten.
        self.assertEqual(self.keep(at, "twelfths.webm", film)["name"], "twelfths-2.webm")
        spoken = self.keep(at, "neaps.vtt", b"WEBVTT\n\n00:00.000 --> 00:02.000\nIt rises.\n")
        new = page["resources"][0] | {"key": "", "title": "Neaps", "file": "twelfths-2.webm"}
        no_words = [*page["resources"], new | {"captions": ""}]
        refused = self.put(self.page_as(page, "More.", resources=no_words), at, status=422)
        self.assertIn("a video needs captions", refused["fields"]["resources 0"])
        more = [*page["resources"], new | {"captions": spoken["name"]}]
        saved = self.put(self.page_as(page, "For neaps.", resources=more), at)
        self.assertEqual(saved["resources"][-1]["key"], "neaps")
        topic = Topic.objects.get(key="height-at-a-time")
        self.assertEqual(topic.resources.count(), 3)
        with default_storage.open(topic.resources.get(key="neaps").file) as kept:
            self.assertEqual(kept.read(), film)
        folder = "topics/height-at-a-time/resources/"
        self.assertEqual(self.exported()[f"{folder}twelfths-2.webm"], film)
        again = self.put(self.page_as(saved, "No.", resources=saved["resources"][:-1]), at)
        self.assertEqual(len(again["resources"]), 2)
        self.assertEqual(self.exported(), before)

    def page_as(self, page: dict[str, Any], why: str, **changed: object) -> dict[str, Any]:
        kept = {name: page[name] for name in ("version", "sections", "resources")}
        return kept | {"why": why} | changed

    def keep(self, at: str, name: str, content: bytes, status: int = 200) -> dict[str, Any]:
        where = self.address(f"/authoring{at}/files?name={name}")
        reply = self.client.post(where, {"file": SimpleUploadedFile(name, content)})
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return dict(reply.json())

    def test_a_drawing_that_could_do_harm_is_refused(self) -> None:
        svg = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
        body = {"name": "bad.svg", "svg": svg}
        self.assertIn("svg", self.ask(f"{self.AT}/drawings", body, status=422)["fields"])


class NewCourseTests(BuilderTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.office = with_role(self.course, Role.OFFICE)

    def make(self, body: object, status: int = 200) -> dict[str, Any]:
        self.client.force_login(self.office)
        reply = self.client.post("/api/office/courses", body, content_type="application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        self.client.force_login(self.rui)
        return dict(reply.json())

    def test_a_course_begins_with_a_subject_and_a_topic(self) -> None:
        self.make({"title": "Knots"}, status=422)
        made = self.make({"title": "Knots", "subject": "Ropes", "topic": "Bends"})
        self.assertIn("knots", [one["key"] for one in made["courses"]])
        knots = Course.objects.get(key="knots")
        self.assertEqual(list(current_files(knots)), ["course.yaml", "topics/bends/study.md"])
        self.assertEqual(course_bank(knots).families, {})
        enrol(self.learner, knots)
        self.client.force_login(self.learner)
        reply = self.client.get("/api/courses/knots/today")
        self.assertEqual((reply.status_code, reply.json()["code"]), (409, "no_questions"))
        self.assertEqual(learning_for(self.learner, knots).readings, [])

    def test_a_copy_has_everything_but_the_learners(self) -> None:
        self.make({"title": "Inshore 2027", "copy_of": "inshore"})
        copy = Course.objects.get(key="inshore-2027")
        mine, theirs = course_bank(self.course), course_bank(copy)
        self.assertEqual(list(mine.families), list(theirs.families))
        self.assertEqual(
            [one.curve for one in mine.families.values()],
            [one.curve for one in theirs.families.values()],
        )
        self.assertFalse(copy.enrolments.exists())
        with TemporaryDirectory() as folder:
            run_command("export_pack", "inshore-2027", folder, verbosity=0)
            copied = {str(p.relative_to(folder)): p.read_bytes() for p in Path(folder).rglob("*.*")}
        own = self.exported()
        self.assertEqual({p for p in own if own[p] != copied.get(p)}, {"course.yaml"})
