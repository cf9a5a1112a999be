"""The desktop's clipboard, read and written in all the forms that others understand."""

from __future__ import annotations

from pathlib import Path as FilePath

from PyQt6.QtCore import QBuffer, QMimeData
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication

from outgrowth.app.shot import DrawingRefusal, picture
from outgrowth.core.motion.view import View
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.clipboard import Clip

PARTS = "application/vnd.outgrowth+json"
SVG = "image/svg+xml"
# Device px a px of the copied picture.
_SCALE = 2.0


class SystemClipboard:
    """The clipboard of the desktop, for one window's workspace."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace

    def can_paste(self) -> bool:
        """Whether something there could be pasted; nothing is converted to find out."""
        data = _mime_data()
        if data is None:
            return False
        is_known = data.hasFormat(PARTS) or data.hasFormat(SVG) or data.hasImage()
        return is_known or bool(files_of(data) or data.text().strip())

    def read(self) -> Clip:
        """What is on the clipboard now."""
        data = _mime_data()
        return clip_of(data) if data is not None else Clip()

    def write(self, clip: Clip, view: View | None) -> None:
        """Puts a clip there, with a picture of `view` where one can be made."""
        data = QMimeData()
        data.setData(PARTS, clip.parts)
        if clip.drawing:
            data.setData(SVG, clip.drawing)
            data.setText(clip.text)
        if view is not None:
            try:
                assets = self._workspace.document.assets
                data.setData("image/png", png_of(picture(*view, _SCALE, assets=assets)))
            except DrawingRefusal:
                pass  # the parts themselves are copied all the same
        board = QApplication.clipboard()
        if board is not None:
            board.setMimeData(data)


def _mime_data() -> QMimeData | None:
    board = QApplication.clipboard()
    return board.mimeData() if board is not None else None


def clip_of(data: QMimeData) -> Clip:
    """What a clipboard or a drag carries. A picture is read only where nothing richer is there."""
    parts = data.data(PARTS).data() if data.hasFormat(PARTS) else b""
    drawing = data.data(SVG).data() if data.hasFormat(SVG) else b""
    files = files_of(data)
    richer = bool(parts or drawing or files)
    image = data.imageData() if data.hasImage() and not richer else None
    png = png_of(image) if isinstance(image, QImage) else b""
    return Clip(parts, drawing, png, data.text(), files)


def files_of(data: QMimeData | None) -> tuple[FilePath, ...]:
    """The files that a drag or the clipboard carries."""
    urls = data.urls() if data is not None else []
    return tuple(FilePath(url.toLocalFile()) for url in urls if url.isLocalFile())


def png_of(image: QImage) -> bytes:
    """An image as PNG."""
    buffer = QBuffer()
    buffer.open(QBuffer.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return buffer.data().data()
