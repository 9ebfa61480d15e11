"""Which media there are: each is a module of this package without an underscore."""

from __future__ import annotations

from importlib import import_module

from paleta.descriptions import codes_in

# By name: the package itself is still being read when this is.
CODES = codes_in(import_module("paleta.media").__path__)
