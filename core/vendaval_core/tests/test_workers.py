"""The algebra workers: what they answer, what ends them, and that others take their place."""

import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

from vendaval_core.errors import AlgebraNotReady
from vendaval_core.items.drawn import KeyedNearMiss
from vendaval_core.items.formulas import workers as module
from vendaval_core.items.formulas.algebra import read_formula
from vendaval_core.items.formulas.syntax import FormulaUnreadable
from vendaval_core.items.formulas.workers import (
    SOURCE,
    FormulaWorkers,
    Found,
    Work,
    asking,
    formula_workers,
    insisting,
    too_long,
)
from vendaval_core.items.kinds.formula import FormulaKey
from vendaval_core.items.mark import Verdict

LETTERS = ("b", "h", "t", "m")


def work(typed: str, answer: str = "v + r", form: str = "any", *misses: str) -> Work:
    return Work(typed, answer, misses, ("v", "r"), form)


HARD = work("+".join(f"sin({i}v)^12" for i in range(1, 9)), "v")


class WorkerProcessTests(TestCase):
    def test_a_line_in_a_line_out_until_the_input_ends(self) -> None:
        works = [
            work("r + v"),
            work("r - v", "v - r", "any", "v + r", "-v + r"),
            work("v +"),
            work("9^9^9^9"),
            work("(" * 200),
            work("v(v + 2)", "v^2 + 2v", "expanded"),
        ]
        done = subprocess.run(
            [sys.executable, "-m", "vendaval_core.items.formulas.worker", str(os.getpid())],
            input=b"".join(one.line() for one in works),
            capture_output=True,
            cwd=SOURCE,
            timeout=60,
            check=True,
        )
        found = [Found(*json.loads(line)) for line in done.stdout.splitlines()]
        verdicts = [one.verdict for one in found]
        self.assertEqual(verdicts[:4], ["ready", "right", "wrong", "unreadable"])
        self.assertEqual(verdicts[4:], ["unreadable", "unreadable", "form"])
        self.assertEqual(found[2].miss, 1)
        self.assertEqual(done.stderr, b"")

    def test_it_ends_with_its_parent_even_while_it_works(self) -> None:
        """The parent is killed so that it can close nothing; an orphan once burned a core."""
        script = (
            "import subprocess, sys, os, time\n"
            "child = subprocess.Popen([sys.executable, '-m', 'vendaval_core.items.formulas.worker',"
            " str(os.getpid())], stdin=subprocess.PIPE, stdout=subprocess.PIPE)\n"
            "child.stdout.readline()\n"
            f"child.stdin.write({HARD.line()!r} * 9)\n"
            "child.stdin.flush()\n"
            "print(child.pid, flush=True)\n"
            "time.sleep(60)\n"
        )
        parent = subprocess.Popen(
            [sys.executable, "-c", script], stdout=subprocess.PIPE, cwd=SOURCE
        )
        assert parent.stdout is not None
        child = int(parent.stdout.readline())
        parent.kill()
        parent.communicate()
        for _ in range(100):
            status = Path(f"/proc/{child}/stat")
            if not status.exists() or status.read_text().split(") ")[1].startswith("Z"):
                return
            time.sleep(0.1)
        os.kill(child, signal.SIGKILL)
        self.fail("the worker outlives its parent")


class SizeTests(TestCase):
    def test_what_would_grow_too_large_is_refused_before_it_is_done(self) -> None:
        for typed in ("(b+h+t+m+1)^12*(b+h+t+m+2)^12", "(b+h+t+m)^12 + (b+h+t+m+2)^11"):
            started = time.perf_counter()
            with self.assertRaisesRegex(FormulaUnreadable, "too long to multiply out"):
                read_formula(typed, LETTERS)
            self.assertLess(time.perf_counter() - started, 1.0)

    def test_what_people_write_is_taken(self) -> None:
        for typed in ("(b + h)^12", "(b+h+t)(b-h)^3/(t+m)", "sqrt(b^2+h^2)(t+1)(m+1)(b+1)"):
            read_formula(typed, LETTERS)


class FormulaWorkersTests(TestCase):
    def workers(self, count: int) -> FormulaWorkers:
        made = FormulaWorkers(count)
        self.addCleanup(made.close)
        return made

    def right(self, workers: FormulaWorkers, number: int) -> None:
        found = workers.ask(work(f"{number} + v", f"v + {number}"))
        self.assertEqual(found.verdict if isinstance(found, Found) else found, "right")

    def test_another_takes_the_place_of_one_that_ended(self) -> None:
        """Killed at its limit, killed from outside, or never come up: the next is answered."""
        one = self.workers(1)
        (worker,) = one._all
        one.start()

        def pid(number: int) -> int:
            self.right(one, number)
            assert worker._process is not None
            return worker._process.pid

        first = pid(1)
        self.assertEqual(one.ask(HARD, limit=0.001), too_long())
        second = pid(2)
        os.kill(second, signal.SIGKILL)
        os.waitid(os.P_PID, second, os.WEXITED | os.WNOWAIT)
        third = pid(3)
        self.assertEqual(len({first, second, third}), 3)
        worker.kill()
        with (
            patch("vendaval_core.items.formulas.workers.sys.executable", "/bin/true"),
            self.assertLogs("vendaval.formulas", "ERROR") as logged,
        ):
            self.assertEqual(one.ask(work("v")), "not_ready")
        self.assertIn("the algebra worker does not start", logged.output[0])
        self.assertNotIn(pid(4), {first, second, third})

    def test_what_took_too_long_is_answered_from_memory(self) -> None:
        one = self.workers(1)
        self.right(one, 1)
        self.assertEqual(one.ask(HARD, limit=0.001), too_long())
        with patch.object(module._Worker, "ask", side_effect=AssertionError("asked again")):
            self.assertEqual(one.ask(HARD), too_long())

    def test_more_askers_than_workers_wait_their_turn(self) -> None:
        two = self.workers(2)
        two.start()
        works = [work(f"{n % 5} + v", f"v + {n}") for n in range(24)]
        with patch.object(module, "MOST_WAITING", 99), ThreadPoolExecutor(8) as threads:
            found = list(threads.map(two.ask, works))
        verdicts = [one.verdict for one in found if isinstance(one, Found)]
        self.assertEqual(verdicts, ["right"] * 5 + ["wrong"] * 19)

    def test_one_formula_a_learner_and_a_queue_that_ends(self) -> None:
        """The one worker is stopped, as one that chews on something."""
        one = self.workers(1)
        self.right(one, 1)
        process = one._all[0]._process
        assert process is not None
        process.send_signal(signal.SIGSTOP)

        def anas(typed: str) -> object:
            with asking("ana"):
                return one.ask(work(typed), limit=2.0)

        def until(reached: Callable[[], bool]) -> None:
            while not reached():
                time.sleep(0.01)

        with (
            patch.object(module, "MOST_WAITING", 1),
            patch.object(module, "WAIT_SECONDS", 60.0),
            ThreadPoolExecutor(4) as threads,
        ):
            first = threads.submit(anas, "v + 2")
            until(lambda: "ana" in one._askers)
            self.assertEqual(anas("v + 3"), "one_at_a_time")
            waits = threads.submit(one.ask, work("r + v"))
            until(lambda: one._waiting == 1)
            self.assertEqual(one.ask(work("r - v")), "busy")
            self.assertEqual(first.result(), too_long())
            found = waits.result()
        self.assertEqual(found.verdict if isinstance(found, Found) else found, "right")


class MarkTests(TestCase):
    KEY = FormulaKey(
        "time", "", "d/(v+r)", ("d", "v", "r"), "any",
        (KeyedNearMiss("d/(v-r)", "The stream runs with you."),),
    )  # fmt: skip

    def test_a_formula_that_is_not_worked_out_costs_no_try(self) -> None:
        for found, said in (
            (too_long(), "too long"),
            ("busy", "Send yours again"),
            ("one_at_a_time", "still checking another formula"),
        ):
            ask = "vendaval_core.items.kinds.formula.formula_workers.ask"
            with patch(ask, return_value=found):
                mark = self.KEY.mark("d/(v+r)")
            self.assertIs(mark.verdict, Verdict.UNREADABLE)
            self.assertIn(said, mark.says or "")

    def test_a_check_of_a_course_never_blames_a_formula_for_a_slow_machine(self) -> None:
        with (
            patch.object(formula_workers, "_ask", return_value="not_ready"),
            insisting(),
            self.assertRaises(AlgebraNotReady),
        ):
            self.KEY.mark("d/(v+r)")

    def test_a_foreseen_formula_is_known_however_it_is_written(self) -> None:
        for typed in ("d/(v-r)", "-d/(r-v)", "d*(v-r)^-1"):
            mark = self.KEY.mark(typed)
            self.assertEqual(
                (mark.verdict, mark.says), (Verdict.WRONG, "The stream runs with you.")
            )
        self.assertEqual(self.KEY.mark("d/v").says, None)
