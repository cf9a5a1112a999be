"""What panels show, as values."""

import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import walk
from outgrowth.core.document.variants import variants
from outgrowth.core.geometry import Rect
from outgrowth.workspace.commands import token_commands
from outgrowth.workspace.views.contrast_text import contrast_text
from outgrowth.workspace.views.layer_rows import LayerRows
from outgrowth.workspace.views.library_rows import folder_at, library_rows
from outgrowth.workspace.views.reach_text import reach_text
from outgrowth.workspace.views.search_results import candidates, ranked
from outgrowth.workspace.views.status_text import location_text, selection_text, use_text
from outgrowth.workspace.views.token_table import same_kind, token_groups, token_uses
from outgrowth.workspace.views.variant_cells import VariantCells


def test_layers_are_the_tree_folded_and_searched(workspace):
    workspace.open("boarding")
    layers = LayerRows(workspace)
    layers.rows = layers.current()
    nodes = list(walk(workspace.screen.root))
    assert [row.name for row in layers.rows] == [node.name for node in nodes]
    assert layers.current() is layers.rows, "nothing changed, so it is the same list"
    parent = next(row for row in layers.rows if row.parent and row.depth == 1)
    layers.fold(parent)
    folded = layers.current()
    assert len(folded) < len(layers.rows)
    layers.search(nodes[-1].name)
    layers.rows = layers.current()
    assert layers.first_match() is not None
    assert layers.rows[0].depth == 0, "what it lies in is kept"


def test_layers_come_back_after_nothing_was_on_the_bench(workspace):
    layers = LayerRows(workspace)
    owner = workspace.selection.owner
    names = [row.name for row in layers.current()]
    layers.rows = layers.current()
    workspace.open("")
    layers.rows = layers.current()
    assert layers.rows == []
    workspace.open(owner)
    assert [row.name for row in layers.current()] == names


def test_a_drop_goes_last_into_a_box_or_before_a_row(workspace):
    workspace.open("boarding")
    root = workspace.screen.root
    layers = LayerRows(workspace)
    layers.rows = layers.current()
    assert layers.drop_target(0, onto=0) == (root.id, len(root.children))
    first = layers.number_of((root.children[1].id,))
    assert layers.drop_target(first, onto=None) == (root.id, 1)
    assert layers.drop_target(len(layers.rows), onto=None) == (root.id, len(root.children))


@pytest.mark.parametrize("screens", [False, True])
def test_the_library_lists_every_owner_once(ferry, screens):
    owners = ferry.screens_in_order() if screens else ferry.in_order()
    rows = library_rows(ferry, screens)
    assert sorted(row.owner for row in rows if row.owner) == sorted(o.id for o in owners)
    for number, row in enumerate(rows):
        if row.owner and not screens:
            folder = folder_at(rows, number)
            whole = ferry.owner(row.owner).name
            assert whole == (f"{folder}/{row.name}" if folder else row.name)
    wanted = rows[-1].name
    assert all(wanted.lower() in r.name.lower() for r in library_rows(ferry, screens, wanted))


def grid_of(workspace):
    view = lambda v: workspace.engine.view(workspace.document, workspace.selection.owner, v)  # noqa: E731
    return VariantCells(workspace, view, lambda text: 7.0 * len(text))


def test_every_variant_has_a_cell_and_no_two_overlap(workspace):
    for component in workspace.document.in_order():
        workspace.open(component.id)
        grid = grid_of(workspace)
        grid.refresh(Rect(0.0, 0.0, 800.0, 600.0))
        while grid.pending:
            grid.measure_more(lambda: False)
        shown = [v for v in variants(component) if grid.cell_of(v) is not None]
        assert len(shown) == len(grid.cells)
        for cell in grid.cells:
            x, y = cell.rect.center
            assert grid.cell_at(x, y) is cell
            assert cell.rect.right < grid.size[0] and cell.rect.bottom < grid.size[1]


def test_cells_beside_are_those_of_the_next_column_and_row(workspace):
    workspace.open("button")
    grid = grid_of(workspace)
    grid.refresh(Rect(0.0, 0.0, 800.0, 600.0))
    columns = len(grid.columns)
    first = grid.cells[0].variant
    assert grid.cell_beside(first, 1, 0) is grid.cells[1]
    assert grid.cell_beside(first, 0, 1) is grid.cells[columns]
    assert grid.cell_beside(first, -1, 0) is None
    assert grid.cell_beside(Map(nothing="here"), 1, 0) is None
    assert 0.5 <= grid.fitting_zoom(10.0, 10.0) < 1.0
    assert grid.fitting_zoom(10_000.0, 10_000.0) == 4.0
    across, down = grid.size
    assert grid.fitting_zoom(across, down) == 1.0 == grid.fitting_zoom(10_000.0, down)


def test_what_has_room_stands_in_the_middle(workspace):
    workspace.open("button")
    grid = grid_of(workspace)
    sight = Rect(0.0, 0.0, 2000.0, 1500.0)
    grid.refresh(sight)
    first, size = grid.cells[0].rect, grid.size
    grid.center(2000.0, 1500.0)
    grid.refresh(sight)
    assert grid.size == pytest.approx(size)
    assert grid.cells[0].rect.x == first.x + (2000 - size[0]) // 2
    assert grid.cells[0].rect.y == first.y + (1500 - size[1]) // 2
    grid.center(10.0, 10.0)
    grid.refresh(sight)
    assert grid.cells[0].rect == first


def test_tokens_stand_by_kind_with_their_uses(workspace, ferry):
    listed = [path for group in token_groups(ferry) for path in group.paths]
    assert sorted(listed) == sorted(ferry.tokens)
    used = {path: token_uses(ferry, path) for path in listed}
    assert any(uses.owners for uses in used.values())
    for uses in used.values():
        assert bool(uses.values) == bool(uses.owners)
    assert "color.sea" not in same_kind(ferry, "color.sea")
    path = token_commands.add(workspace, "dimension")
    assert token_uses(workspace.document, path) == ((), 0, (), 0, False)


def test_what_is_said_of_the_selection_and_its_reach(workspace):
    workspace.open("button")
    assert location_text(workspace) == "<b>Controls / Button</b>"
    assert "×" in selection_text(workspace)
    assert use_text(workspace).endswith(" instances")
    assert "variants" in reach_text(workspace, ("fill",))
    workspace.open("boarding")
    assert selection_text(workspace) == "Nothing selected"
    assert reach_text(workspace, ()) == "" == use_text(workspace)
    workspace.select(("board",))
    assert reach_text(workspace, ()) == "<b>1</b> instance, only here"


def test_all_that_can_be_found_leads_somewhere(desk, workspace):
    workspace.open("boarding")
    visited = []
    every = candidates(workspace, desk.actions, [("gap", lambda: None)], visited.append)
    assert {"component", "screen", "token", "part here", "value of the selection"} <= {
        candidate.kind for candidate in every
    }
    first = ranked(every, "harb")[0]
    first.run()
    assert workspace.screen.name == "Harbour desk"
    next(c for c in every if c.kind == "token").run()
    assert len(visited) == 1


def test_contrast_is_said_with_what_it_is_enough_for():
    # 21 : 1 is the most there can be. Source: WCAG 2.2, definition of contrast ratio.
    white = parse("#FFFFFF")
    assert contrast_text(parse("#000000"), white).startswith("21.0 : 1")
    assert "large" in contrast_text(parse("#888888"), white)
    assert "too little" in contrast_text(parse("#CCCCCC"), white)
