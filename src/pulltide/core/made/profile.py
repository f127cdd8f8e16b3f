"""What the shop's own machines do to a part: width of a cut, shrinkage of a print, the sheet at hand."""

from __future__ import annotations

from pydantic import Field, model_validator

from pulltide.core.model import CoreModel, Mm, Plain


class MakingProfile(CoreModel):
    """The cutter's and the printer's own figures, measured on a trial piece; empty is not known."""

    kerf_mm: Mm | None = Field(
        None, title="Kerf", gt=0, le=12, description="laser 0.1 to 0.3, plasma 1 to 1.8, a router its cutter"
    )
    clearance_mm: Mm | None = Field(
        None, title="Clearance of a print", ge=0, le=1, description="taken off every face, 0.1 to 0.2"
    )
    shrinkage: Plain | None = Field(
        None, title="Shrinkage of a print", ge=0, le=0.05, description="a share: PLA 0.002 to 0.003, nylon 0.01 to 0.02"
    )
    sheet_width_mm: Mm | None = Field(None, title="Sheet at hand, width", ge=50, le=5000)
    sheet_height_mm: Mm | None = Field(None, title="Sheet at hand, height", ge=50, le=5000)

    lathe_swing_mm: Mm | None = Field(
        None, title="Lathe, largest diameter", gt=0, le=5000, description="that turns over its carriage"
    )

    @model_validator(mode="after")
    def _whole_sheet(self) -> MakingProfile:
        if (self.sheet_width_mm is None) != (self.sheet_height_mm is None):
            raise ValueError("a sheet has a width and a height; give both or neither")
        return self

    @property
    def sheet_mm(self) -> tuple[float, float] | None:
        """Width and height of a sheet [mm]."""
        if self.sheet_width_mm is None or self.sheet_height_mm is None:
            return None
        return self.sheet_width_mm, self.sheet_height_mm

    @property
    def scale(self) -> float:
        """How much larger a print is made so that it shrinks to size: 1 / (1 - s). Source: exact."""
        return 1 / (1 - (self.shrinkage or 0.0))
