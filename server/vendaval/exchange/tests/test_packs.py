"""A course out as an archive and in again: what would change is said first."""

from __future__ import annotations

from io import BytesIO
from typing import Any
from zipfile import ZipFile

from vendaval.authoring.families import opened
from vendaval.authoring.publishing import publish
from vendaval.authoring.schemas import PublishIn
from vendaval.authoring.tests.builders import a_draft, version_of_draft
from vendaval.bank.kept import kept_files
from vendaval.bank.models import Course, Family
from vendaval.exchange.jobs import look_through, store
from vendaval.exchange.models import Import
from vendaval.people.models import AuditEntry
from vendaval_core.exchange.archive import packed, unpacked

from .test_imports import ImportTestCase

KEY = "topics/speed-time-distance/distance-run.yaml"


class PackTests(ImportTestCase):
    def exported(self) -> dict[str, bytes]:
        reply = self.client.get(self.address("/exchange/exports/pack"))
        self.assertEqual((reply.status_code, reply["Content-Type"]), (200, "application/zip"))
        return unpacked(reply.content)

    def files(self) -> dict[str, bytes]:
        course = Course.objects.get(pk=self.course.pk)
        return {path: one.content for path, one in kept_files(course).items() if not one.gone}

    def read(self, files: dict[str, bytes]) -> dict[str, Any]:
        made = self.send(packed(files), "inshore.zip")
        look_through.call(made["id"])
        return self.shown(made["id"])

    def test_what_goes_out_is_the_course_byte_for_byte_and_changes_nothing_coming_in(self) -> None:
        files = self.exported()
        digests = files.pop("SHA256SUMS")
        self.assertIn(KEY.encode(), digests)
        self.assertEqual(files, self.files())
        report = self.read(files)["report"]
        self.assertEqual([name for name, said in report.items() if said], [])

    def test_what_would_change_is_said_and_then_done(self) -> None:
        files = self.exported()
        files.pop("SHA256SUMS")
        files[KEY] = files[KEY].replace(b"title: ", b"title: The ", 1)
        files["topics/speed-time-distance/from-the-log.yaml"] = files[KEY].replace(
            b"title: The ", b"title: Again, ", 1
        )
        gone = next(p for p in files if p.endswith("/time-to-run.yaml"))
        del files[gone]
        page = self.read(files)
        report = page["report"]
        self.assertEqual(report["problems"], [])
        self.assertEqual((len(report["new"]), len(report["changed"])), (1, 1))
        self.assertEqual((report["gone"], report["problems"]), (["time-to-run"], []))
        self.post(f"/exchange/imports/{page['id']}/store", {"why": "From the other machine."})
        store.call(page["id"], self.rui.pk)
        self.assertEqual(self.shown(page["id"])["state"], "done")
        self.assertEqual(self.files(), files)
        self.assertFalse(Family.objects.get(key="time-to-run").live)
        self.assertIn("inshore.zip", AuditEntry.objects.latest("pk").says)

    def test_what_was_changed_here_too_is_replaced_only_when_somebody_says_so(self) -> None:
        files = self.exported()
        files.pop("SHA256SUMS")
        draft = a_draft(self.course, "distance-run", self.rui)
        body = PublishIn(version=version_of_draft(draft), why="Better here.", keeps=True)
        publish(opened(self.course, "distance-run", self.rui), body, self.rui)
        files[KEY] += b"# from elsewhere\n"
        page = self.read(files)
        self.assertEqual(page["report"]["conflicts"], [KEY])
        at = f"/exchange/imports/{page['id']}/store"
        self.post(at, {"why": "From elsewhere."}, status=409)
        self.post(at, {"why": "From elsewhere.", "over": True})
        store.call(page["id"], self.rui.pk)
        self.assertEqual(self.files()[KEY], files[KEY])

    def test_what_changed_since_it_was_looked_through_stays(self) -> None:
        files = self.exported()
        files.pop("SHA256SUMS")
        files[KEY] += b"# from elsewhere\n"
        page = self.read(files)
        self.post(f"/exchange/imports/{page['id']}/store", {"why": "From elsewhere."})
        draft = a_draft(self.course, "distance-run", self.rui)
        body = PublishIn(version=version_of_draft(draft), why="Better here.", keeps=True)
        publish(opened(self.course, "distance-run", self.rui), body, self.rui)
        here = self.files()
        store.call(page["id"], self.rui.pk)
        self.assertEqual(self.shown(page["id"])["state"], "failed")
        self.assertEqual(self.files(), here)

    def test_what_is_wrong_is_said_and_nothing_is_taken(self) -> None:
        files, before = self.exported(), self.files()
        files[KEY] = files[KEY].replace(b"answer: ", b"answer: nobody + ", 1)
        # The digests were made of what was packed.
        self.assertIn(
            "was changed", self.send(packed_as_is(files), "inshore.zip", 422)["fields"]["file"]
        )
        files.pop("SHA256SUMS")
        page = self.read(files)
        self.assertTrue(any("nobody" in one for one in page["report"]["problems"]), page["report"])
        self.post(f"/exchange/imports/{page['id']}/store", {"why": "Anyway."}, status=409)
        other = {"course.yaml": files["course.yaml"].replace(b"key: inshore", b"key: offshore", 1)}
        self.assertIn("inshore", self.send(packed(other), "other.zip", 422)["detail"])
        self.send(b"PK\x05\x06 broken", "broken.zip", 422)
        self.assertEqual(self.files(), before)
        self.assertEqual(Import.objects.count(), 1)


def packed_as_is(files: dict[str, bytes]) -> bytes:
    """An archive with the digests that are among the files."""
    out = BytesIO()
    with ZipFile(out, "w") as archive:
        for path, content in files.items():
            archive.writestr(path, content)
    return out.getvalue()
