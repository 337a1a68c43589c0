"""The stage of upkeep."""
