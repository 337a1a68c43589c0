"""The parts of the command line: each module adds its commands to `common.app`."""
