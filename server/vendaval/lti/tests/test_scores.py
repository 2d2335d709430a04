"""Scores for a platform: when they are out, when they change, and what it answers."""

from __future__ import annotations

from fractions import Fraction
from typing import Any
from unittest.mock import patch

import requests
from pylti1p3.exception import LtiException, LtiServiceException

from vendaval.exams.models import Assignment, Attempt
from vendaval.exams.taking.queries import told_of
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import join_group
from vendaval.lti import scores
from vendaval.lti.models import (
    Platform,
    PlatformAccount,
    PlatformContext,
    PlatformLink,
    ScoreSent,
    ScoreState,
)
from vendaval.people.models import School
from vendaval.shared import clock
from vendaval.work.tests.builders import a_learner, enrolment_of


class ScoreTests(ExamTestCase):
    def linked(self, **rules: Any) -> tuple[PlatformLink, Assignment]:
        assignment = self.given(**rules)
        now = clock.now()
        at = "https://campus.example"
        self.platform = Platform.objects.create(
            school=School.objects.get(), name="Campus", issuer=at, client_id="1", login_url=at,
            token_url=at, keys_url=at, made_at=now,
        )  # fmt: skip
        PlatformAccount.objects.create(
            platform=self.platform, subject="u-1", person=self.learner, made=False, since=now
        )
        context = PlatformContext.objects.create(
            platform=self.platform, context="c-7", group=self.group
        )
        link = PlatformLink.objects.create(
            context=context, link="l", assignment=assignment, scores_url=f"{at}/7", looked_at=now
        )
        return link, assignment

    def test_a_score_is_known_once_it_may_be_told_and_anew_when_it_changes(self) -> None:
        link, assignment = self.linked()
        other = a_learner(self.course, "not-of-the-platform")
        join_group(self.group, enrolment_of(other))
        attempt = self.begin(assignment)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.assertEqual(scores.look_at(link), 0, "under way")
        self.hand_in(attempt)
        self.assertEqual((scores.look_at(link), scores.look_at(link)), (1, 0))
        known = ScoreSent.objects.get()
        self.assertEqual((known.given, known.of, known.state), (25, 100, "due"))
        ScoreSent.objects.update(state=ScoreState.SENT)
        row = Attempt.objects.get()
        assert row.total is not None
        row.total.reached = Fraction(2)
        row.save()
        self.clock.forward(minutes=1)
        self.assertEqual(scores.look_at(link), 1)
        changed = ScoreSent.objects.get()
        self.assertEqual((changed.given, changed.state), (50, "due"))
        self.assertGreater(changed.at, known.at)

    def test_a_platform_is_told_no_sooner_than_the_learner(self) -> None:
        held = dict.fromkeys(("score", "correctness", "answers", "solutions"), "last_attempt")
        link, assignment = self.linked(attempts=2, release=held)
        self.taken(assignment, 2)
        self.assertEqual(scores.look_at(link), 0, "another may follow")
        first = Attempt.objects.get()
        self.assertFalse(told_of(first)[1].score)
        self.begin(assignment)
        self.assertTrue(told_of(first)[1].score, "no other can follow")
        self.assertEqual(scores.look_at(link), 1)

    def test_what_the_platform_answers_decides_whether_it_is_tried_again(self) -> None:
        link, assignment = self.linked()
        self.taken(assignment, 1)
        scores.look_at(link)
        for status, state in ((500, "due"), (401, "due"), (404, "refused")):
            reply = requests.Response()
            reply.status_code, reply._content = status, b"no <b>mark</b>"
            with patch.object(scores, "_put", side_effect=LtiServiceException(reply)):
                scores.send(self.platform)
            row = ScoreSent.objects.get()
            self.assertEqual((row.state, str(status) in row.says), (state, True))
            self.clock.forward(hours=4)
        self.assertEqual(scores.send_again([link.pk]), 1)
        with patch.object(scores, "_put", side_effect=LtiException("away")):
            for _ in range(scores.MOST_TRIES):
                scores.send(self.platform)
                self.clock.forward(hours=4)
        row = ScoreSent.objects.get()
        self.assertEqual((row.state, row.tries), ("refused", scores.MOST_TRIES))
        self.assertIn("given up", row.says)
