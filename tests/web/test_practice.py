"""The Practice page: asked, hinted, answered, counted; odd input asks again."""

from __future__ import annotations

import pytest

from pulltide.core.practice.tasks import task


def asked(client, **fields):
    token = client.get("/practice").text.split('name="form-token" content="')[1].split('"')[0]
    return client.post("/practice", data={"form_token": token, **fields})


def test_a_task_is_answered_and_counted_once(client):
    made = task(3, 1)
    assert "Task 1" in client.get("/practice?level=3").text
    hint = client.get("/practice?level=3&number=1&hints=1").text
    assert made.steps[0].name in hint
    assert f"= {made.answer:.3g}" not in hint, "a hint is the formula, not the answer"
    right = asked(client, level=3, number=1, answer=f"{made.answer:.4g} s").text
    assert "Right." in right
    assert "1 of 1" in right
    wrong = asked(client, level=3, number=1, answer=f"{made.slips[0].value:.5g} s").text
    assert made.slips[0].why in wrong
    assert "1 of 2" in wrong
    assert "1 of 2" in asked(client, level=3, number=1, answer="1 s", again="yes").text, "a second try counts no more"
    assert "0 of 1" in asked(client, level=2, number=3, hints=1, answer=str(task(2, 3).answer) + " kg m2").text


@pytest.mark.parametrize("typed", ["", "fast", "12 furlongs", "9" * 50, "\u202e1", "<script>alert(1)</script>"])
def test_what_cannot_be_read_asks_again(client, typed):
    page = asked(client, level=1, number=1, answer=typed)
    assert page.status_code == 200
    assert "<script>alert" not in page.text
    assert "1 of 1" not in page.text


def test_odd_addresses_and_cookies_are_refused_or_ignored(client):
    assert client.get("/practice?level=9").status_code == 422
    assert client.get("/practice?number=0").status_code == 422
    client.cookies.set("pulltide_practice", "made.up")
    assert client.get("/practice").status_code == 200
    client.cookies.clear()
    assert client.post("/practice", data={"level": 1, "number": 1, "answer": "1"}).status_code == 403
