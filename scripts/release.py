"""Date the changelog, set the version, commit and tag: `make release VERSION=1.2.0`."""

from __future__ import annotations

import re
import subprocess
import sys
from datetime import UTC, datetime
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
VERSION = re.compile(r"\d+\.\d+\.\d+")
UNRELEASED = "## Unreleased\n"


def git(*words: str) -> str:
    """What git says."""
    done = subprocess.run(["git", *words], cwd=ROOT, check=True, capture_output=True, text=True)
    return done.stdout.strip()


def dated(changelog: str, version: str, day: str) -> str:
    """The changelog with what was unreleased under the version. SystemExit when nothing was."""
    before, found, rest = changelog.partition(UNRELEASED)
    if not found or not rest.split("\n## ")[0].strip():
        raise SystemExit("There is nothing under “Unreleased” in CHANGELOG.md.")
    return f"{before}{UNRELEASED}\n## {version}, {day}\n{rest}"


def with_version(project: str, version: str) -> str:
    """The text of pyproject.toml with another version."""
    text, count = re.subn(r'(\nversion = ")[^"]+(")', rf"\g<1>{version}\g<2>", project, count=1)
    if count != 1:
        raise SystemExit("pyproject.toml has no version to set.")
    return text


def main(version: str) -> None:
    """Release a version from a clean main branch."""
    if not VERSION.fullmatch(version):
        raise SystemExit("Give a version like 1.2.0: make release VERSION=1.2.0")
    if git("status", "--porcelain"):
        raise SystemExit("Commit or put away what has changed first.")
    if git("rev-parse", "--abbrev-ref", "HEAD") != "main":
        raise SystemExit("Releases are made from main.")
    if f"v{version}" in git("tag").splitlines():
        raise SystemExit(f"v{version} is there already.")
    day = datetime.now(UTC).date().isoformat()
    changelog, project = ROOT / "CHANGELOG.md", ROOT / "pyproject.toml"
    texts = dated(changelog.read_text(), version, day), with_version(project.read_text(), version)
    changelog.write_text(texts[0])
    project.write_text(texts[1])
    git("commit", "-am", f"Release {version}")
    git("tag", "-a", f"v{version}", "-m", f"Vendaval {version}")
    print(f"Tagged v{version}. Push it with: git push origin main v{version}")


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "")
