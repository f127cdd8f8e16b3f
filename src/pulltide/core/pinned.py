"""Notes and questions pinned to a plan, a stage, a shaft or a finding, with who wrote them and when."""

from __future__ import annotations

from pydantic import Field

from pulltide.core.model import CoreModel

MAX_PINNED = 60


class Pinned(CoreModel):
    """One note. ``at`` is ``plan``, ``stage-2`` or ``shaft-3``, counted from 1.

    ``finding`` is the code of one that it is about. A question is open until there is an answer.
    """

    at: str = Field("plan", title="Where", pattern=r"^(plan|stage-[1-9]|shaft-[1-9])$")
    finding: str = Field("", title="Finding", max_length=60)
    text: str = Field(title="Note", min_length=1, max_length=400)
    by: str = Field(title="Written by", min_length=1, max_length=60)
    on: str = Field(title="On", pattern=r"^\d{4}-\d{2}-\d{2}$")
    is_question: bool = Field(False, title="A question")
    answer: str = Field("", title="Answer", max_length=400)
    answered_by: str = Field("", title="Answered by", max_length=60)

    @property
    def is_open(self) -> bool:
        """Whether it is a question without an answer."""
        return self.is_question and not self.answer
