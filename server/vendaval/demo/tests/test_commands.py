"""Studies and figures from the command line."""

import json
from unittest.mock import patch

from django.core.management import CommandError
from django.test import TestCase

from vendaval.work.tests.builders import run_command


class StudyTests(TestCase):
    SMALL = ("--learners", "8", "--topics", "3", "--families", "12", "--questions", "9")

    def test_policies_are_compared_from_the_same_seed(self) -> None:
        found = json.loads(
            run_command("simulate", *self.SMALL, "--policy", "joint,random", "--json")
        )
        self.assertEqual([one["policy"] for one in found], ["joint", "random"])
        for one in found:
            self.assertEqual(len(one["rmse"]), 10)
            self.assertLess(one["rmse"][-1], one["rmse"][0])
        again = json.loads(run_command("simulate", *self.SMALL, "--policy", "joint", "--json"))
        self.assertEqual(again["rmse"], found[0]["rmse"])

    def test_what_cannot_be_simulated(self) -> None:
        for arguments, what in (
            (("--learners", "0"), "--learners is at least 1, not 0"),
            (("--policy", "fastest"), "fastest"),
        ):
            with self.assertRaisesMessage(CommandError, what):
                run_command("simulate", *arguments)

    def test_figures_are_measured_part_by_part(self) -> None:
        with patch("vendaval.demo.management.commands.benchmark.making_versions") as making:
            making.return_value = {"versions": 1}
            found = json.loads(run_command("benchmark", only="versions"))
        self.assertEqual(found, {"version": {"versions": 1}})
        making.assert_called_once_with(500)
        change = json.loads(run_command("benchmark", only="change", runs=12))["change"]
        self.assertTrue(change)
        with self.assertRaisesMessage(CommandError, "no such part: speed"):
            run_command("benchmark", only="speed,versions")
