"""The stage of machines and their lanes."""
