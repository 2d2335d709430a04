"""No version depends on the order in which a database keeps the keys of its JSON."""

import json
from typing import Any

from django.test import SimpleTestCase

from vendaval.work.tests.builders import inshore
from vendaval_core.items.versions import make_version
from vendaval_core.packs.families import family_from_data


class OrderTests(SimpleTestCase):
    def test_every_family_survives_sorted_keys(self) -> None:
        for item in inshore().families + inshore().rehearsal:
            data: dict[str, Any] = json.loads(json.dumps(item.data, sort_keys=True))
            family = family_from_data(item.family.key, item.family.topic, data)
            for seed in {1, min(7, family.versions), family.versions}:
                self.assertEqual(
                    make_version(family, seed), make_version(item.family, seed), family.key
                )
