"""Machines in a real PostgreSQL: versions, history, two writers at once."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor

import pytest
from sqlalchemy import Engine, event, text

from builders import build_machine
from pulltide.quantities import DEFAULT_UNITS, Units
from pulltide.services.change import Change
from pulltide.services.documents import UnreadableDocument
from pulltide.services.editing import shape_of
from pulltide.services.machines import ChangedElsewhere, NoSuchMachine, UnreadableMachine, edit
from pulltide.store.database import current_revision, migrate, newest_revision
from pulltide.store.machines import KEPT_STATES, PostgresMachines
from pulltide.store.people import PostgresPeople, Preferences
from pulltide.store.prepare import prepare


@pytest.fixture
def store(empty_shop: Engine) -> PostgresMachines:
    return PostgresMachines(empty_shop)


def named(store: PostgresMachines, stored, name: str):
    return edit(store, stored.id, stored.version, Change(sets={"name": name}), Units())


def test_a_machine_comes_back_as_it_was(store: PostgresMachines):
    machine = build_machine()
    stored = store.create(machine)
    assert store.get(stored.id).machine == machine
    assert stored.undo_label is None


def test_sixty_steps_back_and_forth(store: PostgresMachines):
    stored = store.create(build_machine())
    for number in range(60):
        stored = named(store, stored, f"Name {number}")
    for number in range(58, -1, -1):
        stored = store.step(stored.id, stored.version, -1)
        assert stored.machine.name == f"Name {number}"
    stored = store.step(stored.id, stored.version, -1)
    assert stored.machine.name == "Test rig"
    assert stored.undo_label is None
    assert store.step(stored.id, stored.version, -1).version == stored.version
    for _ in range(60):
        stored = store.step(stored.id, stored.version, 1)
    assert stored.machine.name == "Name 59"
    assert stored.redo_label is None


def test_a_change_after_undo_drops_what_was_undone(store: PostgresMachines):
    stored = named(store, store.create(build_machine()), "One")
    stored = store.step(stored.id, stored.version, -1)
    stored = named(store, stored, "Two")
    assert stored.redo_label is None
    assert stored.undo_label == "Machine changed"


def test_an_old_version_saves_nothing(store: PostgresMachines):
    first = store.create(build_machine())
    named(store, first, "Theirs")
    with pytest.raises(ChangedElsewhere):
        named(store, first, "Mine")
    with pytest.raises(ChangedElsewhere):
        store.step(first.id, first.version, -1)
    assert store.get(first.id).machine.name == "Theirs"


def test_of_two_writers_at_once_exactly_one_wins(store: PostgresMachines):
    stored = store.create(build_machine())

    def write(number: int) -> bool:
        try:
            named(store, stored, f"Writer {number}")
        except ChangedElsewhere:
            return False
        return True

    with ThreadPoolExecutor(8) as pool:
        assert sum(pool.map(write, range(8))) == 1
    assert store.get(stored.id).version == 2


def test_a_change_that_changes_nothing_is_no_step(store: PostgresMachines):
    stored = store.create(build_machine())
    assert named(store, stored, "Test rig").version == stored.version


def test_history_is_kept_within_bounds(store: PostgresMachines, empty_shop: Engine):
    stored = store.create(build_machine())
    machine = stored.machine
    for number in range(KEPT_STATES + 5):
        stored = store.save(stored.id, stored.version, machine.model_copy(update={"name": f"N{number}"}), "Named")
    with empty_shop.connect() as connection:
        assert connection.execute(text("SELECT count(*) FROM machine_state")).scalar_one() <= KEPT_STATES + 1


def test_removed_and_put_back(store: PostgresMachines):
    stored = store.create(build_machine())
    store.remove(stored.id)
    assert not store.all()
    with pytest.raises(NoSuchMachine):
        store.get(stored.id)
    assert store.put_back(stored.id).machine.name == "Test rig"
    with pytest.raises(NoSuchMachine):
        store.put_back("nothing")


def test_preferences_by_cookie(empty_shop: Engine):
    people = PostgresPeople(empty_shop)
    people.keep("cookie-a", Preferences(Units(length="in"), "dark"))
    people.keep("cookie-a", Preferences(Units(length="in"), "light"))
    assert people.get("cookie-a") == Preferences(Units(length="in"), "light")
    assert people.get("cookie-b") == Preferences()


def test_migrations_are_up_to_date_and_match_the_models(empty_shop: Engine):
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from pulltide.store.tables import Base

    assert current_revision(empty_shop) == newest_revision()
    assert migrate(empty_shop) is False
    with empty_shop.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_a_save_that_fails_half_way_leaves_nothing(store: PostgresMachines, empty_shop: Engine, monkeypatch):
    """The history row is written and the machine row is not: the transaction takes both back."""
    stored = store.create(build_machine())

    def fail(row: object, by: int) -> None:
        raise RuntimeError("power cut")

    monkeypatch.setattr("pulltide.store.machines._advance", fail)
    with pytest.raises(RuntimeError):
        store.save(stored.id, stored.version, stored.machine.model_copy(update={"name": "Half"}), "Named")
    monkeypatch.undo()
    with empty_shop.connect() as connection:
        assert connection.execute(text("SELECT count(*) FROM machine_state")).scalar_one() == 1
    assert store.get(stored.id) == stored


NAMES = ["Lofthook", "Marlpit", "Hempwalk", "Bellwether", "Windrow", "Spindlewood"]


def test_the_demo_is_loaded_once_however_many_workers_start(store: PostgresMachines, empty_shop: Engine):
    with empty_shop.begin() as connection:
        connection.execute(text("DELETE FROM setting"))
    with ThreadPoolExecutor(4) as pool:
        list(pool.map(lambda _: prepare(empty_shop, demo=True), range(4)))
    assert [stored.machine.name.split()[0] for stored in store.all()] == NAMES
    store.remove(store.all()[0].id)
    prepare(empty_shop, demo=True)
    assert len(store.all()) == len(NAMES) - 1


def spoil(engine: Engine, machine_id: str, change: str) -> None:
    """Change a stored document behind the program's back, as a narrowed range or a newer program would."""
    with engine.begin() as connection:
        update = text("UPDATE machine_state SET document = document || cast(:change AS jsonb) WHERE machine_id = :id")
        connection.execute(update, {"change": change, "id": machine_id})


def test_one_machine_that_cannot_be_read_leaves_the_floor_alone(store: PostgresMachines, empty_shop: Engine):
    sound, broken = store.create(build_machine()), store.create(build_machine())
    spoil(empty_shop, broken.id, '{"duty": {"shock": "tremendous"}}')
    found = {item.id: item for item in store.all()}
    assert found[sound.id].machine == sound.machine
    assert isinstance(found[broken.id], UnreadableMachine)
    assert "duty.shock" in found[broken.id].reasons[0]
    assert store.document(broken.id)["duty"] == {"shock": "tremendous"}
    with pytest.raises(UnreadableDocument):
        store.get(broken.id)


def test_a_former_state_that_cannot_be_read_is_no_obstacle(store: PostgresMachines, empty_shop: Engine):
    first = store.create(build_machine())
    spoil(empty_shop, first.id, '{"duty": {"shock": "tremendous"}}')
    second = store.save(first.id, first.version, build_machine(), "Mended")
    found = store.get(second.id)
    assert found.machine == build_machine()
    assert found.before is None
    with pytest.raises(UnreadableDocument):
        store.step(second.id, second.version, -1)
    assert store.get(second.id).version == second.version, "a refused undo leaves everything where it was"


def test_a_machine_of_version_1_is_read_from_the_shop(store: PostgresMachines, empty_shop: Engine):
    stored = store.create(
        build_machine(
            links=[
                {
                    "kind": "coupling",
                    "designation": "CJ-65",
                    "shear_pins": 1,
                    "shear_pin_mm": 5.0,
                    "shear_circle_mm": 60.0,
                }
            ]
        )
    )
    document = store.document(stored.id)
    document["plans"][0]["links"][0]["shear_pin_steel"] = "mild steel 1018"
    spoil(empty_shop, stored.id, json.dumps({**document, "format_version": 1}))
    assert store.get(stored.id).machine.plans[0].links[0].shear_pin_steel == "mild_steel_1018"


def test_the_floor_is_one_query(store: PostgresMachines, empty_shop: Engine):
    for _ in range(5):
        store.create(build_machine())
    asked = []
    event.listen(empty_shop, "before_cursor_execute", lambda *args: asked.append(args[2]))
    assert len(store.all()) == 5
    assert len([statement for statement in asked if statement.startswith("SELECT machine")]) == 1


class Interrupted(PostgresMachines):
    """Somebody else saves between the reading and the saving of an edit."""

    def __init__(self, engine, field: str) -> None:
        super().__init__(engine)
        self.left, self.field = 2, field

    def save(self, machine_id, version, machine, label):
        if self.left:
            self.left -= 1
            changed = Change(sets={self.field: str(self.left + 3)}, seen={self.field: ""})
            other = PostgresMachines(self.engine)
            edit(other, machine_id, other.get(machine_id).version, changed, DEFAULT_UNITS)
        return super().save(machine_id, version, machine, label)


def edited_in_between(engine, field: str):
    store = Interrupted(engine, field)
    kept = PostgresMachines(engine).create(build_machine(duty={"hours_per_day": None, "starts_per_hour": None}))
    mine = Change(sets={"duty.hours_per_day": "8"}, seen={"duty.hours_per_day": ""}, shape=shape_of(kept.machine))
    return edit(store, kept.id, 1, mine, DEFAULT_UNITS).machine.duty


def test_an_edit_of_another_field_is_kept_however_quick_the_other_one_is(empty_shop):
    duty = edited_in_between(empty_shop, "duty.starts_per_hour")
    assert (duty.hours_per_day, duty.starts_per_hour) == (8.0, 3.0)


def test_an_edit_of_the_same_field_is_refused_however_quick_the_other_one_is(empty_shop):
    with pytest.raises(ChangedElsewhere):
        edited_in_between(empty_shop, "duty.hours_per_day")
