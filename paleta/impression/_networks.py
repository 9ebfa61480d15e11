"""The weights of a small network, as a fitting script left them beside the code."""

from __future__ import annotations

import io
from functools import cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

LAYERS = 3
Weights = dict[str, NDArray[np.float32]]


@cache
def weights_of(file: str, features: tuple[str, ...], made_by: str) -> Weights:
    """All arrays of `file` by name. AssertionError if they were fitted on other features than these.

    Parameters
    ----------
    file
        in the folder of networks
    features
        what the network is shown, in its order
    made_by
        the script that fits it, named if they differ
    """
    with np.load(io.BytesIO((files("paleta.impression") / "networks" / file).read_bytes())) as kept:
        if tuple(kept["features"].tolist()) != features:
            raise AssertionError(f"The network was fitted on other features. Run {made_by} again.")
        return {name: kept[name].astype(np.float32) for name in kept.files if name != "features"}


def forward(net: Weights, name: str, features: NDArray[np.float32]) -> NDArray[np.float32]:
    """What the last layer of the network `name` among these weights says, a row for each row of features.

    Parameters
    ----------
    net
        weights by name
    name
        of one network among them
    features
        N x F, as it was fitted on

    Returns
    -------
    N x outputs.
    """
    x = (features - net["middle"]) / net["spread"]
    for layer in range(LAYERS):
        x = x @ net[f"{name}_{layer}"] + net[f"{name}_bias_{layer}"]
        if layer < LAYERS - 1:
            x = np.maximum(x, 0)
    return x
