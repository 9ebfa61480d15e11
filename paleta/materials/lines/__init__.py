"""Outlines by what they are made of. One module each; what goes with which medium is common practice
(docs/trade-notes.md, section Fit)."""
