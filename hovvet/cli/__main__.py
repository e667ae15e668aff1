import sys

from hovvet.cli import main

sys.exit(main())
