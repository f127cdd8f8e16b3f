"""Runs migrations on the connection that the program hands over."""

from alembic import context

from pulltide.store.tables import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata)
context.run_migrations()
