"""Questions out as QTI and in again: known again, decided on, taken in and taken back."""

from __future__ import annotations

from fractions import Fraction
from typing import Any
from unittest.mock import patch

from vendaval.authoring.models import Draft
from vendaval.bank.models import Family
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import make_test
from vendaval.exams.models import Test
from vendaval.exchange.jobs import look_through, store, write_export
from vendaval.exchange.models import Export, Import, ImportedItem
from vendaval.exchange.qti_tests import take_back
from vendaval_core.exchange.archive import packed, unpacked

from .test_imports import ImportTestCase

# Made for this test; the form of the standard's examples, from memory.
CHOICE = """<?xml version="1.0" encoding="UTF-8"?>
<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="{id}" title="{title}"
  adaptive="false" timeDependent="false">
  <responseDeclaration identifier="RESPONSE" cardinality="single" baseType="identifier">
    <correctResponse><value>A</value></correctResponse>
  </responseDeclaration>
  <outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/>
  <itemBody><p>{title}</p>
    <choiceInteraction responseIdentifier="RESPONSE" shuffle="true" maxChoices="1">
      <simpleChoice identifier="A">A lamp</simpleChoice>
      <simpleChoice identifier="B">A rope</simpleChoice>
      <simpleChoice identifier="C">A bell</simpleChoice>
    </choiceInteraction>
  </itemBody>
  <responseProcessing
    template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/>
</assessmentItem>"""


TEST = b"""<assessmentTest xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="t"
  title="Lamps"><timeLimits maxTime="1200"/>
  <testPart identifier="p" navigationMode="nonlinear" submissionMode="simultaneous">
    <assessmentSection identifier="s" title="All" visible="true">
      <assessmentItemRef identifier="i1" href="up.xml"><branchRule target="EXIT_TEST"/>
        <weight identifier="W" value="2.5"/></assessmentItemRef>
      <assessmentSection identifier="d" title="Some" visible="false"><selection select="1"/>
        <assessmentItemRef identifier="i2" href="down.xml"/>
        <assessmentItemRef identifier="i3" href="by.xml"/>
      </assessmentSection>
    </assessmentSection>
  </testPart>
  <outcomeProcessing><setOutcomeValue identifier="SCORE"><sum>
    <testVariables variableIdentifier="SCORE" weightIdentifier="W"/></sum></setOutcomeValue>
  </outcomeProcessing>
</assessmentTest>"""


def item(id_: str, title: str) -> bytes:
    return CHOICE.format(id=id_, title=title).encode()


class QtiTests(ImportTestCase):
    def exported(self, **wanted: Any) -> dict[str, bytes]:
        made = self.post("/exchange/exports", {"versions": 1, "topic": "", **wanted})
        number = made["id"]
        address = self.address(f"/exchange/exports/{number}/file")
        self.assertEqual(self.client.get(address).status_code, 404)
        write_export.call(number)
        reply = self.client.get(address)
        self.assertEqual((reply.status_code, reply["Content-Type"]), (200, "application/zip"))
        return unpacked(reply.getvalue())

    def read(self, files: dict[str, bytes], name: str = "items.zip") -> dict[str, Any]:
        made = self.send(packed(files, digests=False), name)
        look_through.call(made["id"])
        return self.shown(made["id"])

    def taken(self, number: int, **how: Any) -> dict[str, Any]:
        body = {"why": "From another school.", "publish": True, **how}
        self.post(f"/exchange/imports/{number}/store", body)
        store.call(number, self.rui.pk)
        return self.shown(number)

    def test_a_courses_own_questions_are_known_again_and_changed_ones_replace_them(self) -> None:
        files = self.exported(topic="buoyage", versions=3)
        done = Export.objects.get()
        self.assertEqual((done.done, done.state), (done.many, "done"))
        found = self.read(files)
        self.assertEqual({row["seen"] for row in found["rows"]}, {"same", "version"})
        self.assertEqual(found["skipped"], found["questions"])
        family = Family.objects.get(key="coming-in")
        before = family.latest_id
        path = "items/coming-in_v1.xml"
        files[path] = files[path].replace(b"</p>", b" Think twice.</p>", 1)
        found = self.read(files)
        (row,) = (row for row in found["rows"] if row["seen"] == "changed")
        self.assertEqual((row["cells"]["replaces"], row["problems"]), ("coming-in", []))
        self.assertIn("changed since Vendaval wrote it", " ".join(row["notes"]))
        page = self.taken(found["id"])
        self.assertEqual(page["state"], "done", page["why"])
        family.refresh_from_db()
        assert family.latest is not None
        self.assertIn("Think twice", family.latest.data.prompt)
        self.assertNotEqual(family.latest_id, before)
        undone = self.post(f"/exchange/imports/{found['id']}/undo")
        self.assertEqual(undone["kept"], [])
        family.refresh_from_db()
        assert family.latest is not None
        self.assertNotIn("Think twice", family.latest.data.prompt)

    def test_a_test_goes_out_with_its_questions_in_the_version_that_everybody_gets(self) -> None:
        sections = [SectionData(title="All", entries=[EntryData(families=["distance-run"])])]
        composition = CompositionData(sections=sections)
        test = make_test(self.course, "Week two", composition, RulesData(minutes=30), None)
        files = self.exported(test=test.pk, versions=5)
        (item,) = (path for path in files if path.startswith("items/"))
        self.assertRegex(item, r"items/distance-run_v\d+\.xml")
        self.assertIn(b'max-time="1800"', files[f"tests/test_{test.pk}.xml"])
        (line,) = self.get("/exchange/exports")["exports"]
        self.assertEqual((line["test"], line["state"], line["many"]), ("Week two", "done", 1))

    def test_items_of_strangers_become_drafts_once_their_topics_are_chosen(self) -> None:
        files = {
            "a.xml": item("strange-1", "What shines at night?"),
            "b.xml": item("strange-2", "What shines best?"),
            "c.xml": item("strange-3", "What has no body?").replace(b"itemBody", b"itemNobody"),
        }
        found = self.read(files)
        self.assertEqual((found["questions"], found["wrong"]), (3, 3))
        number = found["id"]
        self.post(f"/exchange/imports/{number}/topic", {"topic": "buoyage"})
        look_through.call(number)
        found = self.shown(number)
        (wrong,) = (row for row in found["rows"] if row["problems"])
        self.assertEqual((wrong["path"], wrong["problems"][0]["column"]), ("c.xml", "question"))
        self.assertIn("has no body", wrong["problems"][0]["says"])
        self.post(f"/exchange/imports/{number}/skip-wrong", {})
        page = self.taken(number, publish=False)
        self.assertEqual(page["state"], "done", page["why"])
        self.assertEqual(Draft.objects.count(), 2)
        self.assertEqual(ImportedItem.objects.count(), 2)
        kept = self.post(f"/exchange/imports/{number}/undo")["kept"]
        self.assertEqual((kept, Draft.objects.count(), ImportedItem.objects.count()), ([], 0, 0))

    def test_what_came_once_is_the_same_or_changed_the_next_time(self) -> None:
        files = {"a.xml": item("strange-1", "What shines at night?")}
        found = self.read(files)
        self.post(f"/exchange/imports/{found['id']}/topic", {"topic": "buoyage"})
        look_through.call(found["id"])
        self.taken(found["id"])
        (row,) = self.read(files)["rows"]
        self.assertEqual((row["seen"], row["skip"]), ("same", True))
        changed = {"a.xml": item("strange-1", "What shines by day?")}
        (row,) = self.read(changed)["rows"]
        self.assertEqual((row["seen"], row["skip"]), ("changed", False))
        self.assertEqual(row["topic"]["key"], "buoyage")
        self.assertEqual(Import.objects.count(), 3)

    def test_an_item_that_replaced_another_is_known_as_that_again_once_undone(self) -> None:
        files = {"a.xml": item("strange-1", "What shines at night?")}
        found = self.read(files)
        self.post(f"/exchange/imports/{found['id']}/topic", {"topic": "buoyage"})
        look_through.call(found["id"])
        self.taken(found["id"])
        known = ImportedItem.objects.get().digest
        changed = self.read({"a.xml": item("strange-1", "What shines by day?")})
        self.taken(changed["id"])
        self.assertNotEqual(ImportedItem.objects.get().digest, known)
        self.post(f"/exchange/imports/{changed['id']}/undo")
        self.assertEqual(ImportedItem.objects.get().digest, known)
        (row,) = self.read(files)["rows"]
        self.assertEqual(row["seen"], "same")

    def test_two_items_can_not_replace_one_question(self) -> None:
        files = {f"{n}.xml": item(f"strange-{n}", f"What shines {n}?") for n in ("up", "down")}
        found = self.read(files)
        number = found["id"]
        for row in found["rows"]:
            cells = row["cells"] | {"topic": "buoyage", "replaces": "coming-in"}
            body = {"cells": cells, "version": row["version"]}
            self.post(f"/exchange/imports/{number}/rows/{row['line']}", body)
        body = {"why": "Twice.", "publish": True}
        refused = self.post(f"/exchange/imports/{number}/store", body, status=409)
        self.assertEqual(refused["code"], "replaced_twice")

    def test_a_package_that_holds_more_than_is_kept_says_where_it_ends(self) -> None:
        files = {f"{n}.xml": item(f"strange-{n}", f"What shines {n}?") for n in ("up", "down")}
        with patch("vendaval.exchange.qti_in.MOST_KEPT", 500):
            found = self.read(files)
        self.assertEqual(
            [("two parts" in str(row["problems"])) for row in found["rows"]], [False, True]
        )

    def test_a_strangers_test_is_set_up_over_the_questions_that_came_with_it(self) -> None:
        files = {
            f"{n}.xml": item(f"strange-{n}", f"What shines {n}?") for n in ("up", "down", "by")
        }
        files["test.xml"] = TEST
        found = self.read(files)
        (shown,) = found["tests"]
        self.assertEqual((shown["sections"], shown["questions"]), (1, 2))
        self.assertIn("branch rule", shown["notes"][0])
        number = found["id"]
        self.post(f"/exchange/imports/{number}/topic", {"topic": "buoyage"})
        look_through.call(number)
        page = self.taken(number)
        self.assertEqual(page["state"], "done", page["why"])
        test = Test.objects.get(pk=page["tests"][0]["made"])
        (section,) = test.composition.sections
        self.assertEqual(
            [(entry.count, entry.points) for entry in section.entries],
            [(1, Fraction(5, 2)), (1, 1)],
        )
        self.assertEqual(len(section.entries[1].families), 2)
        self.assertEqual((test.rules.minutes, test.title), (20, "Lamps"))
        test.rules.minutes = 25
        test.save()
        self.assertEqual(take_back(Import.objects.get(pk=number)), ["Lamps"], "changed since")
        test.rules.minutes = 20
        test.save()
        self.assertEqual(self.post(f"/exchange/imports/{number}/undo")["kept"], [])
        self.assertFalse(Test.objects.filter(title="Lamps").exists())

    def test_a_courses_own_test_comes_back_with_every_rule(self) -> None:
        entries = [EntryData(families=["distance-run"], points=Fraction(3, 2))]
        sections = [SectionData(title="All", directions="Think.", entries=entries, shuffled=True)]
        rules = RulesData(minutes=30, pass_mark=Fraction(50), scale=10, navigation="linear")
        whole = CompositionData(sections=sections, seed=7)
        test = make_test(self.course, "Week two", whole, rules, None, directions="Go.")
        found = self.read(self.exported(test=test.pk))
        page = self.taken(found["id"])
        self.assertEqual(page["state"], "done", page["why"])
        made = Test.objects.get(pk=page["tests"][0]["made"])
        same = ("title", "directions", "composition", "rules")
        self.assertEqual([getattr(made, n) for n in same], [getattr(test, n) for n in same])
        self.assertEqual(page["tests"][0]["notes"], [])
