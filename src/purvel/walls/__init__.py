"""Storage on walls: reach, shelves, screws, places for tools."""
