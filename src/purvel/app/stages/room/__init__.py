"""The stage of the room as it was taped."""
