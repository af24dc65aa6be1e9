"""Write the JSON Schema of the native file to ``docs/vastzone.schema.json``."""

import json
from pathlib import Path

from vastzone.files.plan_schema import schema

OUT = Path(__file__).parents[1] / "docs" / "vastzone.schema.json"

if __name__ == "__main__":
    OUT.write_text(json.dumps(schema(), indent=2, ensure_ascii=False) + "\n")
