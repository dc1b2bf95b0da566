"""Extendum: script, fit, teach and log timed follow-along stretch classes."""

__version__ = "0.1.0"
