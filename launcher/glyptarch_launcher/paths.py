"""The paths of the launcher."""

import os
from pathlib import Path

__all__ = ["BUILD_STAMP", "LOGS", "NPM_STAMP", "REPOSITORY", "UV", "VAR", "VENV", "VENV_PYTHON", "WEB"]

REPOSITORY = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("GLYPTARCH_VAR", REPOSITORY / "var"))
WEB = REPOSITORY / "web"
VENV = VAR / "venv"
UV = VAR / "uv"
VENV_PYTHON = VENV / "bin" / "python"
LOGS = VAR / "log"
BUILD_STAMP = WEB / "built-from"
NPM_STAMP = WEB / "node_modules" / ".glyptarch-stamp"
