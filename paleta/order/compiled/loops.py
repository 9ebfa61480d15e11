"""All that is called from outside of the compiled loops."""

from paleta.order.compiled._anneal import annealed
from paleta.order.compiled._build import built
from paleta.order.compiled._prove import proved
from paleta.order.compiled._times import changes_of, times
from paleta.order.compiled._visits import better_visits, by_visits

__all__ = ["annealed", "better_visits", "built", "by_visits", "changes_of", "proved", "times"]
