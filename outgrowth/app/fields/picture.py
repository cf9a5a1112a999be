"""A picture: small, with its name and size, and a way to another one."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QImage, QPixmap
from PyQt6.QtWidgets import QWidget

from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import label, row, tool_button
from outgrowth.app.theme.icons import icon
from outgrowth.core.document.records import Asset
from outgrowth.core.document.values import Picture

_SMALL = QSize(44, 28)


class PictureField(QWidget):
    """Shows a picture of the file.

    another_asked()  another picture is wanted
    """

    another_asked = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._shown_digest = ""
        self.button = tool_button(look="firm")
        self.button.setIconSize(_SMALL)
        self.button.setFixedSize(_SMALL.width() + 8, _SMALL.height() + 6)
        self.button.setAccessibleName("Choose another picture")
        self.button.setToolTip("Choose another picture")
        self.button.clicked.connect(self.another_asked)
        self.about = label(tone="muted")
        layout = row(self, spacing=8)
        layout.addWidget(self.button)
        layout.addWidget(self.about, 1)

    def show_value(self, picture: Picture | None, asset: Asset | None) -> None:
        """The picture and its data; None for several that differ, or data that is missing."""
        if picture is None:
            self.about.setText("mixed")
        elif asset is None:
            self.about.setText("none yet" if not picture.asset else "! missing from the file")
        else:
            self.about.setText(f"{picture.width:g} × {picture.height:g}")
            self.about.setToolTip(asset.name)
        digest = picture.asset if picture is not None and asset is not None else ""
        if digest != self._shown_digest or not digest:
            self._shown_digest = digest
            thumbnail = _small(asset) if digest and asset is not None else None
            self.button.setIcon(thumbnail or icon("image", self._theme.color("muted").name()))


def _small(asset: Asset) -> QIcon | None:
    """The picture as small as a button; None for one that is damaged."""
    image = QImage.fromData(asset.data)
    if image.isNull():
        return None
    ratio = Qt.AspectRatioMode.KeepAspectRatioByExpanding
    scaled = image.scaled(_SMALL * 2, ratio, Qt.TransformationMode.SmoothTransformation)
    return QIcon(QPixmap.fromImage(scaled.copy(0, 0, _SMALL.width() * 2, _SMALL.height() * 2)))
