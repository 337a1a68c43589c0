"""The stages of the work: each draws its answer on the plan, shows its instrument, and brings its tools."""
