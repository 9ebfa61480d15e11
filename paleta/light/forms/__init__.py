"""Forms a body can take, each described in a module of its own (docs/trade-notes.md, section Light)."""
