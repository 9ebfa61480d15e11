"""The benchmark: `./bench`, or some parts of it: `./bench load`. One 1275 x 1650 px panel of about 60 regions; medians
of several runs.

Each core figure stands beside a plain library baseline measured in the same minute, because machines differ and are
noisy: the ratio says more than the seconds. The column `before` holds what stood before the house was rearranged.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from functools import partial


def walk_a_first_card() -> None:
    from tools import first_card
    from tools.bench.serving import Server

    print("\nfrom an own scan to a kept recipe")
    with Server() as server:
        first_card.main(server.address)


def main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    import django

    django.setup()
    from django.core.management import call_command

    from tools.bench import along, answers, cards, colours, core, light, load, page
    from tools.bench.show import head

    parts: dict[str, Callable[[], object]] = {
        "core": core.measure,
        "page": page.measure,
        "along": along.measure,
        "cards": cards.measure,
        "load": load.measure,
        "first-card": walk_a_first_card,
        "regions": core.regions_recovered,
        "light": light.main,
        "colours": colours.main,
        "stampings": answers.stampings,
        "things": answers.things,
        "cuts": answers.cards,
        "plans": partial(answers.plans, longer=False),
    }
    wanted = sys.argv[1:] or list(parts)
    if unknown := set(wanted) - set(parts):
        raise SystemExit(f"There is no part {', '.join(sorted(unknown))}; there are {', '.join(parts)}.")
    call_command("migrate", verbosity=0)
    head()
    for name in wanted:
        parts[name]()


if __name__ == "__main__":
    main()
