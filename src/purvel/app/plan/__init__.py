"""The plan: drawing and handling."""
