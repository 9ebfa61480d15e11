"""The inner loops of planning, compiled by Numba the first time they are used and kept beside this file.

All times are whole milliseconds and all chance comes from a generator of their own, so that the same work gives the
same plan on every machine. The interpreter's lock is let go while they run. Numba takes a second to load: import
`loops` only when something is planned.
"""
