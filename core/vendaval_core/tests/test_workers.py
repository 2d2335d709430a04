"""The algebra workers: what they answer, what ends them, and that others take their place."""

import json
import os
import signal
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from unittest import TestCase
from unittest.mock import patch

from vendaval_core.items.drawn import KeyedNearMiss
from vendaval_core.items.keys import ExpressionKey
from vendaval_core.scoring.marking import Verdict, mark_part
from vendaval_core.scoring.workers import SOURCE, FormulaWorkers, Work

SUM: Work = ("v + r", "r + v", ("v", "r"), "any")


class WorkerProcessTests(TestCase):
    def test_a_line_in_a_line_out_until_the_input_ends(self) -> None:
        works = [
            SUM,
            ("v - r", "r - v", ("v", "r"), "any"),
            ("v", "v +", ("v",), "any"),
            ("v", "9^9^9^9", ("v",), "any"),
            ("v", "(" * 200, ("v",), "any"),
            ("v^2 + 2v", "v(v + 2)", ("v",), "expanded"),
        ]
        done = subprocess.run(
            [sys.executable, "-m", "vendaval_core.scoring.worker"],
            input="".join(json.dumps(work) + "\n" for work in works),
            capture_output=True,
            text=True,
            cwd=SOURCE,
            timeout=60,
            check=True,
        )
        verdicts = [json.loads(line)[0] for line in done.stdout.splitlines()]
        self.assertEqual(verdicts[:4], ["ready", "right", "wrong", "unreadable"])
        self.assertEqual(verdicts[4:], ["unreadable", "unreadable", "form"])
        self.assertEqual(done.stderr, "")


class FormulaWorkersTests(TestCase):
    def workers(self, count: int) -> FormulaWorkers:
        made = FormulaWorkers(count)
        self.addCleanup(made.close)
        return made

    def test_another_takes_the_place_of_one_that_ended(self) -> None:
        """Killed at its limit, killed from outside, or never come up: the next is answered."""
        one = self.workers(1)
        (worker,) = one._workers

        def pid() -> int:
            self.assertEqual((one.ask(SUM) or ("",))[0], "right")
            assert worker._process is not None
            return worker._process.pid

        first = pid()
        hard = "+".join(f"sin({i}v)^12" for i in range(1, 9))
        self.assertIsNone(one.ask((hard, "v", ("v",), "any"), limit=0.001))
        second = pid()
        os.kill(second, signal.SIGKILL)
        os.waitid(os.P_PID, second, os.WEXITED | os.WNOWAIT)
        third = pid()
        self.assertEqual(len({first, second, third}), 3)
        worker.kill()
        with (
            patch("vendaval_core.scoring.workers.sys.executable", "/bin/true"),
            self.assertRaisesRegex(TimeoutError, "does not start"),
        ):
            one.ask(SUM)
        self.assertNotIn(pid(), {first, second, third})

    def test_more_askers_than_workers_wait_their_turn(self) -> None:
        two = self.workers(2)
        works: list[Work] = [(f"v + {n}", f"{n % 5} + v", ("v",), "any") for n in range(24)]
        with ThreadPoolExecutor(8) as threads:
            found = list(threads.map(two.ask, works))
        verdicts = [one[0] if one else None for one in found]
        self.assertEqual(verdicts, ["right"] * 5 + ["wrong"] * 19)


class MarkTests(TestCase):
    KEY = ExpressionKey(
        "time", "", "d/(v+r)", ("d", "v", "r"), "any",
        (KeyedNearMiss("d/(v-r)", "The stream runs with you."),),
    )  # fmt: skip

    def test_a_formula_that_takes_too_long_costs_no_try(self) -> None:
        with patch("vendaval_core.scoring.formulas.formula_workers.ask", return_value=None):
            mark = mark_part(self.KEY, "d/(v+r)")
        self.assertIs(mark.verdict, Verdict.UNREADABLE)
        self.assertIn("too long", mark.says or "")

    def test_a_foreseen_formula_is_known_however_it_is_written(self) -> None:
        for typed in ("d/(v-r)", "-d/(r-v)", "d*(v-r)^-1"):
            mark = mark_part(self.KEY, typed)
            self.assertEqual(
                (mark.verdict, mark.says), (Verdict.WRONG, "The stream runs with you.")
            )
        self.assertEqual(mark_part(self.KEY, "d/v").says, None)
