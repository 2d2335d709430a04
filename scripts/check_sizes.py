"""Files stay small: a list of exceptions that may only shrink, and the browser's first load."""

from __future__ import annotations

import gzip
import json
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LIMITS = {".py": 400, ".tsx": 250, ".ts": 250}
EXCEPTIONS: dict[str, int] = {}
FIRST_LOAD = 150_000
FIRST_PAGES = ("index.html", "src/roles/learner/Learner.tsx")


def long_files() -> list[str]:
    """Source files over their limit."""
    found = []
    for folder in ("core", "server", "e2e", "scripts", "web/src"):
        for path in sorted((ROOT / folder).rglob("*")):
            limit = LIMITS.get(path.suffix)
            if limit is None or "migrations" in path.parts or path.name.endswith(".d.ts"):
                continue
            name = str(path.relative_to(ROOT))
            lines = len(path.read_text(encoding="utf-8").splitlines())
            if lines > EXCEPTIONS.get(name, limit):
                found.append(f"{name}: {lines} lines, at most {EXCEPTIONS.get(name, limit)}")
    return found


def first_load() -> int | None:
    """Bytes of script, gzipped, until a learner sees Today: the page's own, that of the learner's
    part, and all that these import. None when nothing is built."""
    dist = ROOT / "web" / "dist"
    manifest = dist / ".vite" / "manifest.json"
    if not manifest.exists():
        return None
    chunks = json.loads(manifest.read_text(encoding="utf-8"))
    waiting, wanted = list(FIRST_PAGES), set[str]()
    while waiting:
        name = waiting.pop()
        if name not in wanted:
            wanted.add(name)
            waiting += chunks[name].get("imports", [])
    return sum(len(gzip.compress((dist / chunks[name]["file"]).read_bytes())) for name in wanted)


def main() -> int:
    wrong = long_files()
    size = first_load()
    if size is not None and size > FIRST_LOAD:
        wrong.append(f"first load: {size} bytes of script gzipped, at most {FIRST_LOAD}")
    print("\n".join(wrong) or f"first load: {size or 'not built'} bytes of script gzipped")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
