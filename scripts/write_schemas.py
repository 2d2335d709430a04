"""Write the JSON Schemas of pack files from the models that check them."""

import json
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "core"))

from vendaval_core.packs.schema import SCHEMAS  # noqa: E402 - the path comes first

for name, model in SCHEMAS.items():
    file = ROOT / "packs" / f"{name}.schema.json"
    file.write_text(json.dumps(model.model_json_schema(), indent=1) + "\n", encoding="utf-8")
