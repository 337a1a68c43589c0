"""The stage of storage on walls."""
