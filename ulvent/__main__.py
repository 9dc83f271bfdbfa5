"""`python -m ulvent` is the `ulvent` command."""

from ulvent.cli import main

main()
