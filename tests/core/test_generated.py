import pytest

from tools.generated import GENERATED


@pytest.mark.parametrize("file", GENERATED, ids=lambda file: file.name)
def test_what_is_made_from_tables_is_up_to_date(file):
    """Change the table, then: python -m tools.generated"""
    assert file.read_text("utf-8") == GENERATED[file](), "run python -m tools.generated"
