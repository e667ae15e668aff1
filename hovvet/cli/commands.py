"""What a command adds itself to."""

import argparse
from typing import TypeAlias

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"
