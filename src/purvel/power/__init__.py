"""Electricity and light: what a machine draws, what a circuit holds, how bright it is."""
