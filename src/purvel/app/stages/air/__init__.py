"""The stage of the day."""
