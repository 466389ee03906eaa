"""Mutabilis: a batter, adapted to a guest and kept in balance."""

__version__ = "0.1.0"
