"""Random numbers that stay the same for ever: a seed names a version, whatever Python runs it."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from typing import TypeVar

T = TypeVar("T")


class SeededStream:
    """Stream of uniform integers from SHA-256 of a label and a counter.

    The standard generator is not used because its integer methods may change between releases.
    """

    def __init__(self, *label: object) -> None:
        self._label = "\x1f".join(str(part) for part in label).encode()
        self._counter = 0

    def below(self, n: int) -> int:
        """Uniform integer from 0 to n - 1; n from 1 to 2**32. Rejection keeps it uniform."""
        limit = (1 << 64) - (1 << 64) % n
        while True:
            block = hashlib.sha256(self._label + b"\x1f%d" % self._counter).digest()
            self._counter += 1
            value = int.from_bytes(block[:8], "big")
            if value < limit:
                return value % n

    def shuffled(self, things: Sequence[T]) -> list[T]:
        """The things in a random order (Fisher and Yates)."""
        order = list(things)
        for i in range(len(order) - 1, 0, -1):
            j = self.below(i + 1)
            order[i], order[j] = order[j], order[i]
        return order
