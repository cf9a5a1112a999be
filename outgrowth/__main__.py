"""`python -m outgrowth` is the command line."""

import sys

from outgrowth.cli import main

sys.exit(main())
