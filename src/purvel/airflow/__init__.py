"""Airflow: air, friction, fittings, sources, the duct network and what it delivers.

Pure functions in SI units.
"""
