"""Which regions are one thing: shapes measured in pairs, pairs scored, groups grown."""
