"""Builds the whole demo document; `python -m demo` writes it as a file."""

from __future__ import annotations

from demo.behaviours import (
    with_booking,
    with_island_cues,
    with_opening,
    with_roles,
    with_small_cues,
    with_tabs,
    with_ways,
)
from demo.calendar import with_calendar, with_day
from demo.controls import (
    with_checkbox,
    with_chip,
    with_disabled_button,
    with_radio,
    with_text_field,
    with_toggle,
)
from demo.crossings import with_crossings
from demo.directions import with_directions
from demo.gathering import with_page
from demo.guidance import with_guidance
from demo.islands import with_islands
from demo.notices import with_help, with_notice, with_search_form
from demo.parts import with_button, with_icon_button, with_icons, with_tokens
from demo.reviewing import with_waivers
from demo.screens import with_boarding, with_desk, with_fares
from demo.settings_and_kiosk import with_jumbled, with_kiosk, with_settings
from demo.travel import (
    with_bars,
    with_best_fare,
    with_cell,
    with_fare_card,
    with_timetable,
)
from outgrowth.core.document.records import Document

STEPS = (
    with_tokens,
    with_icons,
    with_button,
    with_icon_button,
    with_disabled_button,
    with_toggle,
    with_checkbox,
    with_radio,
    with_chip,
    with_text_field,
    with_cell,
    with_timetable,
    with_fare_card,
    with_best_fare,
    with_bars,
    with_search_form,
    with_notice,
    with_boarding,
    with_desk,
    with_fares,
    with_help,
    with_islands,
    with_settings,
    with_kiosk,
    with_jumbled,
    with_roles,
    with_small_cues,
    with_opening,
    with_island_cues,
    with_tabs,
    with_booking,
    with_day,
    with_calendar,
    with_ways,
    with_crossings,
    with_directions,
    with_page,
    with_guidance,
    with_waivers,
)


def ferry_line() -> Document:
    """Holm & Skerry Ferries: made anew, the same every time."""
    document = Document("Holm & Skerry")
    for step in STEPS:
        document = step(document)
    return document
