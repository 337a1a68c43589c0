"""Outside devices: the line protocol that they speak, and simulated stand-ins. On loopback only."""
