"""The demo's drawings: line art as shapes that cover each other, in millimetres."""

from demo.lineart._balloon import balloon
from demo.lineart._pangolin import pangolin
from demo.lineart._scenes import KINDS, scenes
from demo.lineart._shapes import Drawing, Shape
from demo.lineart._sprays import sprays
from demo.lineart._succulents import succulents

DRAWINGS = {"balloon": balloon, "pangolin": pangolin, "succulents": succulents}
__all__ = ["DRAWINGS", "KINDS", "Drawing", "Shape", "scenes", "sprays"]
