"""What the fitting scripts share."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier


def named(name: str, net: MLPClassifier) -> dict[str, NDArray[np.float32]]:
    """A fitted network's weights as paleta.impression reads them."""
    weights = {}
    for layer, (weight, bias) in enumerate(zip(net.coefs_, net.intercepts_, strict=True)):
        weights |= {f"{name}_{layer}": weight.astype(np.float32), f"{name}_bias_{layer}": bias.astype(np.float32)}
    return weights
