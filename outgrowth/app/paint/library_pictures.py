"""What stands in the Library as it is drawn: the file's own, and what its libraries hold."""

from __future__ import annotations

from immutables import Map

from outgrowth.app.paint.rasters import Rasters
from outgrowth.core.document.records import Asset, Document
from outgrowth.core.document.variants import Variant
from outgrowth.core.motion.view import View
from outgrowth.core.team.library import LibraryState
from outgrowth.workspace import Workspace
from outgrowth.workspace.team import Team
from outgrowth.workspace.views.library_rows import LibraryRow


class LibraryPictures:
    """Gives the views of rows, and the rasters that they are drawn with."""

    def __init__(self, workspace: Workspace, rasters: Rasters, team: Team) -> None:
        self._workspace = workspace
        self._rasters = rasters
        self._team = team
        self._team_rasters: dict[str, tuple[LibraryState | None, Rasters]] = {}

    def document_of(self, row: LibraryRow) -> Document | None:
        """The document that a row's part is in; None where its library is not seen."""
        if not row.library:
            return self._workspace.document
        state = self._team.state(row.library)
        return state.document if state is not None else None

    def view_of(self, row: LibraryRow, variant: Variant | None = None) -> View | None:
        """A part as it is, in a variant (None for its default); None where it went."""
        document = self.document_of(row)
        if document is None or document.owner(row.owner) is None:
            return None
        engine = self._team.engine(row.library) if row.library else self._workspace.engine
        return engine.view(document, row.owner, variant)

    def rasters_of(self, row: LibraryRow) -> Rasters:
        """What knows the pictures of a part; a library has pictures that the file has not."""
        if not row.library:
            return self._rasters
        state = self._team.state(row.library)
        held = self._team_rasters.get(row.library)
        if held is None or held[0] is not state:
            assets: Map[str, Asset] = state.document.assets if state is not None else Map()
            held = self._team_rasters[row.library] = state, Rasters(lambda: assets)
        return held[1]
