"""Everything Qt.

The window shows a shop and its review, and makes edits; it computes nothing about shops itself.
"""
