"""The shop's parts in PostgreSQL, and lists that are looked at before they are kept."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

from sqlalchemy import Engine, Integer, String, cast, delete, func, or_, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.core.holding import Holding
from pulltide.services.lists.taking import Upload
from pulltide.services.stock import LIST_OF, Kept, StockItem, StockPage
from pulltide.store.tables import ColumnMatchRow, HoldingRow, SettingRow, UploadRow

#: The setting that counts changes, parts written at once, and how long a list that was sent waits to be taken.
MARK, AT_ONCE, WAITS = "stock_changes", 2000, timedelta(hours=4)
IDENTITY = ("list_name", "family", "designation", "condition")


class PostgresStock:
    """What the shop owns and its own lists. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def lists(self) -> Mapping[str, int]:
        """Names of the lists with the number of parts on each."""
        query = select(HoldingRow.list_name, func.count()).group_by(HoldingRow.list_name).order_by(HoldingRow.list_name)
        with Session(self.engine) as session:
            return {name: count for name, count in session.execute(query)}

    def page(self, list_name: str, find: str = "", family: str = "", start: int = 0, most: int = 100) -> StockPage:
        """Parts of a list by kind and name, those whose name or note holds a text."""
        wanted = [HoldingRow.list_name == list_name]
        if family:
            wanted.append(HoldingRow.family == family)
        if find:
            held = HoldingRow.designation.icontains(find, autoescape=True)
            noted = HoldingRow.document["note"].astext.icontains(find, autoescape=True)
            wanted.append(or_(held, noted))
        order = (HoldingRow.family, HoldingRow.designation, HoldingRow.condition)
        with Session(self.engine) as session:
            total = session.scalar(select(func.count()).select_from(HoldingRow).where(*wanted)) or 0
            rows = session.scalars(select(HoldingRow).where(*wanted).order_by(*order).offset(start).limit(most))
            return StockPage(tuple(map(_item, rows)), total)

    def get(self, item_id: str) -> StockItem | None:
        """One part, None where it is gone."""
        with Session(self.engine) as session:
            row = session.get(HoldingRow, item_id)
            return None if row is None else _item(row)

    def put(self, list_name: str, holdings: Sequence[Holding], *, afresh: bool = False) -> Kept:
        """Add parts to a list; one of the same kind, name and condition is replaced. ``afresh``: all others go. All of
        it or nothing.
        """
        with Session(self.engine) as session, session.begin():
            count = select(func.count()).select_from(HoldingRow).where(HoldingRow.list_name == list_name)
            if afresh:
                session.execute(delete(HoldingRow).where(HoldingRow.list_name == list_name))
            before = session.scalar(count) or 0
            for some in _pieces([_values(list_name, holding) for holding in holdings]):
                statement = insert(HoldingRow).values(some)
                changed = {"document": statement.excluded.document, "updated_at": func.now()}
                session.execute(statement.on_conflict_do_update(index_elements=list(IDENTITY), set_=changed))
            added = (session.scalar(count) or 0) - before
            _changed(session)
        return Kept(added, len(holdings) - added)

    def change(self, item_id: str, holding: Holding) -> None:
        """Change one part."""
        with Session(self.engine) as session, session.begin():
            row = session.get(HoldingRow, item_id)
            if row is None:
                return
            values = _values(row.list_name, holding)
            same = [getattr(HoldingRow, name) == values[name] for name in IDENTITY]
            session.execute(delete(HoldingRow).where(*same, HoldingRow.id != item_id))
            session.execute(update(HoldingRow).where(HoldingRow.id == item_id).values(values | {"id": item_id}))
            _changed(session)

    def remove(self, item_id: str) -> Holding | None:
        """Take one part off; what it was, None where it was gone."""
        with Session(self.engine) as session, session.begin():
            row = session.get(HoldingRow, item_id)
            if row is None:
                return None
            found = _item(row).holding
            session.delete(row)
            _changed(session)
            return found

    def clear(self, list_name: str) -> int:
        """Take all parts off a list; how many there were."""
        with Session(self.engine) as session, session.begin():
            gone = session.scalars(delete(HoldingRow).where(HoldingRow.list_name == list_name).returning(HoldingRow.id))
            count = len(gone.all())
            _changed(session)
            return count

    def mark(self) -> int:
        """A number that is another after every change."""
        with Session(self.engine) as session:
            return int(session.scalar(select(SettingRow.value).where(SettingRow.name == MARK)) or 0)

    def everything(self) -> Sequence[StockItem]:
        """Every part that may take part in a search."""
        query = select(HoldingRow).where(HoldingRow.family.in_(LIST_OF)).order_by(HoldingRow.designation)
        with Session(self.engine) as session:
            return [_item(row) for row in session.scalars(query)]

    # -- lists that are looked at -------------------------------------------------------------------------------------

    def receive(self, name: str, list_name: str, content: bytes) -> str:
        """Keep a list that was sent until it is taken or forgotten; its id. Old ones go."""
        row = UploadRow(id=str(uuid4()), name=name[:200], list_name=list_name, content=content, state={})
        with Session(self.engine) as session, session.begin():
            session.execute(delete(UploadRow).where(UploadRow.created_at < datetime.now(UTC) - WAITS))
            session.add(row)
            session.flush()
            return row.id

    def received(self, upload_id: str) -> Upload | None:
        """A list that waits, None where it is gone."""
        with Session(self.engine) as session:
            row = session.get(UploadRow, upload_id)
            if row is None:
                return None
            return Upload(row.id, row.name, row.list_name, row.content, dict(row.state))

    def progress(self, upload_id: str, state: Mapping[str, Any]) -> None:
        """Say how far it is with a list."""
        with Session(self.engine) as session, session.begin():
            session.execute(update(UploadRow).where(UploadRow.id == upload_id).values(state=dict(state)))

    def forget(self, upload_id: str) -> None:
        """A list that is not wanted after all."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(UploadRow).where(UploadRow.id == upload_id))

    def said_of(self, list_name: str) -> dict[str, str]:
        """What was said of the headers of a list the last time."""
        with Session(self.engine) as session:
            row = session.get(ColumnMatchRow, list_name)
            return {} if row is None else {str(key): str(value) for key, value in row.said.items()}

    def remember(self, list_name: str, said: Mapping[str, str]) -> None:
        """Keep what was said of the headers of a list."""
        statement = insert(ColumnMatchRow).values(list_name=list_name, said=dict(said))
        with Session(self.engine) as session, session.begin():
            kept = statement.on_conflict_do_update(index_elements=["list_name"], set_={"said": dict(said)})
            session.execute(kept)


def _item(row: HoldingRow) -> StockItem:
    return StockItem(row.id, row.list_name, Holding.model_validate(row.document))


def _values(list_name: str, holding: Holding) -> dict[str, Any]:
    return {
        "id": str(uuid4()),
        "list_name": list_name,
        "family": holding.family,
        "designation": holding.designation,
        "condition": holding.condition,
        "document": holding.model_dump(mode="json", exclude_none=True),
    }


def _pieces(values: list[dict[str, Any]]) -> Iterator[list[dict[str, Any]]]:
    """A few thousand at a time; of one part the last counts, since one statement may not write it twice."""
    by_identity = {tuple(value[name] for name in IDENTITY): value for value in values}
    whole = list(by_identity.values())
    for start in range(0, len(whole), AT_ONCE):
        yield whole[start : start + AT_ONCE]


def _changed(session: Session) -> None:
    statement = insert(SettingRow).values(name=MARK, value="1")
    counted = cast(cast(SettingRow.value, Integer) + 1, String)
    session.execute(statement.on_conflict_do_update(index_elements=["name"], set_={"value": counted}))
