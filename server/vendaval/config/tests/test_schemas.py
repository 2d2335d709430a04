"""The API's document names every shape once."""

from collections import Counter
from collections.abc import Iterator
from unittest import TestCase

from pydantic import BaseModel

from vendaval.config.api import api
from vendaval_core.items.presented import PartOut


def shapes(model: type[BaseModel] = BaseModel) -> Iterator[type[BaseModel]]:
    for one in model.__subclasses__():
        yield one
        yield from shapes(one)


class SchemaTests(TestCase):
    def test_no_two_shapes_share_a_name(self) -> None:
        """Of two that do, the document would show one for both."""
        self.assertTrue(api.get_openapi_schema()["paths"])
        own = {one for one in shapes() if one.__module__.startswith("vendaval")}
        own -= {PartOut}
        names = Counter(one.__name__ for one in own if one.__name__.endswith(("Out", "In")))
        self.assertEqual([name for name, count in names.items() if count > 1], [])
