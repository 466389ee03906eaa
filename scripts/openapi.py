"""Write the OpenAPI schema to the path given, for the front end's types."""

import json
import sys
import tempfile
from pathlib import Path

from mutabilis.api.app import create_app
from mutabilis.data import load_facts
from mutabilis.store.database import Database

with tempfile.TemporaryDirectory() as folder:
    schema = create_app(load_facts(), Database(Path(folder) / "empty.sqlite3")).openapi()
Path(sys.argv[1]).write_text(json.dumps(schema, indent=1, ensure_ascii=False), encoding="utf-8")
