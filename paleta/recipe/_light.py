"""The lamp, the glows, and how the zones follow them."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.fields import Flag, Many, Number, Record, holds
from paleta.light import Glow, Lamp
from paleta.recipe._part import Part

MOST_GLOWS = 12


def _first_lamp() -> Lamp:
    """From the top left, as most people light a picture (common practice)."""
    return Lamp(azimuth_deg=315, elevation_deg=40)


@dataclass(frozen=True, slots=True, kw_only=True)
class Light(Part):
    """shadows        whether nearer things cast shadows on what lies behind.
    true_to_scene  0: every region gets its whole ramp, 1: zones by the whole picture's light.
    shade          as in paleta.light.Zoning; follow as in paleta.light.illuminate.
    """

    lamp: Lamp = holds(Record(Lamp), _first_lamp, form=False)
    glows: tuple[Glow, ...] = holds(Many(Record(Glow), MOST_GLOWS), (), form=False)
    shadows: bool = holds(Flag(), True, said=lambda on: f"cast shadows {'on' if on else 'off'}")
    true_to_scene: float = holds(Number(0, 1), 0.0, said=lambda share: f"{share:.0%} true to the scene")
    shade: float = holds(Number(-1, 1), 0.0, said=lambda share: f"{share:+.0%} shade")
    follow: float = holds(Number(0, 1), 0.0, said=lambda share: f"{share:.0%} after the printed shading")

    def changes_from(self, old: Light, *_settings: object) -> list[str]:
        lines = []
        if old.lamp != self.lamp:
            lines.append(f"Light: {_lamp_words(old.lamp)} became {_lamp_words(self.lamp)}.")
        if old.shadows != self.shadows:
            lines.append(f"Cast shadows: {'on' if self.shadows else 'off'} now.")
        if (old.shade, old.follow, old.true_to_scene) != (self.shade, self.follow, self.true_to_scene):
            lines.append(
                f"Zones: shade {self.shade:+.0%}, {self.true_to_scene:.0%} true to the scene, "
                f"{self.follow:.0%} after the printed shading."
            )
        if old.glows != self.glows:
            moved = " moved or changed" if len(old.glows) == len(self.glows) else f" became {len(self.glows)}"
            lines.append(f"Glows in the picture: {len(old.glows)}{moved}.")
        return lines


def _lamp_words(lamp: Lamp) -> str:
    return f"from {lamp.clock}, {lamp.elevation_deg:.0f}° high"
