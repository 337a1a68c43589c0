"""The stage of money."""
