"""Nodes, components and screens: added, moved, removed, copied, put into boxes."""
