"""Printing the pages of components: asked for in the overview, drawn one by one between the
window's own events, and written when the last is drawn."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path as FilePath

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QFileDialog

from outgrowth.app.paint.component_page import PdfPages, page_picture
from outgrowth.app.shot import encoded
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.document.records import Component
from outgrowth.core.exchange.native.disk import called, save_file
from outgrowth.core.exchange.slugs import slug
from outgrowth.core.refusal import Refusal
from outgrowth.workspace.views.status_text import count_text

_REST_MS = 1


class PageController(QObject):
    """Asks where pages go, and writes them there."""

    def __init__(self, frame: WindowFrame) -> None:
        super().__init__(frame)
        self._frame = frame
        self._workspace = frame.workspace
        self._waiting: list[Component] = []
        self._total = 0
        self._target = FilePath()
        self._pdf: PdfPages | None = None
        self._turn = QTimer(self)
        self._turn.setSingleShot(True)
        self._turn.setInterval(_REST_MS)
        self._turn.timeout.connect(self._draw_next)
        frame.overview.pages_asked.connect(self.ask)
        frame.overview.stopped.connect(self.stop)

    def ask(self, ids: Sequence[str], pictures: bool) -> None:
        """Asks for a file (a folder for pictures), and begins to draw the pages of components."""
        if pictures:
            name = QFileDialog.getExistingDirectory(self._frame, "A folder for the pages")
        else:
            document = slug(self._workspace.document.name, "components")
            name, _ = QFileDialog.getSaveFileName(
                self._frame, "Print the pages", f"{document}.pdf", "PDF (*.pdf)"
            )
        if name:
            self.begin(ids, FilePath(name), pictures)

    def begin(self, ids: Sequence[str], target: FilePath, pictures: bool) -> None:
        """Draws the pages of components for a PDF, or as pictures in a folder."""
        document = self._workspace.document
        found = (document.components.get(each) for each in ids)
        self._waiting = [component for component in found if component is not None]
        self._total = len(self._waiting)
        if not self._total:
            self._workspace.failed.emit("There is no component here to print.")
            return
        suffix = target.suffix.lower() == ".pdf"
        self._target = target if pictures or suffix else target.with_name(f"{target.name}.pdf")
        self._document = document
        engine = self._workspace.engine
        self._pdf = None if pictures else PdfPages(document, engine, self._total)
        self._frame.overview.show_share(0.0)
        self._turn.start()

    @property
    def is_busy(self) -> bool:
        """Whether pages are still to be drawn."""
        return bool(self._waiting)

    def _draw_next(self) -> None:
        component = self._waiting[0]
        try:
            if self._pdf is not None:
                self._pdf.add(component)
            else:
                image = page_picture(self._document, self._workspace.engine, component)
                save_file(self._target / self._picture_name(component), encoded(image))
        except Refusal as problem:
            self._workspace.failed.emit(str(problem))
            self.stop()
            return
        self._waiting.pop(0)
        if self._waiting:
            self._frame.overview.show_share(1 - len(self._waiting) / self._total)
            self._turn.start()
        else:
            self._finish()

    def _picture_name(self, component: Component) -> str:
        at = self._total - len(self._waiting) + 1
        return f"{at:03}-{slug(component.short_name, 'component')}.png"

    def _finish(self) -> None:
        pdf, self._pdf = self._pdf, None
        self._frame.overview.show_share(1.0)
        try:
            if pdf is not None:
                save_file(self._target, pdf.finished())
        except Refusal as problem:
            self._workspace.failed.emit(str(problem))
            return
        pages = count_text(self._total, "page")
        self._frame.status.show_note(f"{pages} written to {called(self._target)}.")

    def stop(self) -> None:
        """Draws no more; a PDF is not written, pictures that were stay."""
        self._turn.stop()
        self._waiting = []
        pdf, self._pdf = self._pdf, None
        if pdf is not None:
            pdf.finished()
        self._frame.overview.show_share(1.0)

    def close_down(self) -> None:
        """The window is about to go: nothing may run on."""
        self.stop()
