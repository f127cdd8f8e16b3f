"""Signing in: passwords by the rules of NIST SP 800-63B and OWASP ASVS 2.1, attempts counted, nobody told apart."""

from __future__ import annotations

from base64 import b32encode
from datetime import UTC, datetime, timedelta

import pyotp
import pytest
from sqlalchemy import Engine, text

from pulltide.core.errors import InputErrors
from pulltide.services.accounts import (
    COUNTED,
    IDLE,
    LONGEST,
    MAX_FROM_ADDRESS,
    MAX_HERE,
    NoSuchAccount,
    Role,
    Shown,
    SignIn,
    SignInRefused,
    TooManyAttempts,
    checked_password,
    hash_of,
    welcome_link,
)
from pulltide.services.texts import checked_name
from pulltide.store.accounts import PostgresAccounts
from pulltide.store.passwords import Argon2Hasher
from pulltide.store.second_step import TimedCodes

NOW = datetime(2026, 5, 4, 8, 0, tzinfo=UTC)
GOOD = "four words in a row"
CODES = TimedCodes("the secret of the shop")


class CountingHasher(Argon2Hasher):
    """Counts how many passwords are looked at: what takes time when somebody signs in."""

    def __init__(self) -> None:
        super().__init__(quick=True)
        self.looks = 0

    def fits(self, hashed: str, password: str) -> bool:
        self.looks += 1
        return super().fits(hashed, password)


@pytest.fixture
def accounts(empty_shop: Engine) -> PostgresAccounts:
    return PostgresAccounts(empty_shop)


@pytest.fixture
def hasher() -> CountingHasher:
    return CountingHasher()


@pytest.fixture
def sign_in(accounts: PostgresAccounts, hasher: CountingHasher) -> SignIn:
    return SignIn(accounts, hasher, CODES)


@pytest.fixture
def ada(accounts: PostgresAccounts, hasher: CountingHasher):
    return accounts.add("Ada Rill", Role.OWNER, hasher.hash(GOOD))


@pytest.mark.parametrize(
    "password", ["", "short", "x" * 11, "y" * 129, "ada rill likes this", "abababababab", "pulltide1234"]
)
def test_a_password_that_is_short_or_easily_thought_of_is_refused_without_repeating_it(password: str):
    with pytest.raises(InputErrors) as refused:
        checked_password(password, "Ada Rill")
    assert not password or password not in str(refused.value)
    assert "12 to 128" in str(refused.value)


@pytest.mark.parametrize("password", ["Password123456", "qwertyuiop123", "iloveyou1234567", "letmein123456"])
def test_a_password_that_is_tried_first_is_refused(password: str):
    """OWASP ASVS 4.0.3, 2.1.7: the 30,000 most used passwords of zxcvbn, as they are and with the usual changes."""
    with pytest.raises(InputErrors, match="tried first"):
        checked_password(password, "Ada Rill")


@pytest.mark.parametrize(
    "password", [GOOD, "seven herons by the weir", "vF7#kd0!qLm2", "z" * 20 + "otter weir copper lamp"]
)
def test_a_password_that_takes_many_guesses_is_taken(password: str):
    assert checked_password(password, "Ada Rill") == password


def with_a_second_step(sign_in: SignIn, account, key: str = "JBSWY3DPEHPK3PXPJBSWY3DPEHPK3PXP") -> pyotp.TOTP:
    code = pyotp.TOTP(key)
    sign_in.set_second(account, key, Shown(account.name, GOOD, code.at(NOW)), NOW)
    return code


def test_codes_are_those_of_the_standard():
    """RFC 6238, appendix B, SHA-1: the last six of the eight digits, for the key 12345678901234567890."""
    sealed = CODES.seal(b32encode(b"12345678901234567890").decode())
    for seconds, digits in ((59, "94287082"), (1111111109, "07081804"), (2000000000, "69279037")):
        at = datetime.fromtimestamp(seconds, UTC)
        assert CODES.step(sealed, digits[2:], at) == seconds // 30
        assert CODES.step(sealed, digits[2:], at + timedelta(seconds=90)) == 0
    assert TimedCodes("another shop").step(sealed, "287082", datetime.fromtimestamp(59, UTC)) == 0


def test_who_has_a_second_step_is_let_in_with_a_code_and_with_each_once(sign_in, accounts, ada):
    code = with_a_second_step(sign_in, ada)
    later = NOW + timedelta(minutes=20)
    for wrong in ("", "000000", code.at(NOW), "½½½½½½"):
        with pytest.raises(SignInRefused, match="code"):
            sign_in.session(Shown("Ada Rill", GOOD, wrong), "10.0.0.7", "Phone", later)
    right = code.at(later)
    assert accounts.signed_in(
        sign_in.session(Shown("Ada Rill", GOOD, f"{right[:3]} {right[3:]}"), "10.0.0.7", "Phone", later), later
    )
    with pytest.raises(SignInRefused, match="code"):
        sign_in.session(Shown("Ada Rill", GOOD, right), "10.0.0.7", "Phone", later)


def test_a_second_step_is_set_up_and_ended_only_with_the_password_and_a_right_code(sign_in, accounts, ada, empty_shop):
    key = CODES.new_key()
    for shown in (Shown("", GOOD, "000000"), Shown("", "not the password", pyotp.TOTP(key).at(NOW))):
        with pytest.raises(InputErrors):
            sign_in.set_second(ada, key, shown, NOW)
    assert accounts.second_of(ada.id) is None
    with_a_second_step(sign_in, ada, key)
    with empty_shop.connect() as connection:
        assert key not in str([*connection.execute(text("SELECT * FROM account"))]), "it is sealed"
    with pytest.raises(InputErrors, match="Current password"):
        sign_in.end_second(ada, "not the password")
    sign_in.end_second(ada, GOOD)
    assert sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.7", "Phone", NOW)


@pytest.mark.parametrize("name", ["", "   ", "\u202e", "a\0b", "n" * 61])
def test_a_name_that_shows_nothing_or_is_too_long_is_refused(name: str):
    with pytest.raises(InputErrors, match="Name"):
        checked_name(name)


def test_who_knows_the_password_is_let_in_whatever_the_case_of_the_name(sign_in, accounts, ada):
    secret = sign_in.session(Shown("  ada  RILL ", GOOD), "10.0.0.7", "Computer", NOW)
    bearer = accounts.signed_in(secret, NOW)
    assert bearer is not None
    assert (bearer.name, bearer.role) == ("Ada Rill", Role.OWNER)


def test_nothing_that_is_kept_lets_anybody_in(sign_in, accounts, ada, empty_shop):
    secret = sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.7", "Computer", NOW)
    link = welcome_link(accounts, ada.id, NOW)
    with empty_shop.connect() as connection:
        tables = ("account", "session", "welcome")
        kept = str([list(connection.execute(text(f"SELECT * FROM {table}"))) for table in tables])
    assert hash_of(secret) in kept
    assert "$argon2id$" in kept
    assert not [one for one in (secret, link, GOOD) if one in kept]


@pytest.mark.parametrize(("name", "password"), [("Ada Rill", "four words in a column"), ("Nobody", GOOD)])
def test_a_wrong_name_and_a_wrong_password_are_told_alike_and_cost_alike(sign_in, hasher, ada, name, password):
    with pytest.raises(SignInRefused, match=r"^Wrong name or password, or a code"):
        sign_in.session(Shown(name, password), "10.0.0.7", "Computer", NOW)
    assert hasher.looks == 1, "one slow look, whether somebody has the name or not"


@pytest.mark.parametrize("name", ["Ada Rill", "Nobody"])
def test_after_five_failures_even_the_right_password_waits(sign_in, ada, name):
    for _ in range(MAX_HERE):
        with pytest.raises(SignInRefused):
            sign_in.session(Shown(name, "not the password"), "10.0.0.7", "Computer", NOW)
    with pytest.raises(TooManyAttempts, match="15 minutes"):
        sign_in.session(Shown(name, GOOD), "10.0.0.7", "Computer", NOW)


def test_attempts_elsewhere_lock_nobody_out_and_are_forgotten_in_time(sign_in, ada):
    for _ in range(MAX_HERE):
        with pytest.raises(SignInRefused):
            sign_in.session(Shown("Ada Rill", "not the password"), "10.0.0.66", "Computer", NOW)
    assert sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.7", "Computer", NOW)
    later = NOW + COUNTED + timedelta(seconds=1)
    assert sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.66", "Computer", later)


def test_one_address_cannot_try_many_names(sign_in, ada):
    for number in range(MAX_FROM_ADDRESS):
        with pytest.raises(SignInRefused):
            sign_in.session(Shown(f"name {number}", GOOD), "10.0.0.66", "Computer", NOW)
    with pytest.raises(TooManyAttempts):
        sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.66", "Computer", NOW)


@pytest.mark.parametrize(
    ("used", "at", "inside"),
    [
        ((), timedelta(hours=11), True),
        ((), IDLE + timedelta(minutes=1), False),
        (tuple(timedelta(hours=10 * k) for k in range(1, 33)), timedelta(days=13, hours=12), True),
        (tuple(timedelta(hours=10 * k) for k in range(1, 40)), LONGEST + timedelta(minutes=1), False),
    ],
)
def test_a_session_ends_unused_and_ends_at_all(sign_in, accounts, ada, used, at, inside):
    secret = sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.7", "Computer", NOW)
    for after in used:
        accounts.signed_in(secret, NOW + after)
    assert (accounts.signed_in(secret, NOW + at) is not None) is inside


def test_a_new_password_ends_every_session_and_every_link(sign_in, accounts, ada):
    secret = sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.7", "Computer", NOW)
    link = welcome_link(accounts, ada.id, NOW)
    sign_in.set_password(ada, "five words in a row")
    assert accounts.signed_in(secret, NOW) is None
    with pytest.raises(NoSuchAccount):
        accounts.welcomed(hash_of(link), NOW)
    with pytest.raises(SignInRefused):
        sign_in.session(Shown("Ada Rill", GOOD), "10.0.0.7", "Computer", NOW)


def test_a_link_to_begin_ends_after_a_day_and_with_the_next_one(accounts, ada):
    first, second = welcome_link(accounts, ada.id, NOW), welcome_link(accounts, ada.id, NOW)
    assert accounts.welcomed(hash_of(second), NOW).name == "Ada Rill"
    with pytest.raises(NoSuchAccount):
        accounts.welcomed(hash_of(first), NOW)
    with pytest.raises(NoSuchAccount):
        accounts.welcomed(hash_of(second), NOW + timedelta(hours=24))


def test_who_has_left_is_out_everywhere_and_the_last_owner_stays(sign_in, accounts, hasher, ada):
    bo = accounts.add("Bo Tarn", Role.BUILDER, hasher.hash("a good long password"))
    secret = sign_in.session(Shown("Bo Tarn", "a good long password"), "10.0.0.7", "Phone", NOW)
    accounts.add_token(bo.id, hash_of("token"), "sheet", True, NOW + timedelta(days=9))
    accounts.set_ended(bo.id, True)
    assert accounts.signed_in(secret, NOW) is None
    assert accounts.of_token("token", NOW) is None
    for step in (lambda: accounts.set_ended(ada.id, True), lambda: accounts.set_role(ada.id, Role.READER)):
        with pytest.raises(InputErrors, match="last owner"):
            step()
    accounts.set_ended(bo.id, False)
    accounts.set_role(bo.id, Role.OWNER)
    accounts.set_ended(ada.id, True)
    assert [one.name for one in accounts.all() if not one.ended] == ["Bo Tarn"]


def test_a_token_never_lets_a_program_do_more_than_its_person_nor_let_people_in(accounts, hasher, ada):
    rea = accounts.add("Rea", Role.READER, None)
    ends = NOW + timedelta(days=1)
    for number, (person, changes, role) in enumerate(
        [(ada, True, Role.BUILDER), (ada, False, Role.READER), (rea, True, Role.READER)]
    ):
        accounts.add_token(person.id, hash_of(f"token {number}"), "program", changes, ends)
        bearer = accounts.of_token(f"token {number}", NOW)
        assert bearer is not None
        assert bearer.role is role
        assert accounts.of_token(f"token {number}", ends) is None


def test_a_name_is_given_once_in_any_case(accounts, ada):
    with pytest.raises(InputErrors, match="taken"):
        accounts.add("ADA RILL", Role.READER, None)
