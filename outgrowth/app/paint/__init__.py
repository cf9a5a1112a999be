"""Display lists on Qt: drawing, and keeping the raster of what is drawn often."""

from outgrowth.app.paint.painter import QtPainter
from outgrowth.app.paint.rasters import Rasters

__all__ = ["QtPainter", "Rasters"]
