"""`python -m purvel` is the same as the `purvel` command."""

from purvel.cli import main

main()
