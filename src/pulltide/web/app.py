"""Puts the web application together: the one place where everything is wired."""

from __future__ import annotations

import gc
import logging
import sys
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from datetime import UTC, datetime
from functools import partial
from pathlib import Path
from threading import Thread
from typing import Any

import anyio
import structlog
from fastapi import Depends, FastAPI
from sqlalchemy import Engine
from starlette.staticfiles import StaticFiles

from pulltide.demo import demo_machines
from pulltide.language import set_language
from pulltide.quantities import DEFAULT_UNITS
from pulltide.quantities.reading import read_quantity
from pulltide.services.accounts import SignIn
from pulltide.services.machines import StoredMachine
from pulltide.services.raw_machines import read_machine
from pulltide.services.searching import Searcher
from pulltide.store.accounts import PostgresAccounts
from pulltide.store.answers import PostgresAnswers
from pulltide.store.database import connect, pool_size
from pulltide.store.dumps import Dumps
from pulltide.store.hook_client import HookClient
from pulltide.store.instrument_client import InstrumentClient
from pulltide.store.machines import PostgresMachines
from pulltide.store.making import PostgresMaking
from pulltide.store.passwords import Argon2Hasher
from pulltide.store.people import PostgresPeople
from pulltide.store.photos import PostgresPhotos
from pulltide.store.prepare import prepare
from pulltide.store.presence import PostgresPresence
from pulltide.store.price_client import PriceClient
from pulltide.store.process import end_with_parent
from pulltide.store.quotes import PostgresQuotes
from pulltide.store.revisions import PostgresRevisions
from pulltide.store.row_file import RowFile, cache_folder
from pulltide.store.second_step import TimedCodes
from pulltide.store.shelf import PostgresShelf
from pulltide.store.shop import PostgresShop, PostgresStarters
from pulltide.store.stock import PostgresStock
from pulltide.web import (
    api,
    api_making,
    api_more,
    api_stock,
    discs,
    errors,
    keeping,
    log_files,
    manual,
    pages,
    past,
    people_pages,
    photo_pages,
    practice,
    shop_page,
    sign_in,
    stock,
    taking,
    together,
)
from pulltide.web.admission import Sharing, admitted
from pulltide.web.guard import Guard
from pulltide.web.page_view import page_view
from pulltide.web.places import PLACES, Context
from pulltide.web.room import Desks, seats, taken
from pulltide.web.selection import Selection
from pulltide.web.settings import Settings, Share, from_environment
from pulltide.web.together import Together
from pulltide.words import filled_throughout

STATIC = Path(__file__).parent / "static"


class UnfailingLogger:
    """Writes to standard error; what cannot be written, on a full disk say, is dropped rather than the answer."""

    def msg(self, message: str) -> None:
        """Write one line."""
        with suppress(OSError, ValueError):
            print(message, file=sys.stderr, flush=True)

    log = debug = info = warning = error = critical = exception = msg


class UnfailingHandler(logging.Handler):
    """The web server's own messages, as the same kind of records."""

    def emit(self, record: logging.LogRecord) -> None:
        """Write one record."""
        log = structlog.get_logger("pulltide.server")
        log.log(max(record.levelno, logging.INFO), record.getMessage(), exc_info=record.exc_info, by=record.name)


def configure_log() -> None:
    """One JSON object a line on standard error; a traceback is data in its record, without the values of variables."""
    tracebacks = structlog.tracebacks.ExceptionDictTransformer(show_locals=False, max_frames=30)
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.ExceptionRenderer(tracebacks),
            structlog.processors.JSONRenderer(),
        ],
        wrapper_class=structlog.make_filtering_bound_logger(logging.INFO),
        logger_factory=lambda *_: UnfailingLogger(),
        cache_logger_on_first_use=False,
    )
    for name in ("uvicorn", "uvicorn.error"):
        logging.getLogger(name).handlers = []
    logging.getLogger("uvicorn").handlers = [UnfailingHandler()]


def warm() -> None:
    """Read a quantity and draw a page once, so that the first person does not wait for tables and units to load."""
    machine = read_machine({**demo_machines()[0].model_dump(mode="json"), "name": "warm-up"}, DEFAULT_UNITS)
    read_quantity("1 in", "mm")
    stored = StoredMachine("", 1, machine, datetime.now(UTC), None, None)
    for place in PLACES:
        page_view(Context(stored, Selection(place=place.key), DEFAULT_UNITS), "")
    # what stands by now stays: looking for garbage in it held up pages for a tenth of a second
    gc.collect()
    gc.freeze()


def sharing_for(share: Share, engine: Engine, secret: str) -> Sharing:
    """People and how they sign in, for a shop that others reach."""
    accounts, hasher = PostgresAccounts(engine), Argon2Hasher(quick=share.quick_passwords)
    return Sharing(accounts, SignIn(accounts, hasher, TimedCodes(secret)), share.fingerprint, share.address)


def _furnish(app: FastAPI, engine: Engine, settings: Settings) -> None:
    """Hand the stores, and what works beside the pages, to the application."""
    app.state.hook = HookClient(settings.hook.address, settings.hook.key)
    app.state.machines = PostgresMachines(engine, hook=app.state.hook)
    app.state.people = PostgresPeople(engine)
    app.state.shelf = PostgresShelf(engine)
    app.state.stock = PostgresStock(engine)
    app.state.making, app.state.revisions = PostgresMaking(engine), PostgresRevisions(engine)
    app.state.quotes, app.state.prices = PostgresQuotes(engine), PriceClient(settings.prices)
    app.state.instruments = InstrumentClient(settings.instruments)
    app.state.shop, app.state.starters = PostgresShop(engine), PostgresStarters(engine)
    app.state.photos = PostgresPhotos(engine)
    app.state.answers = PostgresAnswers(engine)
    app.state.together = Together(PostgresPresence(engine))
    app.state.engine = engine
    app.state.searcher = Searcher(RowFile(cache_folder()), lambda: taken(app.state.room))
    app.state.patience_s = settings.patience_s
    app.state.dumps = None
    if settings.backups is not None and settings.database_programs is not None:
        app.state.dumps = Dumps(settings.database_url, settings.backups, settings.database_programs)


def create_app(settings: Settings) -> FastAPI:
    """The application for some settings."""
    configure_log()
    set_language(settings.language)
    engine = connect(settings.database_url, settings.workers)

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        await anyio.to_thread.run_sync(lambda: prepare(engine, settings.demo))
        app.state.room, app.state.search_room, app.state.desks = seats(), seats(1), Desks()
        anyio.to_thread.current_default_thread_limiter().total_tokens = pool_size(settings.workers)
        Thread(target=warm, daemon=True).start()
        yield
        engine.dispose()

    app = FastAPI(
        title="Pulltide Gear",
        version="1",
        description="Sizes the drive line of shop-built machines.",
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        lifespan=lifespan,
        dependencies=[Depends(admitted)],
        generate_unique_id_function=lambda route: route.name,
    )
    app.state.sharing = sharing_for(settings.share, engine, settings.secret) if settings.share is not None else None
    _furnish(app, engine, settings)
    app.state.secret = settings.secret
    app.mount("/static", StaticFiles(directory=STATIC), name="static")
    app.include_router(sign_in.router)
    app.include_router(people_pages.router)
    app.include_router(past.router)
    app.include_router(photo_pages.router)
    app.include_router(manual.router)
    app.include_router(shop_page.router)
    app.include_router(together.router)
    app.include_router(taking.router)
    app.include_router(log_files.router)
    app.include_router(practice.router)
    app.include_router(discs.router)
    app.include_router(pages.router)
    app.include_router(keeping.router)
    app.include_router(stock.router)
    app.include_router(api.router)
    app.include_router(api_making.router)
    app.include_router(api_stock.router)
    app.include_router(api_more.router)
    errors.install(app)
    app.openapi = partial(_described, app)  # type: ignore[method-assign]
    app.add_middleware(Guard, names=settings.share.names if settings.share is not None else frozenset())
    return app


def _described(app: FastAPI) -> dict[str, Any]:
    """What the interface takes and gives, as FastAPI tells it, with every quantity in words."""
    if app.openapi_schema is None:
        app.openapi_schema = filled_throughout(FastAPI.openapi(app), DEFAULT_UNITS)
    return app.openapi_schema


def app_from_environment() -> FastAPI:
    """Factory for the server, called in each of its processes: none outlives the one that started it."""
    end_with_parent()
    return create_app(from_environment())
