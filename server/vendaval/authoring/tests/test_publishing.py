"""Drafts, which no learner sees, and what becomes of them: published, put back, thrown away."""

from __future__ import annotations

import json
from typing import Any
from unittest.mock import patch

from vendaval.authoring.drafts import save_draft
from vendaval.authoring.families import opened
from vendaval.authoring.models import Draft
from vendaval.authoring.schemas import SaveDraftIn
from vendaval.bank.models import Family, RevisionSource
from vendaval.people.actions import give_role
from vendaval.people.models import AuditEntry, AuditKind, Role
from vendaval.shared.errors import Changed
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import CourseTestCase, an_account, with_role
from vendaval_core.authoring.table import ROWS

KEY = "distance-run"


class AuthorTestCase(CourseTestCase):
    """Rui, who writes for the course."""

    def setUp(self) -> None:
        super().setUp()
        self.rui = with_role(self.course, Role.AUTHOR)
        self.client.force_login(self.rui)

    def at(self, path: str = "", key: str = KEY) -> str:
        return f"/api/courses/{self.course.key}/authoring/families/{key}{path}"

    def told(self, path: str = "", key: str = KEY) -> dict[str, Any]:
        return dict(self.client.get(self.at(path, key)).json())

    def send(self, path: str, body: dict[str, Any], key: str = KEY) -> Any:
        return self.client.post(self.at(path, key), json.dumps(body), "application/json")

    def save(self, page: dict[str, Any], **what: Any) -> Any:
        body = json.dumps({"version": page["version"], **what})
        return self.client.put(self.at(key=page["key"]), body, "application/json")

    def typed(self, page: dict[str, Any], old: str, new: str) -> dict[str, Any]:
        self.assertIn(old, page["text"])
        return dict(self.save(page, text=page["text"].replace(old, new)).json())


class DraftTests(AuthorTestCase):
    def test_the_form_and_the_file_say_the_same(self) -> None:
        page = self.told()
        data = page["data"] | {"title": "Distance made good"}
        by_form = self.save(page, data=data).json()
        self.assertEqual(
            by_form["text"], page["text"].replace("Distance run", "Distance made good")
        )
        self.assertTrue(by_form["is_draft"])
        back = self.typed(by_form, "Distance made good", "Distance run")
        self.assertEqual((back["is_draft"], back["text"]), (False, page["text"]))
        self.assertFalse(Draft.objects.exists())

    def test_twelve_versions_follow_what_is_typed_and_problems_name_their_line(self) -> None:
        page = self.told()
        self.assertEqual(len(page["versions"]["rows"]), ROWS)
        broken = self.save(page, text=page["text"] + "hints_: []\n").json()
        self.assertIsNone(broken["versions"])
        line = page["text"].count("\n") + 1
        self.assertEqual([(p["line"], p["field"]) for p in broken["problems"]], [(line, "hints_")])
        unread = self.save(broken, text="title: [").json()
        self.assertIsNone(unread["data"])
        refused = self.save(unread, data={"title": "x"})
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "not_yaml"))

    def test_two_who_write_at_once_lose_nothing(self) -> None:
        page = self.told()
        mine = self.save(page, data=page["data"] | {"title": "Mine"})
        again = self.save(page, data=page["data"] | {"title": "Mine"})
        self.assertEqual((mine.status_code, again.status_code), (200, 200))
        other = an_account("nel")
        give_role(other, self.course.school, Role.AUTHOR)
        self.client.force_login(other)
        late = self.save(page, data=page["data"] | {"seconds": 55})
        self.assertEqual((late.status_code, late.json()["code"]), (409, "changed"))
        self.assertEqual(late.json()["current"]["data"]["title"], "Mine")
        by_file = self.save(page, text="title: Other\n")
        self.assertEqual((by_file.status_code, by_file.json()["code"]), (409, "changed"))
        self.assertIn("title: Mine", Draft.objects.get().text)

    def test_a_save_that_crosses_another_is_told_all_that_stands(self) -> None:
        crossed = opened(self.course, KEY, self.rui)
        page = self.told()
        self.typed(page, "Distance run", "Distance made good")
        wanted = SaveDraftIn(version=page["version"], data=page["data"] | {"seconds": 55})
        with self.assertRaises(Changed) as refused:
            save_draft(crossed, wanted, an_account("nel"))
        self.assertEqual(refused.exception.current["data"]["title"], "Distance made good")
        self.assertEqual(refused.exception.version, self.told()["version"])

    def test_a_row_is_tried_in_the_player_and_nothing_is_kept(self) -> None:
        page = self.typed(self.told(), "Distance run", "Distance made good")
        fresh = self.send("/try", {"seed": 3}).json()
        self.assertEqual(fresh["question"]["title"], "Distance made good")
        self.assertEqual([s["state"] for s in fresh["question"]["states"]], ["open"])
        row = page["versions"]["rows"][2]["parts"][0]
        slip = row["slips"][0]
        for response, said in ((row["right"], "right"), (slip["response"], "closed")):
            tried = self.send("/try", {"seed": 3, "responses": {row["id"]: response}}).json()
            self.assertEqual(tried["question"]["states"][0]["state"], said)
        self.assertFalse(Presentation.objects.exists())

    def test_a_variable_is_called_otherwise_by_who_saw_what_stands(self) -> None:
        page = self.told()
        names = {"version": page["version"], "old": "speed", "new": "knots"}
        named = self.send("/rename", names).json()
        self.assertIn("[[fixed(knots, 1)]]", named["text"])
        self.assertNotIn("speed *", named["text"])
        for wrong in ("mins", "Knots", "7"):
            refused = self.send(
                "/rename", names | {"version": named["version"], "old": "knots", "new": wrong}
            )
            self.assertEqual((refused.status_code, list(refused.json()["fields"])), (422, ["new"]))
        late = self.send("/rename", names | {"new": "fast"})
        self.assertEqual(late.status_code, 422)

    def test_an_author_who_has_it_in_an_open_test_does_not_get_to_see_it(self) -> None:
        with patch("vendaval.authoring.families.open_in_tests_of") as open_:
            open_.return_value = {(Family.objects.get(key=KEY).pk, 1)}
            for path in (
                "",
                "/history",
                "/publishing",
                "/wrong-answers",
                "/compare?older=1&newer=1",
            ):
                reply = self.client.get(self.at(path))
                self.assertEqual((reply.status_code, reply.json()["code"]), (409, "open_in_test"))
            files = f"/api/courses/{self.course.key}/authoring/bank/files?families={KEY}"
            self.assertEqual(self.client.get(files).json()["code"], "open_in_test")

    def test_learners_get_what_is_published_until_it_is(self) -> None:
        self.typed(self.told(), "Distance run", "Distance made good")
        family = Family.objects.get(key=KEY)
        self.assertEqual(family.revisions.count(), 1)


class PublishTests(AuthorTestCase):
    def publish(self, page: dict[str, Any], **more: Any) -> Any:
        body = {"version": page["version"], "why": "Learners took it for speed."}
        body = {"keeps": True, **body, **more}
        return self.send("/publish", body, page["key"])

    def test_what_was_published_is_in_force_with_who_and_why(self) -> None:
        page = self.typed(self.told(), "Distance run", "Distance made good")
        asked = self.told("/publishing")
        self.assertEqual((asked["problems"], asked["keeps"]), ([], True))
        self.assertEqual([c["kind"] for c in asked["changes"]], ["wording"])
        self.assertEqual(len(asked["means"]), 1)
        done = self.publish(page)
        self.assertEqual(done.status_code, 200, done.content)
        self.assertEqual((done.json()["is_draft"], done.json()["published"]["number"]), (False, 2))
        source = RevisionSource.objects.get(revision__family__key=KEY, revision__number=2)
        self.assertEqual((source.by, source.fresh), (self.rui, False))
        entry = AuditEntry.objects.get(kind=AuditKind.PUBLISHED)
        self.assertIn(KEY, entry.says)
        again = self.publish(page)
        self.assertEqual((again.status_code, again.json()["code"]), (409, "nothing_changed"))

    def test_a_changed_key_is_asked_afresh_unless_the_author_says_otherwise(self) -> None:
        page = self.told()
        page = self.typed(page, "answer: miles\n", "answer: miles + 0.2\n")
        asked = self.told("/publishing")
        self.assertFalse(asked["keeps"])
        self.assertEqual(self.publish(page, keeps=False).status_code, 200)
        self.assertTrue(RevisionSource.objects.get(revision__number=2).fresh)

    def test_nothing_with_a_problem_in_any_version_is_published(self) -> None:
        page = self.told()
        page = self.typed(page, "- answer: speed * hours\n", "- answer: miles / (speed - 5.5)\n")
        told = self.told("/publishing")["problems"]
        self.assertEqual({p["line"] for p in told}, {20}, told)
        refused = self.publish(page)
        self.assertEqual(refused.status_code, 422, refused.content)
        self.assertEqual(Family.objects.get(key=KEY).revisions.count(), 1)

    def test_a_version_that_was_not_looked_at_is_not_published(self) -> None:
        page = self.typed(self.told(), "Distance run", "Distance made good")
        self.typed(page, "Distance made good", "Distance over ground")
        refused = self.publish(page)
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "changed"))

    def test_a_new_question_is_written_from_nothing(self) -> None:
        at = self.at(key="").removesuffix("/")
        body = {"topic": "tidal-terms", "title": "Sum of two", "start": "number"}
        page = self.client.post(at, json.dumps(body), "application/json").json()
        self.assertEqual((page["key"], page["published"]), ("sum-of-two", None))
        self.assertEqual(len(page["versions"]["rows"]), ROWS)
        twice = self.client.post(at, json.dumps(body), "application/json").json()
        self.assertEqual(twice["key"], "sum-of-two-2")
        self.assertEqual(self.publish(page).status_code, 200)
        self.assertTrue(Family.objects.get(key="sum-of-two").live)
        nothing = self.client.delete(self.at(key="sum-of-two-2")).json()
        self.assertEqual(
            (nothing, self.client.get(self.at(key="sum-of-two-2")).status_code),
            ({"published": False}, 404),
        )

    def test_a_formula_is_checked_in_a_process_within_the_process(self) -> None:
        at = self.at(key="").removesuffix("/")
        body = {"topic": "tidal-terms", "title": "A formula", "start": "expression"}
        page = self.client.post(at, json.dumps(body), "application/json").json()
        asked = self.told("/publishing", page["key"])
        self.assertEqual(asked.get("problems"), [], asked)

    def test_two_files_of_very_many_lines_are_not_held_against_each_other(self) -> None:
        page = self.told()
        self.save(page, text=page["text"] + "#\n" * 4000)
        lines = self.told("/compare?older=1&newer=0")["lines"]
        self.assertEqual({one["of"] for one in lines}, {"older", "newer"})

    def test_history_shows_what_was_and_puts_it_back(self) -> None:
        before = self.told()
        page = self.typed(before, "Distance run", "Distance made good")
        self.publish(page)
        self.typed(self.told(), "Distance made good", "Distance over ground")
        told = self.told("/history")
        self.assertEqual([r["number"] for r in told["revisions"]], [2, 1])
        self.assertEqual(told["revisions"][0]["why"], "Learners took it for speed.")
        sides = self.told("/compare?older=1&newer=0&seed=4")
        old, new = sides["older"]["question"], sides["newer"]["question"]
        self.assertEqual(old["prompt_html"], new["prompt_html"])
        self.assertEqual((old["title"], new["title"]), ("Distance run", "Distance over ground"))
        changed = [(one["of"], one["text"]) for one in sides["lines"] if one["of"] != "both"]
        self.assertEqual(
            changed, [("older", "title: Distance run"), ("newer", "title: Distance over ground")]
        )
        put_back = self.send("/revisions/1/restore", {}).json()
        self.assertEqual(put_back["text"], before["text"])
        self.assertEqual((put_back["is_draft"], put_back["based_on"]), (True, 2))
        steps = self.told("/history")["steps"]
        self.assertEqual(len(steps), 1)


class ExampleTests(AuthorTestCase):
    def test_a_formula_is_found_from_examples_and_becomes_a_draft(self) -> None:
        at = f"/api/courses/{self.course.key}/authoring/examples"
        text = "You run for [[hours]] h at [[speed]] kn. How far?"
        rows = [("3", "4.5", "13.5"), ("5", "5.0", "25.0")]

        def sent() -> dict[str, Any]:
            hours, speeds, answers = zip(*rows, strict=True)
            marks = [
                {"name": "hours", "written": hours, "low": 1, "high": 9, "step": 1},
                {"name": "speed", "written": speeds, "low": 3, "high": 7, "step": 0.5},
            ]
            return {"text": text, "marks": marks, "answers": answers}

        reply = self.client.post(at, json.dumps(sent()), "application/json").json()
        while reply["state"] == "asks":
            hours, speed = reply["ask"]
            rows.append((hours, speed, f"{float(hours) * float(speed):.1f}"))
            reply = self.client.post(at, json.dumps(sent()), "application/json").json()
        formula = reply["fits"][0]["formula"]
        self.assertEqual(sorted(formula.split(" * ")), ["hours", "speed"])
        more = {"topic": "tidal-terms", "title": "How far", "formula": formula}
        begun = self.client.post(f"{at}/begin", json.dumps(sent() | more), "application/json")
        page = begun.json()
        self.assertEqual((page["key"], page["problems"]), ("how-far", []))
        self.assertIn(f"answer: {formula}", page["text"])
        wrong = self.client.post(
            f"{at}/begin", json.dumps(sent() | more | {"formula": "hours *"}), "application/json"
        )
        self.assertEqual(wrong.status_code, 422)
        rows[0] = ("half a dozen", "4.5", "13.5")
        unread = self.client.post(at, json.dumps(sent()), "application/json")
        self.assertEqual(list(unread.json()["fields"]), ["hours"], unread.content)
