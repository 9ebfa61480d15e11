"""Stand-ins for outside devices, each behind a small interface: a camera and a colour reader. All are simulated."""

from paleta.devices._camera import photograph
from paleta.devices._reader import READS_AVERAGED, ColourReader, SimulatedReader, averaged

__all__ = ["READS_AVERAGED", "ColourReader", "SimulatedReader", "averaged", "photograph"]
