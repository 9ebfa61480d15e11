"""The demo's drawings: line art as shapes that cover each other, in millimetres."""

from demo.lineart._balloon import balloon
from demo.lineart._pangolin import pangolin
from demo.lineart._shapes import Drawing, Shape
from demo.lineart._sprays import sprays
from demo.lineart._succulents import succulents

DRAWINGS = {"balloon": balloon, "pangolin": pangolin, "succulents": succulents}
__all__ = ["DRAWINGS", "Drawing", "Shape", "sprays"]
