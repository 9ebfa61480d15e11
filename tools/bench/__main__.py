"""The benchmark: `./bench`. One 1275 x 1650 px panel of about 60 regions; medians of several runs.

Each core figure stands beside a plain library baseline measured in the same minute, because machines differ and are
noisy: the ratio says more than the seconds. The column `before` holds what stood before the house was rearranged.
"""

from __future__ import annotations

import os


def main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    import django

    django.setup()
    from django.core.management import call_command

    from tools import first_card
    from tools.bench import along, answers, cards, colours, core, light, load, page
    from tools.bench.serving import Server
    from tools.bench.show import head

    call_command("migrate", verbosity=0)
    head()
    core.measure()
    page.measure()
    along.measure()
    cards.measure()
    load.measure()
    print("\nfrom an own scan to a kept recipe")
    with Server() as server:
        first_card.main(server.address)
    core.regions_recovered()
    light.main()
    colours.main()
    answers.stampings()
    answers.things()
    answers.cards()
    answers.plans(longer=False)


if __name__ == "__main__":
    main()
