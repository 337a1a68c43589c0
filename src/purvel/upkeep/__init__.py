"""Upkeep: how full the bin is, what is due, how parts come out of sheets and sticks."""
