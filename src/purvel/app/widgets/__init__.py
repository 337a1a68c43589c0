"""Controls that know measures, and the panels on the right."""
