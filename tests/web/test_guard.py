"""What stands before every request, piece by piece."""

from __future__ import annotations

import pytest
from starlette.datastructures import Headers

from pulltide.web.guard import POLICY, is_foreign
from pulltide.web.person import token_for

HERE = {"host": "127.0.0.1:8420"}


@pytest.mark.parametrize(
    ("headers", "foreign"),
    [
        ({}, False),
        ({"origin": "http://127.0.0.1:8420"}, False),
        ({"origin": "http://127.0.0.1:9999"}, True),
        ({"origin": "http://localhost:8420"}, True),
        ({"origin": "null"}, True),
        ({"origin": "https://127.0.0.1:8420"}, True),
        ({"origin": "http://127.0.0.1:8420.evil.example"}, True),
        ({"sec-fetch-site": "same-origin"}, False),
        ({"sec-fetch-site": "none"}, False),
        ({"sec-fetch-site": "same-site"}, True),
        ({"sec-fetch-site": "cross-site", "origin": "http://127.0.0.1:8420"}, True),
    ],
)
def test_a_foreign_page_is_known(headers: dict[str, str], foreign: bool):
    assert is_foreign(Headers(HERE | headers), "http") is foreign


def test_a_token_belongs_to_one_cookie_and_one_key():
    assert token_for("key", "cookie") == token_for("key", "cookie")
    assert len({token_for("key", "cookie"), token_for("key", "other"), token_for("other", "cookie")}) == 3


@pytest.mark.parametrize(
    "directive",
    [
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'",
        "base-uri 'none'",
        "frame-ancestors 'none'",
        "form-action 'self'",
        "connect-src 'self'",
    ],
)
def test_the_policy_names_every_door(directive: str):
    assert directive in POLICY.split("; ")
