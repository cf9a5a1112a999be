"""The program on scarce machines: every command under every condition (`python -m tests.scarce`
prints the table)."""
