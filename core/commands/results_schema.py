"""Print the JSON Schema of the results format; `./dry types` keeps it in docs/formats/."""

import json
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from dryledger.results_schema import results_schema

if __name__ == "__main__":
    print(json.dumps(results_schema(), indent=1))
