"""Work that is done before the lock is taken, and again when somebody else was quicker."""

from __future__ import annotations

import threading
from typing import Any
from unittest.mock import patch

from django.db import IntegrityError, connection
from django.test import Client, TransactionTestCase

from vendaval.bank.loading import load_pack
from vendaval.levels.checking import check_states
from vendaval.levels.models import LearnerState
from vendaval.shared.changes import Stale, until_stored
from vendaval.shared.errors import Conflict
from vendaval.work import actions
from vendaval.work.models import Mark, Try
from vendaval.work.tests.builders import CourseTestCase, a_learner, inshore, right, wrong


class AgainTests(CourseTestCase):
    def test_the_loser_does_its_work_again_and_nothing_is_lost(self) -> None:
        """Somebody writes between this answer's work and its storing."""
        question = self.practise()
        real, runs = actions.reply_of, []

        def slow(*arguments: Any) -> Any:
            runs.append(1)
            if len(runs) == 1:
                LearnerState.objects.update(version=77)
            return real(*arguments)

        with patch("vendaval.work.actions.reply_of", slow):
            reply = self.answer(question["id"], right(question["id"]))
        self.assertEqual(reply["feedback"]["verdict"], "right")
        self.assertEqual((len(runs), Try.objects.count()), (2, 1))
        self.assertEqual(LearnerState.objects.get().version, 78)
        self.assertTrue(all(found.agrees for found in check_states(self.course)))

    def test_marking_and_choosing_hold_no_lock(self) -> None:
        question = self.practise()
        real, inside = actions.grade, []

        def watched(*arguments: Any, **options: Any) -> Any:
            inside.append(len(connection.savepoint_ids))
            return real(*arguments, **options)

        before = len(connection.savepoint_ids)
        with patch("vendaval.work.actions.grade", watched):
            self.answer(question["id"], wrong(question["id"]))
        self.assertEqual(inside, [before])

    def test_who_never_gets_through_is_told_so(self) -> None:
        def stale() -> None:
            raise Stale

        def broken() -> None:
            raise Stale from IntegrityError("a column is null")

        with self.assertRaises(Conflict) as caught:
            until_stored(stale)
        self.assertEqual(caught.exception.code, "busy")
        with self.assertRaisesMessage(IntegrityError, "a column is null"):
            until_stored(broken)


class TwoAtOnceTests(TransactionTestCase):
    """Threads with connections of their own, as the server has them."""

    def test_two_answers_to_one_question_at_once_count_once(self) -> None:
        course = load_pack(inshore())
        learner = a_learner(course)
        self.client.force_login(learner)
        start = {"purpose": "practice", "topics": ["tidal-terms"]}
        address = "/api/courses/inshore"
        reply = self.client.post(f"{address}/runs", start, "application/json")
        question = reply.json()["question"]["id"]
        given, ready, statuses = right(question), threading.Barrier(4), []

        def send(number: int) -> None:
            client = Client()
            client.force_login(learner)
            ready.wait()
            body = {"replay_key": f"at-once-{number % 2}", "responses": given}
            sent = client.post(f"{address}/questions/{question}/answer", body, "application/json")
            statuses.append(sent.status_code)
            connection.close()

        threads = [threading.Thread(target=send, args=(n,)) for n in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(Try.objects.count(), 1)
        self.assertEqual(Mark.objects.count(), len(given))
        self.assertEqual(sorted(statuses), [200, 200, 409, 409])
        self.assertEqual([found.agrees for found in check_states(course)], [True])
