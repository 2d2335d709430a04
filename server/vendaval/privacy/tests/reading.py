"""What is written out about somebody, read back."""

from __future__ import annotations

import json
from io import BytesIO
from typing import Any
from zipfile import ZipFile

from vendaval.people.models import User
from vendaval.privacy.copies import write_data
from vendaval.privacy.models import Audience


def data_of(person: User, audience: Audience = Audience.PERSON, **more: Any) -> dict[str, Any]:
    out = BytesIO()
    write_data(person, audience, out, **more)
    with ZipFile(out) as files:
        found: dict[str, Any] = json.loads(files.read("everything.json"))
        return found["kept"] | {"files": {name: files.read(name) for name in files.namelist()}}
