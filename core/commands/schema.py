"""Print the JSON Schema of the book format; `./dry types` keeps it in docs/formats/."""

import json
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from dryledger.exchange.schema import book_schema

if __name__ == "__main__":
    print(json.dumps(book_schema(), indent=1))
