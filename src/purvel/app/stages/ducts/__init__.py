"""The stage of the suction walk and the gate choices."""
