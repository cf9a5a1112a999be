"""Axes, their values, rules, and what an edit would reach."""
