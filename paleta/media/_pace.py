"""How long things take. All values are common practice until the user's own times replace them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from paleta.errors import PlanImpossible


@dataclass(frozen=True, slots=True, kw_only=True)
class Pace:
    """Seconds for one medium.

    start_s, per_mm2_s  a pass takes start_s + per_mm2_s * area.
    change_s            putting one swatch away and taking up the next.
    touch_dry_s         until a touching region may be laid wet beside it.
    coat_dry_s          until a second coat or raw colour on dry.
    blend_s             longest pause in which a wet blend still melts.
    setup_s             setting the medium up beside another that was in use: water jar, pads, sharpened pencils.
    """

    start_s: float
    per_mm2_s: float
    change_s: float
    touch_dry_s: float
    coat_dry_s: float
    blend_s: float
    setup_s: float = 0.0

    def __post_init__(self) -> None:
        if min(self.start_s, self.per_mm2_s, self.change_s, self.touch_dry_s, self.coat_dry_s, self.setup_s) < 0:
            raise PlanImpossible("No time can be below zero.")
        if self.blend_s < self.change_s:
            raise PlanImpossible(
                f"A blend that holds {self.blend_s:.0f} s leaves no time to change pens ({self.change_s:.0f} s)."
            )

    def on(self, dries: float) -> Pace:
        """The pace on a paper that takes so many times as long to dry: what is wet also stays workable for longer,
        never for less than a change of pens."""
        return replace(
            self,
            touch_dry_s=self.touch_dry_s * dries,
            coat_dry_s=self.coat_dry_s * dries,
            blend_s=max(self.blend_s * dries, self.change_s),
        )

    def laying_s(self, area_mm2: float) -> float:
        return self.start_s + self.per_mm2_s * area_mm2
