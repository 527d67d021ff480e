"""The processes of a cluster: its scheduler, workers, and both for a while on this machine."""

from __future__ import annotations

import asyncio
import logging
import signal
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

from distributed import LocalCluster, Nanny, Scheduler

from wrinkle.cluster.quiet import SURROUNDINGS, be_quiet
from wrinkle.cluster.worker import RECEIVED
from wrinkle.core.errors import InputError

_NOBODY_ELSE = "127.0.0.1:0"
"""Its pages about what it does are for this machine alone."""
_JOINS_WITHIN = 30
"""Seconds for which a worker looks for its scheduler."""


def run_scheduler(host: str, port: int, told: Callable[[str], None]) -> None:
    """Runs a scheduler until it is interrupted.

    Args:
        host: the address at which it listens.
        port: of it; 0 for any that is free.
        told: gets the address at which workers and others find it.

    Raises:
        InputError: it cannot listen there.
    """

    async def run() -> None:
        try:
            scheduler = Scheduler(
                host=host, port=port, dashboard=False, dashboard_address=_NOBODY_ELSE
            )
            await scheduler
        except (OSError, RuntimeError, ValueError) as fault:
            reason = getattr(fault.__cause__ or fault, "strerror", None) or "it is taken, or none"
            raise InputError(
                f"A scheduler cannot listen at {host}:{port} ({reason}); name another --port or "
                "--host."
            ) from None
        told(scheduler.address.removeprefix("tcp://"))
        await _until_interrupted(scheduler)

    _run(run)


def run_workers(address: str, count: int, told: Callable[[str], None]) -> None:
    """Runs workers, a process each, until they are interrupted or the scheduler ends.

    Args:
        address: ``HOST:PORT`` of the scheduler.
        count: how many.
        told: gets what they are.

    Raises:
        InputError: no scheduler answers there.
    """

    async def run() -> None:
        with tempfile.TemporaryDirectory(prefix="wrinkle-workers-") as folder:
            made: list[Any] = [
                Nanny(
                    f"tcp://{address}",
                    nthreads=1,
                    local_directory=folder,
                    death_timeout=_JOINS_WITHIN,
                    dashboard=False,
                    dashboard_address=_NOBODY_ELSE,
                    silence_logs=logging.CRITICAL,
                    env=_around(folder),
                )
                for _ in range(count)
            ]
            try:
                await asyncio.gather(*made)
            except (OSError, TimeoutError, RuntimeError):
                raise InputError(
                    f"No scheduler answers at {address}; start one with './run workers "
                    "--scheduler'."
                ) from None
            told(f"{count} workers at {address}")
            await _until_interrupted(*made)

    _run(run)


@contextmanager
def workers_here(count: int) -> Iterator[str]:
    """A cluster of processes on this machine, for a while; gives its address."""
    with (
        tempfile.TemporaryDirectory(prefix="wrinkle-workers-") as folder,
        LocalCluster(
            n_workers=count,
            threads_per_worker=1,
            dashboard_address=None,
            worker_dashboard_address=_NOBODY_ELSE,
            local_directory=folder,
            silence_logs=logging.CRITICAL,
            env=_around(folder),
        ) as cluster,
    ):
        yield cluster.scheduler_address.removeprefix("tcp://")


def _around(folder: str) -> dict[str, str]:
    """The surroundings of a worker."""
    return {RECEIVED: str(Path(folder) / "received"), **SURROUNDINGS}


async def _until_interrupted(*servers: Any) -> None:
    loop, over = asyncio.get_running_loop(), asyncio.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        loop.add_signal_handler(number, over.set)
    finished = [asyncio.ensure_future(server.finished()) for server in servers]
    stopped = asyncio.ensure_future(over.wait())
    await asyncio.wait([stopped, *finished], return_when=asyncio.FIRST_COMPLETED)
    if not over.is_set():
        # Workers end one by one with their scheduler.
        await asyncio.wait([stopped, *finished], timeout=2)
    for server in servers:
        with suppress(Exception):
            await server.close()
    for waiting in (stopped, *finished):
        waiting.cancel()


def _run(main: Callable[[], Any]) -> None:
    be_quiet()
    asyncio.run(main())
