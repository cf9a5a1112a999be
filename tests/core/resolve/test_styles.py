from outgrowth.core.resolve.make_styles import HOME, text


def test_the_resolved_styles_are_those_of_the_table():
    """Change the table, then: python -m outgrowth.core.resolve.make_styles"""
    assert HOME.read_text() == text()
