"""Archives that somebody damaged, by chance or on purpose: for proofs that none does harm."""

from __future__ import annotations

import io
import random
import zipfile
from collections.abc import Iterator, Mapping

WORDS = (
    b"&b;",
    b"1e999",
    b"-1",
    b"<a>",
    b"]]>",
    b"\xff\xfe",
    b"../../x",
    b"9" * 400,
    b"\x00",
    b"",
    b'<!DOCTYPE a [<!ENTITY b "bb">]>',
    b"<qti-not/>" * 60,
    b'href="file:///etc/passwd"',
)


def mutated(files: Mapping[str, bytes], rng: random.Random, count: int) -> Iterator[bytes]:
    """Yield so many archives of these files: bits turned, pieces of XML replaced, files under names
    that lead elsewhere, files left out, and one that unpacks to a great deal."""
    whole = _zipped(files)
    xml = [path for path in files if path.endswith(".xml")]
    for number in range(count):
        kind = number % 6
        if kind == 0:
            turned = bytearray(whole)
            for _ in range(rng.randint(1, 4)):
                turned[rng.randrange(len(turned))] ^= 1 << rng.randrange(8)
            yield bytes(turned)
            continue
        changed = dict(files)
        name = rng.choice(xml)
        if kind == 1:
            changed[rng.choice(["../", "/", "a/../../"]) + name] = changed.pop(name)
        elif kind == 2:
            del changed[rng.choice(list(changed))]
        elif kind == 3 and number % 30 == 3:
            changed[name] = b"<a>" * 100 + b"x" * 30_000_000
        else:
            content = bytearray(changed[name])
            for _ in range(rng.randint(1, 3)):
                at = rng.randrange(len(content))
                content[at : at + rng.randint(0, 12)] = rng.choice(WORDS)
            changed[name] = bytes(content)
        yield _zipped(changed)


def _zipped(files: Mapping[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, content in files.items():
            archive.writestr(path, content)
    return out.getvalue()
