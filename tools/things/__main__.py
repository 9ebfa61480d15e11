"""How well things are found: `python -m tools.things [--number N] [--kinds]`.

Drawings of kinds the networks were fitted on (other drawings than those), by two hands; of kinds that nothing was
fitted on; and the demo's, made for another purpose: beside a plain rule of like shapes and nothing grouped at all.
"""

from __future__ import annotations

import argparse
import sys

from tools.things._table import measure

if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--number", type=int, default=40, help="drawings of each set")
    parser.add_argument("--kinds", action="store_true", help="also by kind, over the drawings of one kind only")
    options = parser.parse_args()
    sys.stdout.write(measure(options.number, kinds=options.kinds) + "\n")
