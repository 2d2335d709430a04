"""Fail on a sentence in the Python code that people read and a translation would not find."""

from python_strings import ROOT, bare, files

found = [f"{file.relative_to(ROOT)}:{line} {text}" for file in files() for line, text in bare(file)]
print("\n".join(found))
if found:
    raise SystemExit(f"{len(found)} sentences without gettext")
