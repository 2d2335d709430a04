"""Pages of paper: from a phone's link, a camera or a file to the attempt, until all are in."""

from __future__ import annotations

import io
import json
from typing import Any

import pillow_heif
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from PIL import Image, ImageDraw

from vendaval.exams.columns import LateSave, RulesData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import AnswerSoFar, Attempt, Page, PageImage
from vendaval.files.sheets import sheets_of
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.models import Role
from vendaval.shared.errors import Unprocessable
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role
from vendaval_core.assessment.paper import PagesWanted

from .builders import ExamTestCase

ORIENTATION, GPS, ROTATED = 0x0112, 0x8825, 6


def drawn(width: int = 600, height: int = 400) -> Image.Image:
    """A sheet, red in its upper left corner."""
    sheet = Image.new("RGB", (width, height), "white")
    ImageDraw.Draw(sheet).rectangle((0, 0, width // 4, height // 4), fill="red")
    return sheet


def saved(picture: Image.Image, kind: str, **options: Any) -> bytes:
    out = io.BytesIO()
    picture.save(out, kind, **options)
    return out.getvalue()


def is_red(data: bytes, x: float, y: float) -> bool:
    with Image.open(io.BytesIO(data)) as picture:
        r, g, b = picture.getpixel((int(x * picture.width), int(y * picture.height)))
    return r > 200 and g < 90 and b < 90


class ImageTests(ExamTestCase):
    """What a camera writes is turned as EXIF's orientation tag says (CIPA DC-008, tag 0x0112: 6
    means that the picture's first row is its right side); the files are made by Pillow."""

    def test_a_photograph_is_turned_upright_and_tells_nothing_but_the_picture(self) -> None:
        exif = Image.Exif()
        exif[ORIENTATION] = ROTATED
        exif.get_ifd(GPS)[1] = "N"
        lying = drawn().rotate(90, expand=True)
        (sheet,) = sheets_of(saved(lying, "JPEG", exif=exif, comment=b"where I live"), 5, "ana")
        for data in (sheet.full, sheet.small):
            self.assertTrue(is_red(data, 0.1, 0.1))
            with Image.open(io.BytesIO(data)) as picture:
                self.assertEqual(dict(picture.getexif()), {})
                self.assertGreater(picture.width, picture.height)
                self.assertNotIn("comment", picture.info)

    def test_png_heic_and_every_page_of_a_document_can_be_read(self) -> None:
        clear = Image.new("RGBA", (300, 200), (0, 0, 0, 0))
        (sheet,) = sheets_of(saved(clear, "PNG"), 1, "ana")
        with Image.open(io.BytesIO(sheet.full)) as picture:
            self.assertEqual(picture.getpixel((5, 5)), (255, 255, 255))
        out = io.BytesIO()
        pillow_heif.from_pillow(drawn()).save(out)
        (sheet,) = sheets_of(out.getvalue(), 1, "ana")
        self.assertTrue(is_red(sheet.full, 0.1, 0.1))
        document = saved(drawn(), "PDF", save_all=True, append_images=[drawn(), drawn()])
        self.assertEqual(len(sheets_of(document, 3, "ana")), 3)

    def test_what_cannot_be_a_page_is_refused_with_the_reason(self) -> None:
        document = saved(drawn(), "PDF", save_all=True, append_images=[drawn()])
        bomb = saved(Image.new("1", (9000, 9000)), "PNG")
        for data, says in (
            (b"", "empty"),
            (b"no picture at all", "can’t read"),
            (saved(drawn(), "GIF"), "can’t read"),
            (saved(drawn(), "JPEG")[:200], "can’t read"),
            (b"%PDF-1.7 broken", "can’t read"),
            (document, "room for 1"),
            (bomb, "too large"),
        ):
            with self.assertRaisesMessage(Unprocessable, says):
                sheets_of(data, 1, "ana")


class PaperTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        test = make_test(self.course, "On paper", self.composition(), RulesData(), None)
        self.assignment = give(test, self.group, None, pages=PagesWanted.MUST)
        self.attempt = self.begin(self.assignment)
        self.save(self.attempt, 1, self.right_at(self.attempt, 1))
        self.save(self.attempt, 2, {}, on_paper=True, sheet=1)
        self.save(self.attempt, 4, {}, on_paper=True, sheet=2)
        self.at = f"/attempts/{self.attempt['id']}/paper"

    def send(self, path: str, *, client: Client | None = None, status: int = 200) -> Any:
        file = SimpleUploadedFile("sheet.jpg", saved(drawn(), "JPEG"), "image/jpeg")
        reply = (client or self.client).post(path, {"file": file})
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def add(self, *, status: int = 200) -> Any:
        return self.send(f"{self.address(self.at)}/pages", status=status)

    def change(self, page: int, body: dict[str, Any], *, status: int = 200) -> Any:
        reply = self.client.patch(
            self.address(f"{self.at}/pages/{page}"),
            json.dumps(body),
            content_type="application/json",
        )
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def test_pages_come_after_handing_in_until_all_are_in(self) -> None:
        self.assertEqual(self.add(status=409)["code"], "pages_before")
        self.assertEqual(self.hand_in(self.attempt)["pages"], "open")
        first = self.add()["pages"][0]
        self.assertEqual(first["questions"], [2], "the learner said that it is on sheet 1")
        both = self.add()["pages"]
        self.assertEqual([page["questions"] for page in both], [[2], [4]])
        second = both[1]["id"]
        moved = self.change(second, {"place": 1, "questions": [4, 3]})["pages"]
        self.assertEqual([(p["id"], p["place"]) for p in moved], [(second, 1), (first["id"], 2)])
        self.assertEqual(moved[0]["questions"], [3, 4])
        self.change(second, {"questions": [9]}, status=422)
        self.change(second, {"turn": 1})
        picture = self.client.get(self.address(f"{self.at}/pages/{second}/picture"))
        self.assertTrue(is_red(picture.content, 0.9, 0.1), "turned clockwise")
        self.client.delete(self.address(f"{self.at}/pages/{first['id']}"))
        self.assertEqual([p["place"] for p in self.get(self.at)["pages"]], [1])
        for _ in range(2):
            self.assertEqual(self.post(f"{self.at}/all-in")["state"], "all_in")
        self.assertEqual(self.add(status=409)["code"], "pages_all_in")
        self.change(second, {"turn": 1}, status=409)

    def test_an_answer_on_paper_waits_for_a_person_and_says_so(self) -> None:
        self.hand_in(self.attempt)
        row = self.row(self.attempt)
        assert row.total is not None
        self.assertEqual((row.total.reached, row.total.waiting, row.released_at), (1, 2, None))
        lines = self.get(f"/attempts/{self.attempt['id']}/results")["lines"]
        self.assertEqual(
            [line["result"] for line in lines], ["right", "waiting", "empty", "waiting"]
        )

    def test_a_phone_adds_pages_by_its_link_and_by_no_other(self) -> None:
        self.hand_in(self.attempt)
        link = self.post(f"{self.at}/link")
        self.assertIn("<svg", link["qr"])
        phone, path = Client(), f"/api{link['path']}"
        self.assertEqual(phone.get(path).json()["learner"], self.learner.display_name)
        self.assertEqual(self.send(f"{path}/pages", client=phone)["pages"], 1)
        self.assertEqual(Page.objects.get().came, "phone")
        self.assertEqual(phone.get(path[:-1] + "x").status_code, 404)
        newer = f"/api{self.post(f'{self.at}/link')['path']}"
        self.assertEqual(phone.get(path).status_code, 404, "a newer link took its place")
        self.clock.forward(minutes=14)
        self.assertEqual(phone.get(newer).status_code, 200)
        self.clock.forward(minutes=1)
        self.send(f"{newer}/pages", client=phone, status=404)
        self.clock.forward(minutes=4)
        self.add()
        self.clock.forward(minutes=1)
        self.assertEqual(self.add(status=409)["code"], "pages_over")

    def test_whoever_watches_over_it_sees_states_ticks_sheets_off_and_ends_it(self) -> None:
        desk, tutor = Client(), with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        desk.force_login(tutor)
        sitting = f"/api/groups/{self.group.pk}/tests/{self.assignment.pk}/sitting"

        def states() -> list[str]:
            return [one["state"] for one in desk.get(sitting).json()["learners"]]

        self.assertEqual(states(), ["working"])
        self.clock.forward(minutes=1)
        self.assertEqual(states(), ["away"])
        self.hand_in(self.attempt)
        (line,) = desk.get(sitting).json()["learners"]
        self.assertEqual(
            (line["state"], line["on_paper"], line["sheets"]), ("handed_in", 2, [1, 2])
        )
        at = f"{sitting}/{self.attempt['id']}"
        body = json.dumps({"shown": True})
        (line,) = desk.post(f"{at}/shown", body, content_type="application/json").json()["learners"]
        self.assertEqual(line["shown_by"], tutor.display_name)
        late = LateSave(responses={"answer": "9"}, at=self.clock())
        AnswerSoFar.objects.filter(attempt=self.attempt["id"], number=1).update(late=late)
        self.assertEqual(desk.get(sitting).json()["learners"][0]["late"], 1)
        page = self.add()["pages"][0]["id"]
        self.assertEqual(desk.get(f"{at}/pages/{page}").status_code, 200)
        self.assertEqual(desk.get(f"{at}/pages/{page + 1}").status_code, 404)
        desk.post(f"{at}/close-pages")
        self.assertEqual(self.add(status=409)["code"], "pages_over")
        self.group.members.update(until=self.clock())
        self.assertEqual(desk.get(f"{at}/pages/{page}").status_code, 404, "the membership ended")

    def test_looking_at_many_takes_as_many_queries_as_at_one(self) -> None:
        desk, tutor = Client(), with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        desk.force_login(tutor)
        sitting = f"/api/groups/{self.group.pk}/tests/{self.assignment.pk}/sitting"
        desk.get(sitting)
        with CaptureQueriesContext(connection) as one:
            desk.get(sitting)
        count = len(one)
        for n in range(3):
            other = a_learner(self.course, f"other-{n}")
            join_group(self.group, enrolment_of(other))
            self.client.force_login(other)
            self.begin(self.assignment)
        with self.assertNumQueries(count):
            self.assertEqual(len(desk.get(sitting).json()["learners"]), 4)

    def test_the_receipt_counts_what_is_on_paper(self) -> None:
        receipt = self.hand_in(self.attempt)
        self.assertEqual((receipt["answered"], receipt["questions"]), (3, 4))

    def test_pages_go_with_their_attempt(self) -> None:
        self.hand_in(self.attempt)
        self.add()
        Attempt.objects.all().delete()
        self.assertEqual(PageImage.objects.count(), 0)
