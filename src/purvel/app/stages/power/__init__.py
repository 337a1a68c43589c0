"""The stage of electricity and light."""
