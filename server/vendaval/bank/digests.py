"""Digests of plain data."""

from __future__ import annotations

import hashlib
import json


def digest_of(data: object) -> str:
    """The digest of plain data, whatever the order of its keys."""
    return hashlib.sha256(json.dumps(data, sort_keys=True, ensure_ascii=False).encode()).hexdigest()
