"""What is taken to the shop as files: the sheet as PDF, drawings as SVG and DXF, a label, all in one archive.

Each is made of the same data as the screen.
"""

from __future__ import annotations

from pathlib import Path

#: Templates that the screen shares with the files.
TEMPLATES = Path(__file__).parent / "templates"
