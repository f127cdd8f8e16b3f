"""The shelf in PostgreSQL."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from uuid import uuid4

from sqlalchemy import Engine, delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.core.catalog import Item
from pulltide.services.shelf import ShelfItem
from pulltide.services.stock import own_items
from pulltide.store.stock import PostgresStock
from pulltide.store.tables import ShelfItemRow


class PostgresShelf:
    """What the shop owns. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self._stock = PostgresStock(engine)
        self._own: tuple[int, tuple[Item, ...]] = (-1, ())

    def own(self) -> tuple[Item, ...]:
        """Parts of the shop's lists and shelf that can stand beside the generic ones, read again when they change."""
        mark = self._stock.mark()
        if self._own[0] != mark:
            self._own = mark, own_items(self._stock.everything())
        return self._own[1]

    def items(self, family: str = "") -> Sequence[ShelfItem]:
        """Everything of a kind of part, or everything, by name."""
        query = select(ShelfItemRow).order_by(ShelfItemRow.family, ShelfItemRow.name)
        if family:
            query = query.where(ShelfItemRow.family == family)
        with Session(self.engine) as session:
            return [ShelfItem(row.id, row.family, row.name, row.document) for row in session.scalars(query)]

    def put(self, family: str, name: str, document: dict[str, Any]) -> ShelfItem:
        """Put something on the shelf; a thing of the same name is replaced."""
        statement = insert(ShelfItemRow).values(id=str(uuid4()), family=family, name=name, document=document)
        kept = statement.on_conflict_do_update(index_elements=["family", "name"], set_={"document": document})
        with Session(self.engine) as session, session.begin():
            found = session.scalar(kept.returning(ShelfItemRow.id))
        return ShelfItem(str(found), family, name, document)

    def remove(self, item_id: str) -> None:
        """Take something off the shelf for good; nothing happens if it is not there."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(ShelfItemRow).where(ShelfItemRow.id == item_id))
