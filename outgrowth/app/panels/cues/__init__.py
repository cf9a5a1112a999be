"""The cue board: states and what leads from one to another, cues as sentences, and motion."""

from outgrowth.app.panels.cues.board import CueBoard

__all__ = ["CueBoard"]
