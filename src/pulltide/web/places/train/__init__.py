"""Train: the line from the source to the last shaft."""

from __future__ import annotations

from pulltide.web.places.contract import Context, Place, Summary
from pulltide.web.places.train.train_view import train_view
from pulltide.words import say


def summary(context: Context) -> Summary:
    """The ratio."""
    line = context.line
    return Summary(
        f"{line.ratio:.4g} : 1" if line else say("needs a motor"), line is not None and bool(context.plan.links)
    )


PLACE = Place("train", "Train", "t", summary, train_view)
