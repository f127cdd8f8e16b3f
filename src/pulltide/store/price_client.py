"""Asks a price service over HTTP, with a limit on time and size."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from http.client import HTTPException
from urllib.parse import urlencode
from urllib.request import urlopen

from pulltide.services.quotes import NoAnswer
from pulltide.words import say

#: How long an answer is waited for [s], and how large it may be.
PATIENCE_S, MAX_BYTES = 4.0, 200_000


@dataclass(frozen=True, slots=True)
class PriceClient:
    """A price service by its address; an empty one means that there is none."""

    address: str

    def fetch(self, names: Sequence[str]) -> object:
        """What it says of some names. Raises NoAnswer."""
        if not self.address:
            raise NoAnswer(say("is switched off"))
        query = urlencode([("name", name) for name in names])
        try:
            with urlopen(f"{self.address}/quotes?{query}", timeout=PATIENCE_S) as answer:
                return json.loads(answer.read(MAX_BYTES))
        except TimeoutError as error:
            raise NoAnswer(f"did not answer within {PATIENCE_S:g} s") from error
        except ValueError as error:
            raise NoAnswer(say("answered with something that cannot be read")) from error
        except (OSError, HTTPException) as error:
            raise NoAnswer(say("cannot be reached")) from error
