"""Where a server process takes the program in.

Nothing is garbage while modules are taken in: not looking for it saves two fifths of the time, and what is there
afterwards is never looked through again.
"""

from __future__ import annotations

import gc
from importlib import import_module

from fastapi import FastAPI


def app_from_environment() -> FastAPI:
    """The application that the environment asks for."""
    gc.disable()
    try:
        made: FastAPI = import_module("pulltide.web.app").app_from_environment()
    finally:
        gc.freeze()
        gc.enable()
    return made
