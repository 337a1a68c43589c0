"""Space: the traverse of the walls, feed lanes, standing room, aisles.

Pure functions of the room and the things in it.
"""
