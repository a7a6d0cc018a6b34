"""The watch on the weather: what fell on sprayed rounds is logged every few minutes."""

from __future__ import annotations

import logging
import threading

from orthocris.services.context import Context
from orthocris.services.weather.weathering import log_weather

EVERY_SECONDS = 600.0


class WeatherWatch:
    """A thread that logs rain and heat at once and then every ten minutes, until it is ended."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="weather", daemon=True)

    def start(self) -> None:
        """Begin watching."""
        self._thread.start()

    def end(self) -> None:
        """Stop watching, and wait until nothing is being written any more."""
        self._ended.set()
        self._thread.join()

    def _run(self) -> None:
        while not self._ended.is_set():
            try:
                log_weather(self._context)
            except Exception:  # the file may be away for a while: look again later
                logging.getLogger(__name__).exception("the weather could not be logged")
            self._ended.wait(EVERY_SECONDS)
