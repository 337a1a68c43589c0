"""Purvel: lay out a home wood shop and size its dust collection."""

__version__ = "0.1.0"
